"""The work in hand: everything the stations show, in one place, with no widget in it."""

from __future__ import annotations

from dataclasses import dataclass, field
from pathlib import Path

import msgspec

from oddsum.advise.advice import Advice
from oddsum.advise.pattern import Pattern
from oddsum.compare.readings import reading, reading_used
from oddsum.model.answer import AT_LINE, Ends, Said
from oddsum.model.case import LEVELS, Case, Plan, Prompts
from oddsum.model.claim import Broken, Claim
from oddsum.model.errors import OddSumError
from oddsum.model.history import Entry, PastRun, Try, Version
from oddsum.model.lead import Edit, Lead, Pinpointing
from oddsum.model.outcome import CaseResult, Outcome, shortest_odd, tally
from oddsum.run.interpreter import Interpreter
from oddsum.source.program import Source
from oddsum.trace.ask import Story
from oddsum.trace.holds import Hold
from oddsum.tui.draft import Draft


@dataclass
class Traced:
    """One case as recorded, and where in it the user is (step from 1)."""

    case: Case
    story: Story
    result: CaseResult
    expected: str | None
    departs: int | None
    step: int = 1
    stale: bool = False
    column: str = ""  # the variable in hand; blank for none
    broken: Broken | None = None  # the first claim that does not hold in this case
    source: Source | None = None  # the program as it was recorded


@dataclass
class View:
    """How the trace table is shown; it stays while the program does."""

    hidden: set[str] = field(default_factory=set)
    order: list[str] = field(default_factory=list)  # columns moved to the front, pinned there
    only: str | None = None  # one function's rows
    fill_down: bool = False


def printed_so_far(traced: Traced) -> str:
    """What was printed up to the step in hand, read as the case's comparison read it.

    Where no text is expected: as on a terminal, with the answers.
    """
    output = traced.story.output_until(traced.step)
    run = traced.result.run
    asked = tuple(a for a in run.asked if a[1] <= len(output))
    how: Prompts = "terminal"
    if traced.case.stdout is not None:
        how = reading_used(run, traced.result.actual)
    return reading(msgspec.structs.replace(run, output=output, asked=asked), how)


@dataclass
class Search:
    """What Pinpoint has found so far, and how far each lead is uncovered (0 to 2)."""

    leads: tuple[Lead, ...] = ()
    found: Pinpointing | None = None
    doing: str = ""
    done: int = 0
    total: int = 0
    cursor: int = 0
    uncovered: dict[tuple[str, tuple[int, ...]], int] = field(default_factory=dict)
    stale: bool = False
    stopped: bool = False
    stories: dict[int, tuple[Case, Story]] = field(default_factory=dict)  # of some odd cases
    answers: dict[str, Said] = field(default_factory=dict)  # by the sentence that was judged
    ends: Ends | None = None  # where the answers lead
    guess: int = 0  # the line the user named; 0 for none

    first: int = 0  # how far a lead is uncovered when it is first seen

    def level(self, lead: Lead) -> int:
        """How far a lead is uncovered: an index into LEVELS."""
        return self.uncovered.get((lead.file, lead.lines), self.first)

    def lead_in_hand(self) -> Lead | None:
        """The lead that the cursor is on, the nearest where there are fewer than it thinks."""
        if not self.leads:
            return None
        self.cursor = min(max(self.cursor, 0), len(self.leads) - 1)
        return self.leads[self.cursor]

    def uncover(self, lead: Lead, most: int) -> None:
        """Uncover one level more of a lead."""
        level = min(self.level(lead) + 1, most)
        self.uncovered[lead.file, lead.lines] = level


@dataclass
class Record:
    """What is recorded of the program: its last checks of so many, and the notebook.

    ``cursor`` is the check in hand and ``marked`` one to hold it against (places in ``runs``);
    ``page`` is the notebook's page in hand.
    """

    runs: tuple[PastRun, ...] = ()
    count: int = 0
    entries: tuple[Entry, ...] = ()
    read: bool = False
    cursor: int = -1
    marked: int = -1
    page: int = 0

    def number_of(self, place: int) -> int:
        """Which of all runs the one at a place in ``runs`` is, from 1."""
        return self.count - len(self.runs) + place + 1


