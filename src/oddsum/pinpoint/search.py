"""The search: odd cases in, leads out, best first, within a budget of seconds."""

from __future__ import annotations

import threading
import time
from collections.abc import Callable, Sequence

import msgspec

from oddsum.check.plan import check_all
from oddsum.check.traced import Cancelled
from oddsum.model.case import Plan
from oddsum.model.lead import Lead, Pinpointing, Slip
from oddsum.model.outcome import CaseResult, Outcome
from oddsum.pinpoint.coverage import Coverage, place_of, record_coverage
from oddsum.pinpoint.edits import all_slips, slip_applied
from oddsum.pinpoint.rank import Confirmed, leads
from oddsum.pinpoint.screen import Screen, Screening
from oddsum.run.interpreter import Interpreter
from oddsum.run.scratch import Bundle, bundle
from oddsum.source.outline import own_modules
from oddsum.source.program import Source, decode_source

DEFAULT_BUDGET = 20.0  # seconds
MOST_RECORDED = 12  # cases, for what ran where
MOST_WHOLE = 8  # mends that settle everything, to be confirmed
MOST_PARTS = 3  # mends that settle something, where none settles everything

Proposal = tuple[Slip, Source, str]
OnProgress = Callable[[str, int, int], None]  # what is being done, how many of how many
OnLeads = Callable[[tuple[Lead, ...]], None]


def _quiet(*_: object) -> None:
    """Tell nobody."""


def pinpoint(
    plan: Plan,
    interpreter: Interpreter,
    results: Sequence[CaseResult] | None = None,
    *,
    budget: float = DEFAULT_BUDGET,
    stop: threading.Event | None = None,
    on_progress: OnProgress = _quiet,
    on_leads: OnLeads = _quiet,
) -> Pinpointing:
    """Look for the place at fault.

    ``results`` are those of a check of the program as it is now; without them the plan is checked
    first. ``on_leads`` is called with the best so far each time a lead is confirmed. Raises
    Cancelled once ``stop`` is set, StartError when the program cannot start.
    """
    search = _Search(plan, interpreter, stop or threading.Event(), on_progress, on_leads)
    return search.run(results, budget)


