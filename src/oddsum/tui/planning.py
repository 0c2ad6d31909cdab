"""What is done to the plan: cases written, recorded, copied, moved, set aside, taken back."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from pathlib import Path

import msgspec
from textual import on

from oddsum.model.case import Case, Plan
from oddsum.model.errors import OddSumError
from oddsum.model.picture import Draws
from oddsum.plan import edit
from oddsum.plan.find import choose_plan, default_plan, plans_of
from oddsum.plan.keep import ChangedOnDisk, PlanFile
from oddsum.plan.pictures import MOST_LINES, rounded
from oddsum.tui import messages
from oddsum.tui.tracing import TracingApp


class PlanningApp(TracingApp):
    """Changes the plan's file, and shows the plan as it is then."""

    def __init__(self, program: Path, plan_file: Path | None, python: str | None) -> None:
        super().__init__(program, plan_file, python)
        self._kept: PlanFile | None = None

    # -- the file ----------------------------------------------------------------------------

    def _plan_path(self) -> Path:
        work = self.work
        if work.plan is not None and work.plan.file is not None:
            return work.plan.file
        return work.plan_file or default_plan(work.program)

    def _file(self) -> PlanFile:
        """The plan's file as it was last seen; what was done to it can be taken back."""
        path = self._plan_path()
        if self._kept is None or self._kept.path != path:
            self._kept = PlanFile(path, self.work.program)
        return self._kept

    def read_files(self) -> None:
        """Read program and plan; a change from outside cannot be taken back here."""
        super().read_files()
        try:
            if self._kept is not None and self._kept.path == self._plan_path():
                self._kept.read_again()
            elif self.work.plan is not None:
                self._file()  # from now on, what is on disk is held against what is shown
        except OddSumError:
            self._kept = None  # the fault that was just found says what is wrong with it

    def _changed(self, make: Callable[[], Plan], selected: int, told: str) -> bool:
        """Carry out a change of the plan, then run the cases that it touched."""
        work = self.work
        try:
            plan = make()
        except ChangedOnDisk as error:
            self.notify(str(error), severity="warning", timeout=10)
            self.read_files()
            work.make_stale()
            if work.fault is None and work.cases:
                self.action_check()
            self.show()
            return False
        except OddSumError as error:
            self.notify(str(error), severity="error", timeout=10)
            return False
        work.take_plan(self.limited(plan))
        work.selected = max(1, min(selected, len(plan.cases))) if plan.cases else 0
        work.fault = None
        self.notify(told)
        missing = work.missing()
        if missing:
            self.check_cases(missing)
        elif work.complete():
            self._look_for_pattern()
        self.show()
        return True

    # -- writing cases -----------------------------------------------------------------------

    def action_add_case(self) -> None:
        """Write another case of the plan."""
        self._open_card(None, self._add)

    def action_edit_case(self) -> None:
        """Change the case in hand."""
        case = self.work.selected_case()
        if case is None:
            self.notify("There is no case to change yet. A adds one.")
            return
        self._open_card(case, partial(self._replace, case), f"CASE {case.number}")

    def _open_card(
        self, case: Case | None, keep: Callable[[Case | None], None], title: str = ""
    ) -> None:
        from oddsum.source.outline import asks_for_input, plain_functions
        from oddsum.tui.dialogs.case_card import CaseCard

        work = self.work
        if work.source is None:
            self.notify("The program cannot be read.")
            return
        cases = work.plan.cases if work.plan is not None else ()
        own = case.name if case is not None and case.number <= len(cases) else ""
        other_language = bool(work.plan and work.plan.run)
        card = CaseCard(
            case.number if case is not None else len(cases) + 1,
            frozenset(c.name for c in cases) - {own},
            () if other_language else plain_functions(work.source),
            asks_for_input(work.source),
            case,
            title,
        )
        self.push_screen(card, keep)

    def _add(self, case: Case | None) -> None:
        if case is not None:
            path = self._plan_path()
            self._changed(
                lambda: self._file().add(case), 10**9, f"Kept in {path.name}. Ctrl+Z takes it back."
            )

    def _replace(self, old: Case, case: Case | None) -> None:
        if case is None or case == old:
            return
        number = old.number
        self._changed(
            lambda: self._file().change(
                f"changing case {number}", lambda text: edit.replace(text, number, case)
            ),
            number,
            f"Case {number} is changed. Ctrl+Z takes it back.",
        )

    def _on_case(self, what: str, change: Callable[[str, Case], str], by: int = 0) -> None:
        """Change the plan at the case in hand."""
        case = self.work.selected_case()
        if case is None:
            self.notify("There is no case in hand.")
            return
        name = f"{what} case {case.number}"
        make = lambda: self._file().change(name, lambda text: change(text, case))  # noqa: E731
        done = f"{what[:1].upper()}{what[1:]} case {case.number}: done. Ctrl+Z takes it back."
        self._changed(make, case.number + by, done)

    def action_copy_case(self) -> None:
        """Put a copy of the case in hand behind it."""
        plan = self.work.plan
        taken = frozenset(c.name for c in plan.cases) if plan else frozenset()
        self._on_case(
            "copying",
            lambda text, c: edit.duplicate(text, c.number, edit.free_name(c.name, taken)),
            by=1,
        )

    def action_delete_case(self) -> None:
        """Take the case in hand out of the plan."""
        self._on_case("deleting", lambda text, case: edit.delete(text, case.number))

    def action_move_case(self, by: int) -> None:
        """Let the case in hand change places with its neighbour."""
        plan, at = self.work.plan, self.work.selected + by
        if plan is not None and 1 <= at <= len(plan.cases):
            self._on_case("moving", lambda text, case: edit.move(text, case.number, by), by=by)

    def action_set_aside(self) -> None:
        """Keep the case in hand and do not run it, or take it back."""
        case = self.work.selected_case()
        what = "taking back" if case is not None and case.disabled else "setting aside"
        self._on_case(what, lambda text, c: edit.set_disabled(text, c.number, not c.disabled))

    def action_take_back(self) -> None:
        """Undo the last change of the plan."""
        what = self._kept.last_change if self._kept is not None else ""
        if not what:
            self.notify("There is nothing to take back.")
            return
        self._changed(lambda: self._file().take_back(), self.work.selected, f"Taken back: {what}.")

    # -- what is expected --------------------------------------------------------------------

    def action_say_right(self) -> None:
        """Say that what came out of an open case is what should come out."""
        from oddsum.tui.dialogs.is_it_right import IsItRight

        case = self.work.selected_case()
        result = self.work.results.get(case.number) if case is not None else None
        if case is None or result is None or result.stale:
            self.notify("This case has no result of the program as it is now. R runs the plan.")
            return
        if result.outcome.value != "open":
            self.notify("Y is for a case with nothing expected yet. E changes this one.")
            return
        self.push_screen(IsItRight(result), partial(self._answered, case))

    def _answered(self, case: Case, answer: str | None) -> None:
        from oddsum.tui.dialogs.is_it_right import what_came_out

        result = self.work.results.get(case.number)
        if answer is None or result is None:
            return
        drawn = rounded(result.run.drawn.lines) if result.run.drawn is not None else ()
        if case.call is not None and result.run.returned is not None and not drawn:
            expecting = msgspec.structs.replace(case, returns=result.run.returned.actual)
        elif drawn and answer == "right":
            if len(drawn) > MOST_LINES:
                self.notify(
                    f"{len(drawn):,} lines are too many to stand in a plan. Keep them in a file: "
                    "`oddsum chart --what lines`, and draws = its name.", timeout=15,
                )  # fmt: skip
                return
            text = result.run.output
            expecting = msgspec.structs.replace(case, draws=Draws(drawn), stdout=text or None)
        else:
            text = what_came_out(result)
            ended = text if not text or text.endswith("\n") else text + "\n"
            expecting = msgspec.structs.replace(case, stdout=ended)
        if answer == "right":
            self._replace(case, expecting)
        else:
            self._open_card(
                expecting, partial(self._replace, case), f"CASE {case.number}: WHAT SHOULD IT GIVE?"
            )

    # -- recording ---------------------------------------------------------------------------

    def action_record_case(self) -> None:
        """Run the program live and keep what was typed as a case."""
        from oddsum.run.interpreter import find_interpreter
        from oddsum.tui.dialogs.recorder import Recorder

        work = self.work
        plan = work.plan or Plan(program=work.program)
        if plan.run:
            self.notify("Recording runs Python programs; write this case by hand: A.")
            return
        try:
            interpreter = work.interpreter or find_interpreter(work.program, work.python)
        except OddSumError as error:
            self.notify(str(error), severity="error")
            return
        number = len(plan.cases) + 1
        self.push_screen(Recorder(plan, interpreter, number), self._recorded)

    def _recorded(self, case: Case | None) -> None:
        if case is not None:
            self._open_card(case, self._add, "THE CASE YOU RECORDED")

    # -- advice ------------------------------------------------------------------------------

    def action_advice(self) -> None:
        """See what no case tries."""
        from oddsum.tui.dialogs.advice import AdvicePage

        work = self.work
        if work.plan is None or work.fault is not None or work.interpreter is None:
            self.notify("Advice reads the program as it runs: add a case first. A adds one.")
            return
        if work.plan.run:
            self.notify("Advice on inputs reads Python programs.")
            return
        if not work.complete() or work.checking is not None:
            self.notify("Wait until the plan has run. R runs it.")
            return
        self.look_for_gaps()
        self.push_screen(AdvicePage(work.advice), self._take_advice)

    def look_for_gaps(self) -> None:
        """See behind the scenes what no case tries, where it is not known yet."""
        from oddsum.tui.workers import look_for_advice

        work = self.work
        if work.plan is None or work.plan.run or work.interpreter is None or not work.complete():
            return
        if work.advice is None and not work.advising:
            work.advising = True
            start = partial(
                look_for_advice,
                self,
                work.check_number,
                work.plan,
                work.interpreter,
                work.in_order(),
            )
            self._start("advice", start)

    @on(messages.AdviceFound)
    def advice_found(self, message: messages.AdviceFound) -> None:
        """What no case tries is known."""
        from oddsum.tui.dialogs.advice import AdvicePage

        work = self.work
        if message.number != work.check_number:
            return
        work.advising, work.advice = False, message.advice
        self._take_fault(message.fault)
        if isinstance(self.screen, AdvicePage):
            if message.advice is None:
                self.screen.dismiss(None)
            else:
                self.screen.take(message.advice)
        self.show()

    def _take_advice(self, cases: tuple[Case, ...] | None) -> None:
        if not cases:
            return
        count = len(cases)
        told = "1 case is" if count == 1 else f"{count} cases are"
        self._changed(
            lambda: self._file().add(*cases),
            len(self.work.plan.cases) + 1 if self.work.plan else 1,
            f"{told} added, what is expected left open. Ctrl+Z takes it back.",
        )

    # -- several plans -----------------------------------------------------------------------

    def action_choose_plan(self) -> None:
        """Choose among the plans of this program."""
        from oddsum.tui.dialogs.choose_file import ChooseFile

        plans = plans_of(self.work.program)
        if len(plans) < 2:
            self.notify(f"{self.work.program.name} has one plan at most. A adds a case to it.")
            return
        self.push_screen(ChooseFile("plan", plans, self._plan_path()), self._use_plan)

    def _use_plan(self, path: Path | None) -> None:
        if path is None or path == self._plan_path():
            return
        work = self.work
        work.plan_file, work.results, work.checked_at = path, {}, ""
        work.selected, self._kept = 0, None
        self.read_files()
        if work.fault is None and work.plan is not None and work.cases:
            self.action_check()
        self.show()

    def first_plan_is_missing(self) -> bool:
        """Whether there are plans, and none of them is the one to begin with."""
        try:
            choose_plan(self.work.program, self.work.plan_file)
        except OddSumError:
            return len(plans_of(self.work.program)) > 1
        return False
