"""The search: odd cases in, leads out, best first, within a budget of seconds."""

from __future__ import annotations

import math
import re
import threading
import time
from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from functools import partial

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
from oddsum.model.lead import Ask, Lead, Note, Pinpointing, TrialEdit, Weighed
from oddsum.model.outcome import CaseResult, Outcome
from oddsum.pinpoint import repeats, suspects
from oddsum.pinpoint.confirming import MOST_WHOLE, Confirming
from oddsum.pinpoint.coverage import Coverage
from oddsum.pinpoint.deciding import decide, fitting
from oddsum.pinpoint.evidence import Gathered, gather
from oddsum.pinpoint.expressing import Fitted, edits_for
from oddsum.pinpoint.proposal import Confirmed, Proposal, Screening
from oddsum.pinpoint.proposing import proposed, reached
from oddsum.pinpoint.rank import leads, unsure
from oddsum.pinpoint.remembered import Memory
from oddsum.pinpoint.sight import look
from oddsum.pinpoint.trial_runner import Judged, TrialRunner
from oddsum.pinpoint.two_places import Stage, TwoPlaces
from oddsum.pinpoint.value_trials import ValueTrials
from oddsum.pinpoint.values import Right, right_values
from oddsum.pinpoint.worth import Worth
from oddsum.run.scratch import Bundle, bundle
from oddsum.source.program import Source, decode_source
from oddsum.trace.ask import Story

