"""The search: odd cases in, leads out, best first, within a budget of seconds."""

from __future__ import annotations

import re
import threading
import time
from collections.abc import Callable, Iterator, Sequence
from functools import lru_cache, partial

import msgspec

from oddsum.check.many import Checks
from oddsum.check.plan import check_all
from oddsum.check.traced import Cancelled
from oddsum.languages import language_for
from oddsum.languages.language import Interpreter
from oddsum.languages.scene import Scene
from oddsum.model.case import Allow, Case, Plan, allowing
from oddsum.model.claim import Claim
from oddsum.model.errors import RunError
from oddsum.model.lead import Ask, Lead, Mend, Note, Pinpointing, TrialEdit, Weighed
from oddsum.model.outcome import CaseResult, Outcome
from oddsum.pinpoint import repeats, suspects
from oddsum.pinpoint.confirming import MOST_PARTS, MOST_WHOLE, Confirming
from oddsum.pinpoint.coverage import Coverage, Place, place_of
from oddsum.pinpoint.deciding import decide, fitting
from oddsum.pinpoint.evidence import Gathered, gather
from oddsum.pinpoint.expressing import edits_for
from oddsum.pinpoint.proposal import Confirmed, Proposal, Screening
from oddsum.pinpoint.rank import leads, order, unsure
from oddsum.pinpoint.sight import look
from oddsum.pinpoint.trial_runner import TrialRunner
from oddsum.pinpoint.two_places import TwoPlaces
from oddsum.pinpoint.values import Right, right_values
from oddsum.run.scratch import bundle
from oddsum.source.program import Source, decode_source
from oddsum.trace.ask import Story

MOST_LINES = 3_000  # of a program that is searched
DEFAULT_BUDGET = 5.0  # seconds, with what is confirmed at the end as well
MOST_PASSES = 3  # over all edits, each for an odd case that none settled before