@dataclass
class Work:
    """The program in hand. Lines and steps count from 1; case numbers are the plan's."""

    program: Path
    plan_file: Path | None
    python: str | None
    plan: Plan | None = None
    source: Source | None = None
    interpreter: Interpreter | None = None
    version: Version | None = None  # of the program, as the last check ran it
    begun: bool = False  # whether the files have been read
    fault: OddSumError | None = None
    results: dict[int, CaseResult] = field(default_factory=dict)
    check_number: int = 0
    checking: int | None = None  # how many cases are done; None when no check is under way
    to_check: int = 0  # how many cases the check under way, or the last one, has
    before: dict[str, Outcome] = field(default_factory=dict)  # by name, of the run before
    since: str = ""  # what has changed since the run before
    pattern: Pattern | None = None
    advice: Advice | None = None
    advising: bool = False
    checked_at: str = ""
    seconds: float = 0.0
    left_out: str = ""
    selected: int = 0  # case number
    only_odd: bool = False
    traced: Traced | None = None
    trace_number: int = 0
    tracing: int | None = None  # steps recorded so far; None when nothing is being recorded
    view: View = field(default_factory=View)
    holds: dict[tuple[str, int], Hold] = field(default_factory=dict)
    watches: tuple[str, ...] = ()
    claims: tuple[Claim, ...] = ()
    broken: dict[int, Broken] = field(default_factory=dict)  # claims, by case number
    earlier: Traced | None = (
        None  # the recording before this one: of another case, or before a save
    )
    looking: str = ""  # what is being looked for in a trace, blank for nothing
    search: Search | None = None
    draft: Draft | None = None
    tries: tuple[Try, ...] = ()
    kept_before: dict[int, CaseResult] = field(default_factory=dict)  # results before a change
    kept_edits: tuple[Edit, ...] = ()  # was kept; until the plan has run on what is there now
    kept_source: Source | None = None  # the file before that change
    reveal_first: int = 0  # how far Pinpoint uncovers leads at once, as the user has set it
    record: Record = field(default_factory=Record)
    record_fault: str = ""  # what was said last of a record that cannot be had
    _active: tuple[Plan, tuple[Case, ...]] | None = None  # the plan's cases that are run, kept

    @property
    def stale(self) -> bool:
        """Whether some result is of the program as it was before the last save."""
        return any(r.stale for r in self.results.values())

    def make_stale(self, numbers: frozenset[int] | None = None) -> None:
        """The program has changed, or is being checked: no result, or none of these, is of now."""
        self.results = {
            n: msgspec.structs.replace(r, stale=True) if numbers is None or n in numbers else r
            for n, r in self.results.items()
        }
        self.pattern = self.advice = None

    def take_plan(self, plan: Plan) -> None:
        """The plan was changed here: results stay with the cases that are the same."""
        old = {c.name: c for c in self.cases}
        by_name = {r.name: r for r in self.results.values()}
        self.plan = plan
        self.results = {
            c.number: _renumbered(by_name[c.name], c.number)
            for c in self.cases
            if c.name in by_name and _same_case(old.get(c.name), c)
        }
        self.pattern = self.advice = None

    def missing(self) -> tuple[Case, ...]:
        """The cases that have no result, or only a stale one."""
        return tuple(
            c for c in self.cases if c.number not in self.results or self.results[c.number].stale
        )

    def drop_search(self, changed: bool) -> None:
        """What Pinpoint found is of before; what was uncovered stays where nothing has changed."""
        if self.search is not None:
            self.search.stale, self.search.doing = True, ""
            if changed:
                self.search.uncovered, self.search.guess, self.search.ends = {}, 0, None
                answers = self.search.answers
                self.search.answers = {
                    t: s for t, s in answers.items() if not t.startswith(AT_LINE)
                }

    @property
    def cases(self) -> tuple[Case, ...]:
        """The cases that are run."""
        if self.plan is None:
            return ()
        if self._active is None or self._active[0] is not self.plan:
            self._active = (self.plan, self.plan.active())
        return self._active[1]

    def shown_cases(self) -> list[Case]:
        """The cases to show: all, those set aside too, or only the odd."""
        cases = self.plan.cases if self.plan else ()
        if not self.only_odd:
            return list(cases)
        odd = {n for n, r in self.results.items() if r.outcome.odd}
        return [c for c in cases if c.number in odd]

    def selected_case(self) -> Case | None:
        """The case the cursor is on."""
        cases = self.plan.cases if self.plan else ()
        at = self.selected - 1  # numbers count the plan's cases from 1
        return cases[at] if 0 <= at < len(cases) else None

    def in_order(self) -> tuple[CaseResult, ...]:
        """The results there are, in the plan's order."""
        return tuple(self.results[c.number] for c in self.cases if c.number in self.results)

    def counts(self) -> dict[Outcome, int]:
        """How many results there are of each outcome, in the contract's order."""
        return tally(self.in_order())

    def odd(self) -> list[CaseResult]:
        """The odd results, in the plan's order."""
        return [r for r in self.in_order() if r.outcome.odd]

    def shortest_odd(self) -> CaseResult | None:
        """The odd case with the least to follow; endless ones last."""
        return shortest_odd(self.cases, self.in_order())

    def complete(self) -> bool:
        """Whether every case has a result of the program as it is now."""
        return bool(self.cases) and not self.stale and len(self.results) == len(self.cases)

    def most_uncovered(self) -> int:
        """How far the plan's author wishes Pinpoint to uncover: an index into LEVELS."""
        wish = self.plan.reveal if self.plan else None
        return LEVELS.index(wish) if wish else len(LEVELS) - 1


def _renumbered(result: CaseResult, number: int) -> CaseResult:
    """The result under its case's number; itself where that is the same."""
    if result.number == number:
        return result
    return msgspec.structs.replace(result, number=number)


def _same_case(old: Case | None, new: Case) -> bool:
    """Whether a case runs and expects the same as before, whatever its number."""
    return old is not None and msgspec.structs.replace(old, number=new.number) == new