class _Search:
    def __init__(
        self,
        plan: Plan,
        interpreter: Interpreter,
        stop: threading.Event,
        on_progress: OnProgress,
        on_leads: OnLeads,
    ) -> None:
        self.plan, self.interpreter, self.stop = plan, interpreter, stop
        self.on_progress, self.on_leads = on_progress, on_leads
        self.files = bundle(plan)
        self.coverage = Coverage({})
        self.results: tuple[CaseResult, ...] = ()

    def run(self, results: Sequence[CaseResult] | None, budget: float) -> Pinpointing:
        started = time.monotonic()
        self.on_progress("checking the plan", 0, 0)
        self.results = tuple(results or check_all(self.plan, self.interpreter, stop=self.stop))
        self._go_on()
        odd = [r for r in self.results if r.outcome.odd]
        if not odd:
            return self._told((), 0, started)
        self.on_progress("recording which lines run", 0, 0)
        self.coverage = record_coverage(
            self.plan, _worth_recording(self.results), self.files, self.interpreter, self.stop
        )
        screen = Screen(self.plan, self.files, self.interpreter, self.results)
        proposals = self._proposals([r.number for r in odd])
        found, trials = screen.run(
            proposals,
            self.stop,
            started + budget,
            lambda n, total: self.on_progress("trying small edits", n, total),
        )
        self._go_on()
        confirmed = self._confirm(found, {p[0]: p[1] for p in proposals}, len(odd), started, budget)
        made = leads(confirmed, self.results, self.coverage)
        remarks = _remarks(screen.unsure)
        told = self._told(made, trials, started, trials == len(proposals), remarks)
        whole = sum(len(s.settles) == len(odd) and not s.breaks for s in found)
        return msgspec.structs.replace(told, settled_all=whole, settled_some=len(found) - whole)

    def _go_on(self) -> None:
        if self.stop.is_set():
            raise Cancelled("The search was stopped.")

    def _told(
        self,
        made: tuple[Lead, ...],
        trials: int,
        started: float,
        complete: bool = True,
        remarks: tuple[str, ...] = (),
    ) -> Pinpointing:
        return Pinpointing(
            program=self.files.program,
            seconds=round(time.monotonic() - started, 3),
            trials=trials,
            agrees=tuple(r.number for r in self.results if r.outcome is Outcome.AGREES),
            odd=tuple(r.number for r in self.results if r.outcome.odd),
            leads=made,
            complete=complete,
            remarks=remarks,
        )

    def _proposals(self, odd: Sequence[int]) -> list[Proposal]:
        """Edits of lines that some odd case runs, the likeliest first."""
        ran = self.coverage.anywhere(odd)
        found: list[Proposal] = []
        for source in self._sources():
            for slip in all_slips(source):
                if place_of(source, slip.line) in ran:
                    found.append((slip, source, slip_applied(source, slip)))
        return sorted(found, key=lambda p: (-p[0].likely, p[0].size))

    def _sources(self) -> list[Source]:
        folder = self.plan.program.resolve().parent
        names = [str(p.relative_to(folder)) for p in own_modules(self.plan.program)]
        return [decode_source(self.files.files[n], n) for n in names if n in self.files.files]

    def _confirm(
        self,
        found: Sequence[Screening],
        sources: dict[Slip, Source],
        odd: int,
        started: float,
        budget: float,
    ) -> list[Confirmed]:
        """Run each mend worth showing against the whole plan, in isolated processes."""
        worth = _worth_confirming(found, sources, odd)
        confirmed: list[Confirmed] = []
        for number, (screening, source) in enumerate(worth, 1):
            self._go_on()
            if confirmed and time.monotonic() - started > budget:
                break
            self.on_progress("confirming mends", number, len(worth))
            one = self._confirmed(screening, source)
            if one is not None:
                confirmed.append(one)
                self.on_leads(leads(confirmed, self.results, self.coverage))
        return confirmed

    def _confirmed(self, screening: Screening, source: Source) -> Confirmed | None:
        edited: Bundle = self.files.edited({source.name: source.edited(screening.text).encoded()})
        now = check_all(self.plan, self.interpreter, stop=self.stop, files=edited)
        was = {r.number: r.outcome for r in self.results}
        settles = tuple(r.number for r in now if was[r.number].odd and r.outcome is Outcome.AGREES)
        breaks = tuple(r.number for r in now if was[r.number] is Outcome.AGREES and r.outcome.odd)
        return Confirmed(screening.slip, source, settles, breaks) if settles else None


def _worth_recording(results: Sequence[CaseResult]) -> list[CaseResult]:
    """Odd cases first, those that end before those that do not; then some that agree."""
    order = sorted(results, key=lambda r: (not r.outcome.odd, r.outcome is Outcome.ENDLESS))
    return order[:MOST_RECORDED]


def _worth_confirming(
    found: Sequence[Screening], sources: dict[Slip, Source], odd: int
) -> list[tuple[Screening, Source]]:
    def order(one: Screening) -> tuple[float, ...]:
        return Confirmed(one.slip, sources[one.slip], one.settles, one.breaks).order()

    ranked = sorted(found, key=order)
    whole = [s for s in ranked if len(s.settles) == odd and not s.breaks]
    chosen = whole[:MOST_WHOLE] if whole else [s for s in ranked if not s.breaks][:MOST_PARTS]
    return [(s, sources[s.slip]) for s in chosen or ranked[:MOST_PARTS]]


def _remarks(unsure: set[int]) -> tuple[str, ...]:
    if not unsure:
        return ()
    numbers = ", ".join(map(str, sorted(unsure)))
    return (
        f"Case {numbers} came out otherwise when it ran beside others; mends were judged on the "
        "rest first, and on all cases before they are shown.",
    )