MOST_LINES = 3_000  # of a program that is searched
DEFAULT_BUDGET = 5.0  # seconds, with what is confirmed at the end as well
_NEAR = 0.3  # how likely an expression is that is small and near what stands there
_PAIRS = 0.2  # of the budget, for the likeliest pairs before values are looked for
_TRYING = 0.5  # of the budget, that is for trials however long it took to get there
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
    memory: Memory | None = None,
) -> Pinpointing:
    """Look for the place at fault.

    ``results`` are those of a check of the program as it is now; without them the plan is checked
    first. ``on_leads`` is called with the best so far each time a lead is confirmed, ``on_stories``
    once with the recordings of some odd cases, by number. ``memory`` has what the last search of
    this program saw, and what this one sees afterwards. Raises
    Cancelled once ``stop`` is set, StartError when the program cannot start.
    """
    search = _Search(plan, interpreter, stop or threading.Event(), on_progress, on_leads)
    search.claims, search.on_stories, search.memory = claims, on_stories, memory or Memory()
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
        self.memory = Memory()
        self.notes: tuple[Note, ...] = ()
        self.weights: tuple[Weighed, ...] = ()
        self.shown: dict[tuple[TrialEdit, ...], Confirmed] = {}  # what was told of so far
        self.showing = threading.Lock()
        self.ask: Ask | None = None

    def run(self, results: Sequence[CaseResult] | None, budget: float) -> Pinpointing:
        """Go through the stages: check, record, try, confirm, rank."""
        # What is found last is confirmed and ranked within the budget, too.
        self.budget = budget
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
        self.worth = Worth(self.language, len(self.odd))
        self.agreeing = tuple(r.number for r in self.results if r.outcome is Outcome.AGREES)
        if not self.odd:
            return self._told(())
        self.on_progress("recording which lines run", 0, 0)
        sources = {s.name: s for s in _sources(self.plan, self.files)}
        self.recall = self.memory.begin(self.plan, self.interpreter, self.files, sources)
        with (
            TrialRunner(self.plan, self.files, self.interpreter, self.results, sources) as screen,
            Checks(self.plan, self.interpreter, self.stop, self.results) as checks,
        ):
            screen.warm()  # while the cases are recorded
            self.confirming = Confirming(checks, self.files, sources, self.results)
            scenes, stories, gathered = self._gathered(sources)
            # On a busy machine recording may have taken most of it: something has to be tried.
            self.deadline = max(self.deadline, time.monotonic() + _TRYING * budget)
            self.half = max(self.half, time.monotonic() + _TRYING * budget / 2)
            confirmed, gathered = self._searched(screen, scenes, gathered)
            known = {c.proposal.edits for c in confirmed}
            confirmed += [  # a lead that was shown stays
                c for c in self.shown.values() if c.whole and c.proposal.edits not in known
            ]
            made = leads(confirmed, gathered, self.found, alone=self.worth.are_enough(confirmed))
            made = self._decided(made, confirmed, sources)
            remarks = (*_refused(screen.refused), *_remarks(screen.unsure - set(screen.refused)))
        self.weights = suspects.weights(gathered)
        unsteady = repeats.unsteady(stories, self.results)
        if not unsteady:
            self.recall.keep()
        else:
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
        seen = sight.types, _wanted(self.results), sight.numbers
        scenes = [self.language.edits.scene(s, *seen) for s in sources.values()]
        self.notes = tuple(self.language.edits.notes(scenes))
        gathered = gather(
            sources, self.results, sight.coverage, self.notes, sight.stories, self.claims
        )
        return scenes, sight.stories, gathered

    def _searched(
        self, screen: TrialRunner, scenes: list[Scene], gathered: Gathered
    ) -> tuple[list[Confirmed], Gathered]:
        """Edits in one place, the likeliest in two, then values that would be right, then edits of
        other cases and in two places: as far as nothing settles everything.
        """
        screen.begin_with_least(gathered.coverage)
        every = self._proposals(scenes, gathered.coverage)
        gathered = gathered.with_ways(e for p in every for e in p.edits)
        passes = self._single(screen, every, gathered)
        confirmed = next(passes)
        places = TwoPlaces(screen, scenes, self.language, every, gathered.coverage, self._has_time)
        plain, tells = self.worth.have_a_plain(confirmed), self.language.running.probe().values
        if not self.worth.have_a_known(confirmed):
            likely, until = places.likely(self.found), time.monotonic() + _PAIRS * self.budget
            confirmed += self._double(screen, likely, gathered, places.left_out, until)
        if tells and not plain:  # one expression may do what two changes do as well
            trials = screen.value_trials()
            rights = self._values(trials, gathered.sources)
            gathered = gathered.with_rights(rights)
            fitted = edits_for(trials, rights, scenes, self.language, self._has_time)
            confirmed = self._expressed(screen, fitted, gathered) or confirmed
        if not any(c.whole for c in confirmed):
            confirmed += self._double(screen, places.worked_out(self.found), gathered)
        if not self.worth.have_a_known(confirmed):
            confirmed += self._double(screen, places.rest(), gathered, places.slow)
        for more in passes if not any(c.whole for c in confirmed) else ():
            confirmed = more
        if not any(c.whole for c in confirmed):
            confirmed += self._double(screen, places.stages(self.found), gathered)
        if not self.worth.are_enough(confirmed):  # only now: a full check takes its time
            confirmed += self._confirm(self.worth.parts(self.found, gathered), gathered)
        return confirmed, gathered

    def _go_on(self) -> None:
        if self.stop.is_set():
            raise Cancelled("The search was stopped.")

    # -- trials --------------------------------------------------------------------------------

    def _single(
        self, screen: TrialRunner, every: list[Proposal], gathered: Gathered
    ) -> Iterator[list[Confirmed]]:
        """Edits in one place, of lines that an odd case runs; then of those of one that none of
        them settled, for it may have a fault of its own. Gives what stands after each pass.
        """

        def early(one: Screening) -> bool:
            self.confirming.ahead(one, lambda c: self._show([c], gathered))
            return False

        proposals, confirmed, settled = every, list[Confirmed](), set[int]()
        for number in range(MOST_PASSES):
            case = next((c for c in screen.odd if c.number not in settled), None)
            if case is None or time.monotonic() > self.deadline:
                break
            some = reached(proposals, case, gathered.sources, gathered.coverage)
            for found, tried, of in self._on(case, screen, some, gathered, early):
                if not number:
                    self._count(tried, of)
                self.found += found
                confirmed = self._confirm(self.worth.wholes(self.found, gathered), gathered)
                if any(c.whole for c in confirmed):
                    break
            yield confirmed
            if any(c.whole for c in confirmed) or len(self.odd) == 1:
                return
            settled |= {case.number, *(n for s in self.found if not s.breaks for n in s.settles)}
            done = {s.proposal.edits for s in self.found}
            proposals = [p for p in proposals if p.edits not in done]
        yield confirmed

    def _on(
        self,
        case: Case,
        screen: TrialRunner,
        proposals: Sequence[Proposal],
        gathered: Gathered,
        early: Callable[[Screening], bool],
    ) -> Iterator[tuple[list[Screening], int, int]]:
        """Try edits on an odd case: what is found, and how many were tried of how many; in up to
        two parts.

        What did nothing for the same run before is not tried again; where that is not sure, it is
        the second part.
        """
        result = screen.was[case.number]
        idle, sure = self.recall.idle(case, result, gathered.coverage, proposals)
        parts = [[p for p in proposals if p not in idle], [p for p in proposals if p in idle]]
        known = parts.pop() if sure or not idle else []
        before, some = len(known), set[Proposal]()
        for part in parts:
            found, tried = screen.run(
                part,
                self.stop,
                self.deadline,
                self._telling("trying small edits"),
                early,
                ahead=partial(_these, [case]),
            )
            some |= {s.proposal for s in found}
            if tried == len(part):
                known += part
            self.recall.note(case, result, gathered.coverage, known, some)
            yield found, before + tried, before + len(part)
            before = 0

    def _values(self, trials: ValueTrials[Judged], sources: dict[str, Source]) -> list[Right]:
        """Which values would have been right."""
        self.on_progress("looking for values that would be right", self.told, self.told)
        return right_values(trials, sources, self._has_time)

    def _has_time(self) -> bool:
        return not self.stop.is_set() and time.monotonic() < self.deadline

    def _expressed(
        self,
        screen: TrialRunner,
        fitted: Iterable[Sequence[Fitted]],
        gathered: Gathered,
    ) -> list[Confirmed]:
        """Expressions that give the values that would be right, tried like any other edit: first on
        the case in which they would be. Where one that is small and near settles everything, no
        further places are looked at."""
        known = {s.proposal.edits[0] for s in self.found}
        cases = {c.number: c for c in screen.odd}
        confirmed: list[Confirmed] = []
        for some in fitted:
            ahead = {one.edit: (cases[one.case],) for one in some if one.edit not in known}
            proposals = [Proposal((edit,)) for edit in ahead]
            self._go_on()
            if not proposals:
                continue
            found, tried = screen.run(
                proposals, self.stop, self.deadline, self._telling("trying expressions"),
                ahead=partial(_its_own, ahead),
            )  # fmt: skip
            self._count(tried, len(proposals))
            self.found += found
            confirmed = self._confirm(self.worth.wholes(self.found, gathered), gathered)
            if any(c.whole and c.proposal.likely >= _NEAR for c in confirmed):
                break
        return confirmed

    def _double(
        self,
        screen: TrialRunner,
        stages: Iterable[Stage],
        gathered: Gathered,
        left_out: list[Proposal] | None = None,
        until: float = math.inf,
    ) -> list[Confirmed]:
        """Edits in two places, stage by stage, no longer than ``until``; ``left_out``, where it is
        given, takes those that take long to try or had no time."""
        whole: list[Screening] = []

        def enough(one: Screening) -> bool:
            if one.whole(len(self.odd)):
                whole.append(one)
                self.confirming.ahead(one, lambda c: self._show([c], gathered))
            return len(whole) >= MOST_WHOLE

        for stage, ahead in stages:
            if whole or not self._has_time():
                break
            proposals = list(stage)
            if not proposals:
                continue
            before = len(left_out or ())
            _, tried = screen.run(
                proposals,
                self.stop,
                min(until, self.deadline),
                self._telling("trying edits in two places"),
                enough,
                ahead=ahead,
                left_out=left_out,
            )
            self._count(tried, tried if whole else len(proposals) - len(left_out or ()) + before)
        self.found += whole
        return self._confirm(self.worth.wholes(whole, gathered), gathered)

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
        found: list[Proposal] = []
        for one in proposed(self.language, scenes, coverage.anywhere(self.odd)):
            self._go_on()
            if time.monotonic() > self.half:  # of a very long program: the rest is for trials
                self.complete = False
                break
            if one is not None:
                found.append(one)
        return sorted(found, key=lambda p: (-p.likely, p.size))

    # -- what stands ---------------------------------------------------------------------------

    def _confirm(self, worth: Sequence[Screening], gathered: Gathered) -> list[Confirmed]:
        """Run each mend worth showing against the whole plan, in isolated processes."""

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

    def _told(self, made: tuple[Lead, ...], remarks: tuple[str, ...] = ()) -> Pinpointing:
        self._go_on()  # what a search had not got to may have said otherwise
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
        return _counted(told, self.found)