OnProgress = Callable[[str, int, int], None]  # what is being done, how many of how many
OnLeads = Callable[[tuple[Lead, ...]], None]
OnStories = Callable[[dict[int, tuple[Case, Story]]], None]


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
    claims: tuple[Claim, ...] = (),
    on_stories: OnStories = _quiet,
) -> Pinpointing:
    """Look for the place at fault.

    ``results`` are those of a check of the program as it is now; without them the plan is checked
    first. ``on_leads`` is called with the best so far each time a lead is confirmed, ``on_stories``
    once with the recordings of some odd cases, by number. Raises
    Cancelled once ``stop`` is set, StartError when the program cannot start.
    """
    search = _Search(plan, interpreter, stop or threading.Event(), on_progress, on_leads)
    search.claims, search.on_stories = claims, on_stories
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
        self.told = 0  # trials that were told last
        self.started = time.monotonic()
        self.files = bundle(plan)
        self.language = language_for(plan)
        self.results: tuple[CaseResult, ...] = ()
        self.trials, self.complete = 0, True
        self.found: list[Screening] = []
        self.claims: tuple[Claim, ...] = ()
        self.on_stories: OnStories = _quiet
        self.notes: tuple[Note, ...] = ()
        self.weights: tuple[Weighed, ...] = ()
        self.shown: dict[tuple[TrialEdit, ...], Confirmed] = {}  # what was told of so far
        self.showing = threading.Lock()
        self.ask: Ask | None = None

    def run(self, results: Sequence[CaseResult] | None, budget: float) -> Pinpointing:
        """Go through the stages: check, record, try, confirm, rank."""
        # What is found last is confirmed and ranked within the budget, too.
        self.deadline = self.started + max(budget - 0.8, budget * 0.8)
        self.half = self.started + budget / 2
        if self.files.lines > MOST_LINES:
            raise RunError(
                f"Pinpoint looks through programs of up to {MOST_LINES:,} lines; this one has "
                f"{self.files.lines:,}.",
                hint="Trace follows a case of it, where it has no more than 30,000.",
            )
        self.on_progress("checking the plan", 0, 0)
        self.results = tuple(results or check_all(self.plan, self.interpreter, stop=self.stop))
        self._go_on()
        self.odd = tuple(r.number for r in self.results if r.outcome.odd)
        self.agreeing = tuple(r.number for r in self.results if r.outcome is Outcome.AGREES)
        if not self.odd:
            return self._told(())
        self.on_progress("recording which lines run", 0, 0)
        sources = {s.name: s for s in self._sources()}
        with (
            TrialRunner(self.plan, self.files, self.interpreter, self.results, sources) as screen,
            Checks(self.plan, self.interpreter, self.stop) as checks,
        ):
            screen.warm()  # while the cases are recorded
            self.confirming = Confirming(checks, self.files, sources, self.results)
            scenes, stories, gathered = self._gathered(sources)
            confirmed, gathered = self._searched(screen, scenes, gathered)
            known = {c.proposal.edits for c in confirmed}
            confirmed += [  # a lead that was shown stays
                c for c in self.shown.values() if c.whole and c.proposal.edits not in known
            ]
            made = leads(confirmed, gathered, self.found)
            made = self._decided(made, confirmed, sources)
            remarks = (*_refused(screen.refused), *_remarks(screen.unsure - set(screen.refused)))
        self.weights = suspects.weights(gathered)
        unsteady = repeats.unsteady(stories, self.results)
        if unsteady:
            remarks = (repeats.unsteady_remark(unsteady, gathered.sources.values()),)
        return self._told(made, remarks)

    def _decided(
        self, made: tuple[Lead, ...], confirmed: Sequence[Confirmed], sources: dict[str, Source]
    ) -> tuple[Lead, ...]:
        """Where several mends settle everything: an input on which they differ, and the leads, of
        which none is sure then."""
        mends = fitting(made, confirmed, sources)
        if len(mends) > 1 and not self.stop.is_set():
            self.on_progress("looking for an input that decides", self.told, self.told)
            self.ask = decide(self.plan, self.files, self.interpreter, sources, mends, self.stop)
        return made if self.ask is None else unsure(made)

    def _gathered(
        self, sources: dict[str, Source]
    ) -> tuple[list[Scene], dict[int, tuple[Case, Story]], Gathered]:
        """Record some cases; what edits may know, and what speaks for lines besides trials."""
        sight = look(self.plan, self.results, self.files, self.interpreter, self.stop)
        self.on_stories(sight.stories)
        wanted = self._wanted()
        scenes = [self.language.edits.scene(s, sight.types, wanted) for s in sources.values()]
        self.notes = tuple(self.language.edits.notes(scenes))
        gathered = gather(
            sources, self.results, sight.coverage, self.notes, sight.stories, self.claims
        )
        return scenes, sight.stories, gathered

    def _searched(
        self, screen: TrialRunner, scenes: list[Scene], gathered: Gathered
    ) -> tuple[list[Confirmed], Gathered]:
        """Edits in one place, then values that would be right, then edits in two places: as far as
        nothing settles everything."""
        every = self._proposals(scenes, gathered.coverage)
        passes = self._single(screen, every, gathered)
        confirmed = next(passes)
        if self.language.running.probe().values and not self._is_plain(confirmed):
            rights = self._values(screen, gathered.sources)
            gathered = gathered.with_rights(rights)
            confirmed = self._expressed(screen, rights, scenes, gathered) or confirmed
        for more in passes if not any(c.whole for c in confirmed) else ():
            confirmed = more
        if not any(c.whole for c in confirmed):
            confirmed += self._double(screen, every, scenes, gathered)
        return confirmed, gathered

    def _go_on(self) -> None:
        if self.stop.is_set():
            raise Cancelled("The search was stopped.")

    # -- trials --------------------------------------------------------------------------------

    def _single(
        self, screen: TrialRunner, every: list[Proposal], gathered: Gathered
    ) -> Iterator[list[Confirmed]]:
        """Edits in one place: on one odd case first; then on one that none of them settled, for it
        may have a fault of its own. Gives what stands after each pass.
        """

        def early(one: Screening) -> bool:
            self.confirming.ahead(one, lambda c: self._show([c], gathered))
            return False

        proposals, confirmed, settled = every, list[Confirmed](), set[int]()
        for number in range(MOST_PASSES):
            case = next((c for c in screen.odd if c.number not in settled), None)
            if case is None or time.monotonic() > self.deadline:
                break
            found, tried = screen.run(
                proposals,
                self.stop,
                self.deadline,
                self._telling("trying small edits"),
                early,
                ahead=partial(_these, [case]),
            )
            if not number:
                self._count(tried, len(proposals))
            self.found += found
            confirmed = self._confirm(self.found, gathered)
            yield confirmed
            if any(c.whole for c in confirmed) or len(self.odd) == 1:
                return
            settled |= {case.number, *(n for s in self.found if not s.breaks for n in s.settles)}
            done = {s.proposal.edits for s in found}
            proposals = [p for p in proposals if p.edits not in done]
        yield confirmed

    def _is_plain(self, confirmed: Sequence[Confirmed]) -> bool:
        """Whether a mend that settles everything changes what is there: none has to be made up."""
        return any(
            c.whole and not self.language.edits.invents(c.proposal.edits[0].kind) for c in confirmed
        )

    def _values(self, screen: TrialRunner, sources: dict[str, Source]) -> list[Right]:
        """Which values would have been right."""
        self.on_progress("looking for values that would be right", self.told, self.told)
        return right_values(screen, sources, self._has_time)

    def _has_time(self) -> bool:
        return not self.stop.is_set() and time.monotonic() < self.deadline

    def _expressed(
        self,
        screen: TrialRunner,
        rights: Sequence[Right],
        scenes: list[Scene],
        gathered: Gathered,
    ) -> list[Confirmed]:
        """Expressions that give these values, tried like any other edit."""
        known = {s.proposal.edits[0] for s in self.found}
        proposals = [
            Proposal((e,))
            for e in edits_for(screen, rights, scenes, self.language, self._has_time)
            if e not in known
        ]
        self._go_on()
        if not proposals:
            return []
        found, tried = screen.run(
            proposals, self.stop, self.deadline, self._telling("trying expressions"),
            ahead=partial(_these, screen.odd[:1]),
        )  # fmt: skip
        self._count(tried, len(proposals))
        self.found += found
        return self._confirm(self.found, gathered) if any(s.settles for s in found) else []

    def _double(
        self,
        screen: TrialRunner,
        every: list[Proposal],
        scenes: list[Scene],
        gathered: Gathered,
    ) -> list[Confirmed]:
        """Edits in two places, from the best half mends on."""
        whole: list[Screening] = []

        def enough(one: Screening) -> bool:
            if one.whole(len(self.odd)):
                whole.append(one)
            return len(whole) >= MOST_WHOLE

        places = TwoPlaces(screen, scenes, self.language, every, self._has_time)
        for stage, ahead in places.stages(self.found):
            if whole or not self._has_time():
                break
            proposals = list(stage)
            if not proposals:
                continue
            _, tried = screen.run(
                proposals,
                self.stop,
                self.deadline,
                self._telling("trying edits in two places"),
                enough,
                ahead=ahead,
            )
            self._count(tried, tried if whole else len(proposals))
        self.found += whole
        return self._confirm(whole, gathered) if whole else []

    def _telling(self, what: str) -> Callable[[int, int], None]:
        """Tells how far it is: trials, counted from the beginning of the search on."""
        before = self.trials
        self.told = before

        def tell(number: int, total: int) -> None:
            self.told = before + number
            self.on_progress(what, self.told, before + total)

        return tell

    def _count(self, tried: int, of: int) -> None:
        self._go_on()
        self.trials += tried
        self.complete = self.complete and tried == of

    def _proposals(self, scenes: list[Scene], coverage: Coverage) -> list[Proposal]:
        """Edits of lines that some odd case runs, the likeliest first."""
        ran = self._ran(coverage)
        found: list[Proposal] = []
        for scene in scenes:
            runs = lru_cache(maxsize=None)(partial(_runs, scene.source, ran))
            for edit, _ in self.language.edits.edits(scene):
                self._go_on()
                if time.monotonic() > self.half:  # of a very long program: the rest is for trials
                    self.complete = False
                    break
                if runs(edit.runs_at or edit.line):
                    found.append(Proposal((edit,)))
        return sorted(found, key=lambda p: (-p.likely, p.size))

    def _ran(self, coverage: Coverage) -> frozenset[tuple[str, int]]:
        return coverage.anywhere(self.odd)

    def _sources(self) -> list[Source]:
        folder = self.plan.program.resolve().parent
        names = [
            str(p.relative_to(folder)) for p in self.language.reading.own_files(self.plan.program)
        ]
        return [decode_source(self.files.files[n], n) for n in names if n in self.files.files]

    def _wanted(self) -> frozenset[str]:
        """Numbers that stand in what the odd cases expect."""
        texts = [r.expected or "" for r in self.results if r.outcome.odd]
        return frozenset(re.findall(r"-?\d+(?:\.\d+)?", " ".join(texts)[:2000]))

    # -- what stands ---------------------------------------------------------------------------

    def _confirm(self, found: Sequence[Screening], gathered: Gathered) -> list[Confirmed]:
        """Run each mend worth showing against the whole plan, in isolated processes."""
        worth = self._worth_confirming(found, gathered)

        def each(number: int, confirmed: Sequence[Confirmed]) -> None:
            what = f"confirming mend {number} of {len(worth)}"
            self.on_progress(what, self.told, self.told)
            if confirmed:
                self._show(confirmed, gathered)

        return self.confirming.confirm(worth, each)

    def _show(self, confirmed: Sequence[Confirmed], gathered: Gathered) -> None:
        """Tell the leads so far: those shown before among them, each at its rank."""
        with self.showing:
            for one in confirmed:
                self.shown[one.proposal.edits] = one
            self.on_leads(leads(list(self.shown.values()), gathered))

    def _worth_confirming(self, found: Sequence[Screening], gathered: Gathered) -> list[Screening]:
        ranked = sorted(
            (s for s in found if s.settles),
            key=lambda s: order(Confirmed(s.proposal, s.settles, s.breaks, False), gathered),
        )
        whole = [s for s in ranked if s.whole(len(self.odd))]
        ranked = [  # what was made to fit has to fit everything
            s
            for s in ranked
            if len(s.settles) > len(s.breaks)
            and self.language.edits.invents(s.proposal.edits[0].kind) != "a value"
        ]
        if whole:
            return _spread(whole)[:MOST_WHOLE]
        return [s for s in ranked if not s.breaks][:MOST_PARTS] or ranked[:MOST_PARTS]

    def _told(self, made: tuple[Lead, ...], remarks: tuple[str, ...] = ()) -> Pinpointing:
        told = Pinpointing(
            program=self.files.program,
            seconds=round(time.monotonic() - self.started, 3),
            trials=self.trials,
            agrees=tuple(r.number for r in self.results if r.outcome is Outcome.AGREES),
            odd=tuple(r.number for r in self.results if r.outcome.odd),
            leads=made,
            complete=self.complete,
            notes=self.notes,
            weights=self.weights,
            remarks=remarks,
            ask=self.ask,
        )
        settling = [s for s in self.found if s.settles]
        whole = sum(s.whole(len(told.odd)) for s in settling)
        # A lead may have been confirmed that its first trial, beside others, had judged otherwise.
        shown = [m for lead in made if (m := lead.mend) is not None]
        confirmed = len({m.edits for m in shown if self._is_whole(m, told)})
        whole = max(whole, confirmed)
        some = max(0, max(len(settling), len({m.edits for m in shown})) - whole)
        return msgspec.structs.replace(told, settled_all=whole, settled_some=some)

    @staticmethod
    def _is_whole(mend: Mend, told: Pinpointing) -> bool:
        return len(mend.settles) == len(told.odd) and not mend.breaks


