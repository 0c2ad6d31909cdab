"""What is done to the plan: cases added, copied, moved, set aside, taken back."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

import msgspec

from oddsum.languages import language_of
from oddsum.languages.tools import Commands
from oddsum.model.case import Case, Plan
from oddsum.model.errors import OddSumError
from oddsum.model.outcome import CaseResult, Outcome
from oddsum.model.picture import Draws
from oddsum.plan import edit
from oddsum.plan.commands import head_of, offered
from oddsum.plan.find import choose_plan, default_plan, plans_of
from oddsum.plan.imported import Imported
from oddsum.plan.keep import ChangedOnDisk, PlanFile
from oddsum.plan.pictures import MOST_LINES, rounded
from oddsum.plan.sheet import read_sheet
from oddsum.plan.taking_in import Taking, taking
from oddsum.plan.textpairs import read_pairs
from oddsum.workspace.checking import Checking
from oddsum.workspace.interface import Interface


class Planning:
    """Changes the plan's file, and has the cases run that a change touched."""

    def __init__(self, checking: Checking, interface: Interface) -> None:
        self._checking, self._interface = checking, interface
        self._kept: PlanFile | None = None

    # -- the file ----------------------------------------------------------------------------

    @property
    def path(self) -> Path:
        """The plan's file: the one there is, or the one that the first case will make."""
        checking = self._checking
        if checking.plan is not None and checking.plan.file is not None:
            return checking.plan.file
        return checking.plan_file or default_plan(checking.files.program)

    def _file(self) -> PlanFile:
        """The plan's file as it was last seen; what was done to it can be taken back."""
        if self._kept is None or self._kept.path != self.path:
            self._kept = PlanFile(self.path, self._checking.files.program)
        return self._kept

    def follow_file(self) -> None:
        """The files were read anew: a change from outside cannot be taken back here."""
        try:
            if self._kept is not None and self._kept.path == self.path:
                self._kept.read_again()
            elif self._checking.plan is not None:
                self._file()  # from now on, what is on disk is held against what is shown
        except OddSumError:
            self._kept = None  # the fault that was just found says what is wrong with it

    def _changed(self, make: Callable[[], Plan], selected: int, told: str) -> None:
        """Carry out a change of the plan, then run the cases that it touched."""
        checking = self._checking
        try:
            plan = make()
        except ChangedOnDisk as error:
            self._interface.say(str(error), "warning", 10)
            checking.reread()
            checking.make_stale()
            if checking.fault is None and checking.cases:
                checking.check_all()
        except OddSumError as error:
            self._interface.say(str(error), "error", 10)
        else:
            self._interface.say(told)
            checking.take_plan(plan, selected)

    # -- how it is run -----------------------------------------------------------------------

    def commands_wanted(self) -> Commands | None:
        """Commands that fit the program, where its plan has to say how it is built and run and
        does not yet; None where it need not, or does.
        """
        plan = self._checking.plan
        if plan is not None and (plan.run or plan.cases):
            return None
        return offered(self._checking.files.program)

    def say_how(self, commands: Commands) -> None:
        """The plan will begin with these commands, once its first case is written."""
        self._file().head = head_of(commands) + "\n"

    # -- cases -------------------------------------------------------------------------------

    def next_number(self) -> int:
        """The number that another case would have."""
        plan = self._checking.plan
        return len(plan.cases) + 1 if plan is not None else 1

    def names_taken(self, but: Case | None = None) -> frozenset[str]:
        """The names that cases have; but for the one of a case of the plan that is changed."""
        plan = self._checking.plan
        cases = plan.cases if plan is not None else ()
        own = but.name if but is not None and but.number <= len(cases) else ""
        return frozenset(c.name for c in cases) - {own}

    def add(self, *cases: Case) -> None:
        """Put cases at the end of the plan; the first of several is in hand then."""
        number = self.next_number()
        told = f"Kept in {self.path.name}. Ctrl+Z takes it back."
        self._changed(lambda: self._file().add(*cases), number, told)

    def add_open(self, cases: tuple[Case, ...]) -> None:
        """Put cases that were proposed at the end of the plan, with nothing expected yet."""
        self._changed(
            lambda: self._file().add(*cases),
            self.next_number(),
            f"{_cases_are(cases)} added, what is expected left open. Ctrl+Z takes it back.",
        )

    def replace(self, old: Case, case: Case) -> None:
        """Make a case another one."""
        if case == old:
            return
        number = old.number
        self._changed(
            lambda: self._file().change(
                f"changing case {number}", lambda text: edit.replace(text, number, case)
            ),
            number,
            f"Case {number} is changed. Ctrl+Z takes it back.",
        )

    def look(self, text: str) -> Taking:
        """What there is to take in: from a sheet, from pairs of files by two patterns; without a
        text, from the program's own. Raises OddSumError.
        """
        program = self._checking.files.program
        words, folder = text.split(), program.resolve().parent
        if not text:
            source = self._checking.files.source
            cases, left_out = language_of(program).writing.examples(source) if source else ((), ())
            found = Imported(cases, left_out)
        elif len(words) == 2 and all("*" in w for w in words):
            found = read_pairs(folder, *words)
        else:
            found = read_sheet((folder / text).resolve(), language_of(program).asking)
        return taking(found, self._checking.plan)

    def take_in(self, cases: tuple[Case, ...]) -> None:
        """Put cases that were taken in at the end of the plan."""
        self._changed(lambda: self._file().add(*cases), self.next_number(),
                      f"{_cases_are(cases)} added. Ctrl+Z takes it back.")  # fmt: skip

    def _on_case(self, what: str, change: Callable[[str, Case], str], by: int = 0) -> None:
        """Change the plan at the case in hand."""
        case = self._checking.case_in_hand()
        if case is None:
            self._interface.say("There is no case in hand.")
            return
        name = f"{what} case {case.number}"
        done = f"{what[:1].upper()}{what[1:]} case {case.number}: done. Ctrl+Z takes it back."
        self._changed(
            lambda: self._file().change(name, lambda text: change(text, case)),
            case.number + by,
            done,
        )

    def copy(self) -> None:
        """Put a copy of the case in hand behind it."""
        taken = self.names_taken()
        self._on_case(
            "copying",
            lambda text, c: edit.duplicate(text, c.number, edit.free_name(c.name, taken)),
            by=1,
        )

    def delete(self) -> None:
        """Take the case in hand out of the plan."""
        self._on_case("deleting", lambda text, case: edit.delete(text, case.number))

    def move(self, by: int) -> None:
        """Let the case in hand change places with its neighbour."""
        plan, at = self._checking.plan, self._checking.selected + by
        if plan is not None and 1 <= at <= len(plan.cases):
            self._on_case("moving", lambda text, case: edit.move(text, case.number, by), by=by)

    def set_aside(self) -> None:
        """Keep the case in hand and do not run it, or take it back."""
        case = self._checking.case_in_hand()
        what = "taking back" if case is not None and case.disabled else "setting aside"
        self._on_case(what, lambda text, c: edit.set_disabled(text, c.number, not c.disabled))

    def take_back(self) -> None:
        """Undo the last change of the plan."""
        what = self._kept.last_change if self._kept is not None else ""
        if not what:
            self._interface.say("There is nothing to take back.")
            return
        selected = self._checking.selected
        self._changed(lambda: self._file().take_back(), selected, f"Taken back: {what}.")

    # -- what is expected --------------------------------------------------------------------

    def open_case(self) -> tuple[Case, CaseResult] | None:
        """The case in hand with what came out, where nothing is expected yet; else says why."""
        case = self._checking.case_in_hand()
        result = self._checking.results.get(case.number) if case is not None else None
        if case is None or result is None or result.stale:
            self._interface.say(
                "This case has no result of the program as it is now. R runs the plan."
            )
        elif result.outcome is not Outcome.OPEN:
            self._interface.say("Y is for a case with nothing expected yet. E changes this one.")
        else:
            return case, result
        return None

    def expecting(self, case: Case, result: CaseResult, printed: str, right: bool) -> Case | None:
        """The case with what came out as what is expected; None where a plan cannot hold that.

        ``printed`` is what came out as it was read; ``right`` says that it is what should come
        out: then a drawing is taken as well.
        """
        drawn = rounded(result.run.drawn.lines) if result.run.drawn is not None else ()
        if case.call is not None and result.run.returned is not None and not drawn:
            return msgspec.structs.replace(case, returns=result.run.returned.actual)
        if drawn and right:
            if len(drawn) > MOST_LINES:
                self._interface.say(
                    f"{len(drawn):,} lines are too many to stand in a plan. Keep them in a file: "
                    "`oddsum chart --what lines`, and draws = its name.", seconds=15,
                )  # fmt: skip
                return None
            text = result.run.output or None
            return msgspec.structs.replace(case, draws=Draws(drawn), stdout=text)
        ended = printed if not printed or printed.endswith("\n") else printed + "\n"
        return msgspec.structs.replace(case, stdout=ended)

    # -- several plans -----------------------------------------------------------------------

    def must_choose(self) -> bool:
        """Whether there are several plans, and none of them is the one to begin with."""
        program = self._checking.files.program
        try:
            choose_plan(program, self._checking.plan_file)
        except OddSumError:
            return len(plans_of(program)) > 1
        return False

    def plans(self) -> tuple[Path, ...]:
        """The plans of this program, where there is a choice; else says that there is none."""
        program = self._checking.files.program
        plans = plans_of(program)
        if len(plans) < 2:
            self._interface.say(f"{program.name} has one plan at most. A adds a case to it.")
            return ()
        return plans

    def use(self, path: Path) -> None:
        """Take another plan of this program up."""
        if path == self.path:
            return
        checking = self._checking
        checking.plan_file, checking.results, checking.checked_at = path, {}, ""
        checking.selected, self._kept = 0, None
        checking.reread()
        if checking.fault is None and checking.plan is not None and checking.cases:
            checking.check_all()


def _cases_are(cases: tuple[Case, ...]) -> str:
    return "1 case is" if len(cases) == 1 else f"{len(cases)} cases are"
