"""Trace: one case as it was recorded, and the step in it that is in hand."""

from __future__ import annotations

from dataclasses import dataclass, field, replace
from functools import partial
from typing import Literal

import msgspec

from oddsum.check.traced import trace_case
from oddsum.compare.readings import reading, reading_used
from oddsum.languages import cannot, language_of
from oddsum.languages.language import Interpreter
from oddsum.model.case import Case, Plan, Prompts
from oddsum.model.claim import Broken, Claim
from oddsum.model.errors import OddSumError
from oddsum.model.history import Version
from oddsum.model.outcome import CaseResult, Run
from oddsum.source.program import Source
from oddsum.trace.ask import Story
from oddsum.trace.claims import claims_for, first_broken
from oddsum.trace.diff import same_steps
from oddsum.workspace.checking import Checking
from oddsum.workspace.interface import Interface, Part
from oddsum.workspace.jobs import Job, Jobs, under_way
from oddsum.workspace.odd_moments import OddMoment, departing_step, odd_moments

Place = tuple[str, int]  # a file as steps name it, and a line from 1
Opens = Literal["work", "odd", "first"]  # where a recording is opened
_FAR = 2_000  # steps that are looked through for the first that does something


@dataclass(frozen=True)
class Veil:
    """While one guesses: the last step that may be seen, and the one that is asked about."""

    seen: int
    asked: int


@dataclass
class Traced:
    """One case as recorded, and where in it the user is (step from 1)."""

    case: Case
    story: Story
    result: CaseResult
    departs: int | None
    step: int = 1
    stale: bool = False
    column: str = ""  # the variable in hand; blank for none
    broken: Broken | None = None  # the first claim that does not hold in this case
    source: Source | None = None  # the program as it was recorded
    version: Version | None = None  # all of its files as they were then
    watches: tuple[str, ...] = ()
    veil: Veil | None = None
    opening: int = 1  # the step at which it was opened
    _moments: tuple[Broken | None, tuple[OddMoment, ...]] | None = None  # worked out for a claim

    def odd_moments(self) -> tuple[OddMoment, ...]:
        """Where it is not as it should be, in the order of time."""
        if self._moments is None or self._moments[0] is not self.broken:
            told = self.case, self.result, self.departs, self.broken
            self._moments = self.broken, odd_moments(self.story, *told)
        return self._moments[1]

    def printed_so_far(self) -> str:
        """What was printed up to the step in hand, read as the case's comparison read it.

        Where no text is expected: as on a terminal, with the answers.
        """
        output, run = self.story.output_until(self.step), self.result.run
        asked = tuple(a for a in run.asked if a[1] <= len(output))
        how: Prompts = "terminal"
        if self.case.stdout is not None:
            how = reading_used(run, self.result.actual)
        return reading(msgspec.structs.replace(run, output=output, asked=asked), how)

    def ran_as(self, other: Traced) -> bool:
        """Whether the other recording was made of the same program, fed the same.

        Only then do other steps mean that the program does not do the same each time. What is
        *expected* is no part of it: that decides nothing while the program runs.
        """
        return (
            not other.stale
            and (self.source, self.version) == (other.source, other.version)
            and self.watches == other.watches
            and _fed(self.case) == _fed(other.case)
        )


def _fed(case: Case) -> tuple[object, ...]:
    """All of a case that reaches the program."""
    settings = case.settings
    limits = (settings.timeout, settings.memory, settings.output)
    told = settings.seed, settings.today
    return case.stdin, case.args, case.files, case.call, case.before, told, limits


@dataclass
class View:
    """How the trace table is shown; it stays while the program does."""

    hidden: set[str] = field(default_factory=set)
    order: list[str] = field(default_factory=list)  # columns moved to the front, pinned there
    only: str | None = None  # one function's rows
    fill_down: bool = False


@dataclass(frozen=True)
class Wish:
    """Where a recording is wanted to be looked at: a step, the first visit of a line, the end."""

    step: int | None = None
    place: Place | None = None
    at_the_end: bool = False

    def step_in(self, story: Story) -> int | None:
        """The step to go to; None where nothing is said, or nothing of it ran."""
        found = self.step
        if found is None and self.place is not None:
            found = story.next_at({self.place}, 0)
        if found is None and self.at_the_end:
            found = story.where_raised or story.last or 1
        return story.nearest(found) if found else None