def _these(cases: Sequence[Case], _proposal: Proposal) -> Sequence[Case]:
    """The same cases first for every proposal."""
    return cases


def _runs(source: Source, ran: frozenset[Place], line: int) -> bool:
    """Whether the statement on a line is among what ran."""
    return place_of(source, line) in ran


def _spread(ranked: list[Screening]) -> list[Screening]:
    """The best of each line first, so that no line takes all the places; then the others."""
    seen: set[tuple[tuple[str, int], ...]] = set()
    first: list[Screening] = []
    rest: list[Screening] = []
    for one in ranked:
        places = tuple((s.file, s.line) for s in one.proposal.edits)
        (rest if places in seen else first).append(one)
        seen.add(places)
    return first + rest


def _refused(refused: dict[int, tuple[Allow, ...]]) -> tuple[str, ...]:
    """What the fence kept the program from in its trials, and how it can be let."""
    wanted = sorted({kind for kinds in refused.values() for kind in kinds})
    if not wanted:
        return ()
    which = "case" if len(refused) == 1 else "cases"
    asked = ", ".join(f'"{w}"' for w in wanted)
    return (
        f"In {which} {', '.join(map(str, sorted(refused)))} the program wants to "
        f"{allowing(wanted).replace('their', 'its')}. Trials run behind a fence and were refused "
        "that, so what they show of it may be wrong. If you trust the program, write "
        f"allow = [{asked}] at the top of the plan.",
    )


def _remarks(unsure: set[int]) -> tuple[str, ...]:
    if not unsure:
        return ()
    numbers = ", ".join(map(str, sorted(unsure)))
    return (
        f"Case {numbers} came out otherwise when it ran beside others; mends were judged on the "
        "rest first, and on all cases before they are shown.",
    )
