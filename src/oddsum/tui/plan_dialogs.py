"""The dialogs about the plan: a case written, recorded, judged, proposed; another plan chosen."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from textual.app import App

from oddsum.languages import language_for, language_of
from oddsum.languages.language import plain_functions
from oddsum.languages.tools import Commands
from oddsum.model.case import Case, Plan
from oddsum.model.errors import OddSumError
from oddsum.model.lead import Ask
from oddsum.workspace.workspace import Workspace
from oddsum.workspace.written import About, Written


class PlanDialogs:
    """Opens them over whatever is on the screen, and hands what they close with to the plan."""

    def __init__(self, workspace: Workspace, app: App[None]) -> None:
        self._work, self._app = workspace, app
        # What was typed into a card that was left: for which case, and what.
        self._begun: tuple[tuple[str, int, Case | None], Written] | None = None
        self._how: Commands | None = None  # how the program is run, as it was said

    def add(self) -> None:
        """Write another case of the plan; of one that has to say how its program is run, and does
        not yet, that comes first.
        """
        wanted = self._work.planning.commands_wanted()
        if wanted is None:
            self._card(None, self._add)
            return
        from oddsum.tui.dialogs.how_run import HowRun

        def answered(commands: Commands | None) -> None:
            if commands is not None:
                self._how = commands
                self._card(None, self._add)

        page = HowRun(self._work.files.program.name, self._how or wanted)
        self._app.push_screen(page, answered)

    def decide(self, ask: Ask) -> None:
        """Let the user say what should come out where mends differ: it becomes a case."""
        case = Case(
            number=self._work.planning.next_number(), name="where the mends differ",
            kind="boundary", stdin=ask.stdin, call=ask.call,
        )  # fmt: skip
        self._card(case, self._add, "WHAT SHOULD COME OUT HERE?")

    def edit(self) -> None:
        """Change the case in hand."""
        case = self._work.checking.case_in_hand()
        if case is None:
            self._app.notify("There is no case to change yet. A adds one.")
        else:
            self._card(case, lambda made: self._replace(case, made), f"CASE {case.number}")

    def _add(self, case: Case | None) -> None:
        if case is not None:
            if self._how is not None:
                self._work.planning.say_how(self._how)
            self._work.planning.add(case)

    def _replace(self, old: Case, case: Case | None) -> None:
        if case is not None:
            self._work.planning.replace(old, case)

    def _card(
        self, case: Case | None, keep: Callable[[Case | None], None], title: str = ""
    ) -> None:
        from oddsum.tui.dialogs.case_card import CaseCard

        source, plan = self._work.files.source, self._work.checking.plan
        if source is None:
            self._app.notify("The program cannot be read.")
            return
        planning = self._work.planning
        language = language_for(plan) if plan is not None else language_of(source.name)
        number = case.number if case is not None else planning.next_number()
        traced = "trace" in language.can
        about = About(
            planning.names_taken(case),
            plain_functions(language, source) if traced else (),
            language.reading.asks_for_input(source),
            language.reading.prompts(source) if traced else (),
            self._fault_words,
            language.asking,
        )
        place = (title, number, case)

        def left(written: Written) -> None:
            self._begun = (place, written)

        def closed(made: Case | None) -> None:
            if made is not None:
                self._begun = None
            keep(made)

        begun = self._begun[1] if self._begun is not None and self._begun[0] == place else None
        self._app.push_screen(CaseCard(number, about, case, title, begun=begun, left=left), closed)

    def _fault_words(self) -> str:
        fault = self._work.checking.fault
        return f"{fault.text} A case can be written all the same." if fault is not None else ""

    def record(self) -> None:
        """Run the program live and keep what was typed as a case."""
        from oddsum.tui.dialogs.recorder import Recorder

        checking = self._work.checking
        plan = checking.plan or Plan(program=self._work.files.program)
        if not language_for(plan).running.probe().live:
            self._app.notify("This program cannot be run live; write this case by hand: A.")
            return
        try:
            interpreter = checking.interpreter or language_of(
                plan.program
            ).running.find_interpreter(plan.program, checking.python)
        except OddSumError as error:
            self._app.notify(str(error), severity="error")
            return

        def recorded(case: Case | None) -> None:
            if case is not None:
                self._card(case, self._add, "THE CASE YOU RECORDED")

        number = self._work.planning.next_number()
        self._app.push_screen(Recorder(plan, interpreter, number), recorded)

    def say_right(self) -> None:
        """Say that what came out of an open case is what should come out."""
        from oddsum.tui.dialogs.is_it_right import IsItRight, what_came_out

        planning, found = self._work.planning, self._work.planning.open_case()
        if found is None:
            return
        case, result = found

        def answered(answer: str | None) -> None:
            if answer is None:
                return
            right = answer == "right"
            expecting = planning.expecting(case, result, what_came_out(result), right)
            if expecting is None:
                return
            if right:
                planning.replace(case, expecting)
            else:
                title = f"CASE {case.number}: WHAT SHOULD IT GIVE?"
                self._card(expecting, lambda made: self._replace(case, made), title)

        self._app.push_screen(IsItRight(result), answered)

    def advice(self) -> None:
        """See what no case tries."""
        from oddsum.tui.dialogs.advice import AdvicePage

        refusal = self._work.advising.refusal()
        if refusal:
            self._app.notify(refusal)
            return
        self._work.advising.look()

        def take(cases: tuple[Case, ...] | None) -> None:
            if cases:
                self._work.planning.add_open(cases)

        self._app.push_screen(AdvicePage(self._work.advising), take)

    def take_in(self) -> None:
        """Take cases in from the program's text, a sheet, or pairs of files."""
        from oddsum.tui.dialogs.import_page import ImportPage

        planning = self._work.planning

        def take(cases: tuple[Case, ...] | None) -> None:
            if cases:
                planning.take_in(cases)

        self._app.push_screen(ImportPage(planning.look), take)

    def choose_plan(self) -> None:
        """Choose among the plans of this program."""
        from oddsum.tui.dialogs.choose_file import ChooseFile

        planning = self._work.planning
        plans = planning.plans()
        if not plans:
            return

        def take(path: Path | None) -> None:
            if path is not None:
                planning.use(path)

        self._app.push_screen(ChooseFile("plan", plans, planning.path), take)