def _sources(plan: Plan, files: Bundle) -> list[Source]:
    """The program's own files, of those that were gathered."""
    folder = plan.program.resolve().parent
    own = language_for(plan).reading.own_files(plan.program)
    names = [str(p.relative_to(folder)) for p in own]
    return [decode_source(files.files[n], n) for n in names if n in files.files]


def _wanted(results: Iterable[CaseResult]) -> frozenset[str]:
    """Numbers that stand in what the odd cases expect."""
    texts = [r.expected or "" for r in results if r.outcome.odd]
    return frozenset(re.findall(r"-?\d+(?:\.\d+)?", " ".join(texts)[:2000]))


def _counted(told: Pinpointing, found: Iterable[Screening]) -> Pinpointing:
    """The same, with how many mends settle all or some."""
    settling = [s for s in found if s.settles]
    whole = sum(s.whole(len(told.odd)) for s in settling)
    # A lead may have been confirmed that its first trial, beside others, had judged otherwise.
    shown = [m for lead in told.leads if (m := lead.mend) is not None]
    confirmed = len({m.edits for m in shown if len(m.settles) == len(told.odd) and not m.breaks})
    whole = max(whole, confirmed)
    some = max(0, max(len(settling), len({m.edits for m in shown})) - whole)
    return msgspec.structs.replace(told, settled_all=whole, settled_some=some)


def _these(cases: Sequence[Case], _proposal: Proposal) -> Sequence[Case]:
    """The same cases first for every proposal."""
    return cases


def _its_own(cases: Mapping[TrialEdit, Sequence[Case]], proposal: Proposal) -> Sequence[Case]:
    """The cases that an edit was made for."""
    return cases[proposal.edits[0]]


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
