"""Check: the plan's cases and how they come out; one check at a time."""

from __future__ import annotations

import time
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from functools import partial
from pathlib import Path

import msgspec

from oddsum.check.plan import check
from oddsum.check.unrepeatable import unrepeatable
from oddsum.compare.told import since_words
from oddsum.languages import language_of
from oddsum.languages.language import Interpreter
from oddsum.model.case import LEVELS, Case, Plan
from oddsum.model.errors import OddSumError, StartError
from oddsum.model.history import Version
from oddsum.model.outcome import CaseResult, Outcome, shortest_odd, tally
from oddsum.plan.find import choose_plan
from oddsum.record.versions import version_of
from oddsum.run.scratch import bundle
from oddsum.workspace.files import Files
from oddsum.workspace.interface import Interface, Part
from oddsum.workspace.jobs import Job, Jobs, under_way
from oddsum.workspace.shared import Shared


@dataclass(frozen=True)
class Beginning:
    """What is known once a check has begun: what runs the program, and of which text.

    ``left_out`` tells what of its folder is not copied; ``version`` is None where its files cannot
    be read as text. ``files`` are the contents that it runs with, by name within the folder.
    """

    interpreter: Interpreter
    left_out: str
    version: Version | None
    files: Mapping[str, bytes]


class Checking:
    """The cases, their results of now or of before, and what is in the way of running them.

    ``begins`` and ``completed`` are called as a check begins, and once every case has a result of
    the program as it is now; ``reread`` reads all files anew.
    """

    def __init__(self, files: Files, jobs: Jobs, interface: Interface) -> None:
        self.files, self._jobs, self._interface = files, jobs, interface
        self.limited: Callable[[Plan], Plan] = lambda plan: plan
        self.begins: Callable[[], None] = lambda: None
        self.completed: Callable[[], None] = lambda: None
        self.reread: Callable[[], None] = lambda: None
        self.plan_file: Path | None = None  # the plan that was asked for
        self.python: str | None = None  # the interpreter that was asked for
        self.plan: Plan | None = None
        self.fault: OddSumError | None = None  # why nothing can be run
        self.interpreter: Interpreter | None = None
        self.version: Version | None = None  # the program that the results belong to
        self.left_out = ""
        self._ran_with: Mapping[str, bytes] = {}  # what the last check runs, or ran, with
        self.results: dict[int, CaseResult] = {}  # by case number
        self.selected = 0  # the number of the case in hand, 0 for none
        self.only_odd = False
        self.job: Job | None = None
        self.done, self.total = 0, 0  # cases of the check under way
        self.since = ""  # what changed since the run before, in words
        self.checked_at, self.seconds = "", 0.0
        self.shared = Shared(jobs, interface)
        self._before: dict[str, Outcome] = {}
        self._active: tuple[Plan, tuple[Case, ...]] | None = None  # the cases that are run, kept

    # -- reading -----------------------------------------------------------------------------

    def read(self) -> None:
        """Read program and plan; what is wrong with them becomes ``fault``."""
        from oddsum.plan.read import read_plan

        self.fault = None
        try:
            self.files.read()
            path = choose_plan(self.files.program, self.plan_file)
            plan = read_plan(path, self.files.program) if path is not None else None
            self.plan = self.limited(plan) if plan is not None else None
        except OddSumError as error:
            self.fault = error
        numbers = [c.number for c in self.plan.cases] if self.plan else []
        if self.selected not in numbers:
            self.selected = numbers[0] if numbers else 0

    def take_fault(self, fault: OddSumError) -> None:
        """A program that cannot start is for Check to show; anything else is told at once."""
        if isinstance(fault, StartError):
            self.fault = fault
            self._interface.changed(Part.PROGRAM, Part.CASES)
        else:
            self._interface.say(str(fault), "error", 15)

    # -- the cases ---------------------------------------------------------------------------

    @property
    def cases(self) -> tuple[Case, ...]:
        """The cases that are run."""
        if self.plan is None:
            return ()
        if self._active is None or self._active[0] is not self.plan:
            self._active = (self.plan, self.plan.active())
        return self._active[1]

    def shown(self) -> list[Case]:
        """The cases to show: all, those set aside too, or only the odd."""
        cases = self.plan.cases if self.plan else ()
        if not self.only_odd:
            return list(cases)
        odd = {n for n, r in self.results.items() if r.outcome.odd}
        return [c for c in cases if c.number in odd]

    def case_in_hand(self) -> Case | None:
        """The case the cursor is on."""
        cases = self.plan.cases if self.plan else ()
        at = self.selected - 1  # numbers count the plan's cases from 1
        return cases[at] if 0 <= at < len(cases) else None

    def case_numbered(self, number: int | None) -> Case | None:
        """A case that is run, by its number."""
        return next((c for c in self.cases if c.number == number), None)

    def toggle_odd(self) -> None:
        """Show or hide what agrees."""
        if not self.only_odd and not self.odd():
            self._interface.say("No case is odd.")
            return
        self.only_odd = not self.only_odd
        shown = [c.number for c in self.shown()]
        if shown and self.selected not in shown:
            self.selected = shown[0]
        self._interface.changed(Part.CASES)

    # -- the results -------------------------------------------------------------------------

    @property
    def busy(self) -> bool:
        """Whether a check is under way."""
        return under_way(self.job)

    @property
    def stale(self) -> bool:
        """Whether some result is of the program as it was before the last save."""
        return any(r.stale for r in self.results.values())

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

    def settled(self) -> bool:
        """Whether every case has such a result, and nothing is under way or in the way."""
        return self.complete() and not self.busy and self.fault is None

    def most_revealed(self) -> int:
        """How far the plan's author wishes Pinpoint to uncover: an index into LEVELS."""
        wish = self.plan.reveal if self.plan else None
        return LEVELS.index(wish) if wish else len(LEVELS) - 1

    def make_stale(self, numbers: frozenset[int] | None = None) -> None:
        """The program has changed, or is being checked: no result, or none of these, is of now."""
        self.results = {
            n: msgspec.structs.replace(r, stale=True) if numbers is None or n in numbers else r
            for n, r in self.results.items()
        }
        self.shared.forget()

    def ran_with(self, path: Path) -> bool:
        """Whether a file is, to the byte, what the last check runs with: its save is no news."""
        assert self.plan is not None
        try:
            name = str(path.resolve().relative_to(self.plan.program.resolve().parent))
            return self._ran_with.get(name) == path.read_bytes()
        except (ValueError, OSError):
            return False

    def take_plan(self, plan: Plan, selected: int) -> None:
        """The plan was changed here: results stay with the cases that are the same, and the rest
        are run.
        """
        old = {c.name: c for c in self.cases}
        by_name = {r.name: r for r in self.results.values()}
        self.plan, self.fault = self.limited(plan), None
        self.shared.forget()
        self.results = {
            c.number: _renumbered(by_name[c.name], c.number)
            for c in self.cases
            if c.name in by_name and _same_case(old.get(c.name), c)
        }
        self.selected = max(1, min(selected, len(plan.cases))) if plan.cases else 0
        missing = tuple(
            c for c in self.cases if c.number not in self.results or self.results[c.number].stale
        )
        if missing:
            self.check(missing)
        elif self.complete():
            self.shared.look(plan, self.interpreter, self.in_order())
        self._interface.changed(Part.CASES)

    # -- running -----------------------------------------------------------------------------

    def check_all(self) -> None:
        """Run the whole plan."""
        if self._may_check():
            self.check(self.cases)

    def check_odd(self) -> None:
        """Run those that do not agree."""
        odd = {r.number for r in self.in_order() if r.outcome is not Outcome.AGREES}
        cases = tuple(c for c in self.cases if c.number in odd)
        if not cases:
            self._interface.say("Every case that has run agrees. R runs them all.")
        elif self._may_check():
            self.check(cases)

    def check_this(self) -> None:
        """Run the case in hand alone."""
        case = self.case_in_hand()
        if case is None or case.disabled:
            self._interface.say("This case is set aside. - takes it back into the plan.")
        elif self._may_check():
            self.check((case,))

    def _may_check(self) -> bool:
        if self.plan is None or not self.cases:
            self._interface.say("There is no case to run yet. A adds one.")
            return False
        if self.fault is not None:
            self.reread()
            self._interface.changed(Part.PROGRAM, Part.CASES)
        return self.fault is None

    def check(self, cases: tuple[Case, ...]) -> None:
        """Run these cases of the plan; the results of all others stay as they are."""
        assert self.plan is not None
        self.begins()
        self._before = {r.name: r.outcome for r in self.in_order()}
        self.make_stale(frozenset(c.number for c in cases))
        self.done, self.total, self.since = 0, len(cases), ""
        self._ran_with = {}
        started = time.monotonic()
        self.job = self._jobs.start(
            "check",
            partial(_check, self.plan, self.python, cases, self._begun, self._one),
            done=lambda _: self._ended(time.monotonic() - started),
            failed=self._failed,
            replaces=self.job,
        )
        self._interface.changed(Part.CASES)

    def _begun(self, beginning: Beginning) -> None:
        self.interpreter, self.left_out = beginning.interpreter, beginning.left_out
        self.version, self._ran_with = beginning.version, beginning.files
        if beginning.interpreter.remark:
            self._interface.say(beginning.interpreter.remark)
        self._interface.changed(Part.CASES)

    def _one(self, result: CaseResult) -> None:
        """One more result; those of the check before stay, stale, until theirs come."""
        self.results[result.number] = result
        self.done += 1
        self._interface.changed(Part.CASES, Part.COUNT)

    def _failed(self, fault: OddSumError) -> None:
        self.fault, self.results = fault, {}
        self._interface.changed(Part.PROGRAM, Part.CASES)

    def _ended(self, seconds: float) -> None:
        self.fault = None
        if self.done == self.total:
            numbers = {c.number for c in self.cases}
            self.results = {n: r for n, r in self.results.items() if n in numbers}
            self.since = since_words(self._before, self.in_order())
            first = not self.checked_at
            self.checked_at, self.seconds = time.strftime("%H:%M:%S"), seconds
            shortest = self.shortest_odd()
            if first and shortest is not None and self.selected == self.cases[0].number:
                self.selected = shortest.number  # nobody has chosen yet: begin where it is odd
            if self.complete():
                assert self.plan is not None
                self.shared.look(self.plan, self.interpreter, self.in_order())
                self.completed()
        self._interface.changed(Part.PROGRAM, Part.CASES)

    def stop(self) -> bool:
        """Stop the check; what came out so far stays. Says whether there was one."""
        was = self.busy
        self._jobs.cancel(self.job)
        self.shared.forget()
        return was


def _check(
    plan: Plan,
    python: str | None,
    cases: tuple[Case, ...],
    begun: Callable[[Beginning], None],
    one: Callable[[CaseResult], None],
    job: Job,
) -> None:
    """Check cases of a plan and tell each result; raises OddSumError."""
    interpreter = language_of(plan.program).running.find_interpreter(plan.program, python)
    files = bundle(plan)
    remark = " ".join(filter(None, (files.left_out, unrepeatable(plan))))
    job.tell(begun, Beginning(interpreter, remark, _version(plan), files.files))
    for result in check(plan, interpreter, stop=job.stop, files=files, cases=cases):
        job.tell(one, result)


def _version(plan: Plan) -> Version | None:
    """The program as it is now, for the record: a save may come while the plan runs."""
    try:
        return version_of(plan.program)
    except OddSumError:
        return None


def _renumbered(result: CaseResult, number: int) -> CaseResult:
    """The result under its case's number; itself where that is the same."""
    if result.number == number:
        return result
    return msgspec.structs.replace(result, number=number)


def _same_case(old: Case | None, new: Case) -> bool:
    """Whether a case runs and expects the same as before, whatever its number."""
    return old is not None and msgspec.structs.replace(old, number=new.number) == new