class Tracing:
    """Records cases, one at a time, and keeps the recording before for comparing."""

    def __init__(self, checking: Checking, jobs: Jobs, interface: Interface) -> None:
        self._checking, self._jobs, self._interface = checking, jobs, interface
        self.traced: Traced | None = None
        self.earlier: Traced | None = None  # of another case, or of this one before a save
        self.view = View()
        self.watches: tuple[str, ...] = ()
        self.claims: tuple[Claim, ...] = ()  # as they are held; ``claims.py`` changes them
        self.opens: Opens = "work"
        self.recorded = 0  # steps of the recording under way
        self._job: Job | None = None
        self._outdated = False  # whether the program changed while it was recorded

    @property
    def busy(self) -> bool:
        """Whether a case is being recorded."""
        return under_way(self._job)

    @property
    def walked(self) -> Traced | None:
        """The recording, where there is a step in it to stand on."""
        traced = self.traced
        return traced if traced is not None and len(traced.story) else None

    def refusal(self) -> str:
        """Why no case can be recorded now; blank where one can."""
        plan = self._checking.plan
        if plan is None or self._checking.fault or self._checking.interpreter is None:
            return "The program cannot be run as it is."
        return cannot(plan, "trace")

    def open(self, case: Case, wish: Wish = Wish()) -> None:
        """Go to a case, recorded anew where something of it may have changed."""
        refusal = self.refusal()
        if refusal:
            self._interface.say(refusal)
            return
        traced = self.traced
        if traced is not None and not traced.stale and traced.case == case and wish != Wish():
            traced.step = wish.step_in(traced.story) or traced.step
            self._interface.changed(Part.TRACE)
        else:
            self._record(case, wish)
        self._interface.go("trace")

    def open_shortest_odd(self) -> bool:
        """Go to the shortest odd case, else to the one in hand; says whether there was one."""
        checking = self._checking
        result = checking.shortest_odd()
        case = checking.case_numbered(result.number) if result else checking.case_in_hand()
        if case is None or not checking.complete() or checking.fault is not None:
            return False
        self.open(case)
        return True

    def record_again(self) -> None:
        """Record the case in hand once more: with other watches, or after a save."""
        if self.traced is not None:
            self.open(self.traced.case)

    def watch(self, expression: str) -> None:
        """Make an expression a column of the table, or no longer; the case is recorded again."""
        text, now = expression.strip(), self.watches
        self.watches = tuple(w for w in now if w != text) if text in now else (*now, text)
        self.record_again()

    def _record(self, case: Case, wish: Wish) -> None:
        checking = self._checking
        plan, interpreter = checking.plan, checking.interpreter
        assert plan is not None and interpreter is not None
        known = checking.results.get(case.number)
        plain = known.run if known is not None and not known.stale else None
        if self.traced is not None:
            self.earlier = self.traced
        self.recorded, self.traced, self._outdated = 0, None, False
        work = partial(self._work, plan, case, interpreter, plain, self.watches, self.claims)
        source, version = checking.files.source, checking.version  # a save may come meanwhile
        self._job = self._jobs.start(
            "trace",
            work,
            done=lambda traced: self._take(replace(traced, source=source, version=version), wish),
            failed=self._fail,
            replaces=self._job,
        )
        self._interface.changed(Part.TRACE)

    def _work(
        self,
        plan: Plan,
        case: Case,
        interpreter: Interpreter,
        plain: Run | None,
        watches: tuple[str, ...],
        claims: tuple[Claim, ...],
        job: Job,
    ) -> Traced:
        trace, result = trace_case(
            plan,
            case,
            interpreter,
            plain=plain,
            stop=job.stop,
            on_steps=lambda count: job.went(self._count, count),
            watches=watches,
        )
        traced = Traced(case, Story(trace), result, None, watches=watches)
        traced.story.prepare()
        traced.departs = departing_step(traced.story, case, result)
        traced.broken = first_broken(traced.story, claims_for(claims, case.name))
        return traced

    def _count(self, steps: int) -> None:
        self.recorded = steps
        self._interface.changed(Part.COUNT)

    def _take(self, traced: Traced, wish: Wish) -> None:
        traced.stale = self._outdated
        traced.opening = traced.step = self._opening_step(traced)
        self._keep_place(traced)
        self.traced = traced
        traced.step = wish.step_in(traced.story) or traced.step
        for remark in traced.story.trace.remarks:
            self._interface.say(remark)
        self._interface.changed(Part.TRACE)

    def _fail(self, fault: OddSumError) -> None:
        self._checking.take_fault(fault)
        self._interface.changed(Part.TRACE)

    def _opening_step(self, traced: Traced) -> int:
        """Where a recording is opened: at the odd moment, or where the program's own work begins:
        past the rows at which it only defines its functions."""
        moments = traced.odd_moments()
        if self.opens == "odd" and moments:
            return moments[0].step
        if self.opens == "first":
            return 1
        for at in range(min(len(traced.story), _FAR)):
            step = traced.story.steps[at]
            if step.frame or self._does_something(step.statement.file, step.line):
                return step.number
        return 1

    def _does_something(self, file: str, line: int) -> bool:
        source = self._checking.files.source_of(file)
        return source is None or line in language_of(file).reading.statements(source)

    def _keep_place(self, traced: Traced) -> None:
        """A case that is recorded again is shown where one was before."""
        before = self.earlier
        if before is None or before.case.number != traced.case.number or not len(traced.story):
            return
        traced.step = traced.story.nearest(before.step)
        traced.column = before.column
        if traced.ran_as(before) and not same_steps(traced.story, before.story):
            self._interface.say(
                "This recording took other steps than the one before: the program depends on "
                "something that changes, such as the clock. | shows where they part."
            )

    def make_stale(self) -> None:
        """The program has changed since the recording, or since the one under way began."""
        self._outdated = True
        if self.traced is not None:
            self.traced.stale = True
            self._interface.changed(Part.TRACE)

    def stop(self) -> bool:
        """Stop recording; says whether one was under way."""
        was = self.busy
        self._jobs.cancel(self._job)
        return was

    def veil(self, veil: Veil | None) -> None:
        """Show nothing after a step while one guesses what comes; None ends it."""
        traced = self.walked
        if traced is not None:
            traced.veil = veil
            if veil is not None:
                traced.step = veil.seen
            self._interface.changed(Part.TRACE)

    # -- the step in hand --------------------------------------------------------------------

    def go(self, step: int | None, otherwise: str = "") -> None:
        """Go to a step; say why where there is none."""
        traced = self.walked
        if traced is None:
            return
        if step is None:
            if otherwise:
                self._interface.say(otherwise)
            return
        traced.step = traced.story.nearest(step)
        self._interface.changed(Part.TRACE)
