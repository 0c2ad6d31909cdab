"""Mend: one thing is changed, and every case shows at once what that did to it."""

from __future__ import annotations

import os
import re
from collections.abc import Iterable, Mapping, Sequence
from functools import partial
from pathlib import Path
from typing import ClassVar

from textual import on
from textual.app import SuspendNotSupported
from textual.binding import BindingType
from textual.containers import Vertical, VerticalScroll
from textual.widget import Widget
from textual.widgets import Input, TextArea

from oddsum.languages import language_of
from oddsum.model.case import Case
from oddsum.model.errors import OddSumError
from oddsum.model.outcome import CaseResult
from oddsum.run.editor import edited_with, editor_command
from oddsum.tui.actions import Focus, bindings_of
from oddsum.tui.dialogs.ask import Ask, check_line
from oddsum.tui.plan_dialogs import PlanDialogs
from oddsum.tui.screens.station import Station
from oddsum.tui.widgets.before_after import case_columns, case_row, totals_lines
from oddsum.tui.widgets.divider import Divider
from oddsum.tui.widgets.fault import fault_lines
from oddsum.tui.widgets.find_bar import FindBar
from oddsum.tui.widgets.heading import Heading
from oddsum.tui.widgets.panels import Panels
from oddsum.tui.widgets.program_editor import ProgramEditor
from oddsum.tui.widgets.prose import Prose, wrapped
from oddsum.tui.widgets.ruled_table import HEAD, Rows, RuledTable
from oddsum.tui.widgets.tries import tries_lines
from oddsum.tui.writing import Cell, Piece, cell
from oddsum.workspace.draft import Draft
from oddsum.workspace.interface import Part
from oddsum.workspace.workspace import Workspace


class MendScreen(Station):
    """The program to change at the left; the cases before and after, and the tries, beside it."""

    station = "mend"
    BINDINGS: ClassVar[list[BindingType]] = [*bindings_of("mend")]

    def __init__(self, workspace: Workspace) -> None:
        super().__init__(workspace)
        self.dialogs = PlanDialogs(workspace, self.app)
        self._cases: Sequence[Case] = ()  # as they stand in the list
        self._shown: Draft | None = None  # what the editor has, and which revision of it
        self._revision = 0

    def compose_body(self) -> Iterable[Widget]:
        """Lay out the editor, the cases and the tries."""
        with Panels(54, id="body"):
            with Vertical(id="left", classes="column"):
                yield Heading(id="editor-heading")
                yield ProgramEditor(id="editor")
                yield FindBar()
            yield Divider()
            with Vertical(id="right", classes="column"):
                yield Heading("CASES, BEFORE → AFTER", id="cases-heading")
                yield RuledTable(id="cases")
                yield Prose(id="totals")
                yield Heading("TRIES SO FAR", id="tries-heading").add_class("spaced", "roomy")
                with VerticalScroll(id="tries-scroll", can_focus=False).add_class("roomy"):
                    yield Prose(id="tries")

    def on_mount(self) -> None:
        """The keys go to the program."""
        self.query_one(ProgramEditor).focus()
        self.watch(self.app, "theme", self._wear, init=False)

    def _wear(self) -> None:
        self.query_one(ProgramEditor).wear()

    @property
    def focus_now(self) -> Focus:
        """In the program, in the search, or in neither."""
        if isinstance(self.focused, ProgramEditor):
            return "program"
        return "search" if isinstance(self.focused, Input) else "station"

    # -- showing -----------------------------------------------------------------------------

    def show_body(self, parts: frozenset[Part]) -> None:
        """Bring editor, cases and tries up to date."""
        draft = self.workspace.mending.draft
        if draft is None:
            return
        if parts & {Part.DRAFT, Part.PROGRAM, Part.LEADS, Part.TRACE, Part.MARKS}:
            self._show_editor(draft)
        if parts & {Part.DRAFT, Part.PROGRAM, Part.CASES, Part.TRIES, Part.MARKS}:
            self._show_cases(draft)
        if parts & {Part.TRIES, Part.MARKS}:
            tries = self.workspace.tries.all
            self.query_one("#tries-heading", Heading).right = f"{len(tries)}" if tries else ""
            self.query_one("#tries", Prose).write(lambda width: tries_lines(tries, width))

    def _show_editor(self, draft: Draft) -> None:
        editor, heading = self.query_one(ProgramEditor), self.query_one("#editor-heading", Heading)
        if draft is not self._shown:
            editor.speak(language_of(draft.source.name))
            editor.load_text(draft.text)
        elif draft.revision != self._revision and editor.text != draft.text:
            editor.become(draft.text)
        # Where neither holds, the editor may be ahead by a key that has not been told yet.
        self._shown, self._revision = draft, draft.revision
        if draft.cursor != (-1, -1):
            row = min(draft.cursor[0], editor.document.line_count - 1)
            editor.move_cursor((row, 0))
            editor.action_cursor_line_start()
            draft.cursor = (-1, -1)
        heading.title, heading.lit = draft.source.name.upper(), editor.has_focus
        heading.right = _changed_words(draft)
        editor.mark(_marks(self.workspace, draft), _times(self.workspace, draft))

    def _show_cases(self, draft: Draft) -> None:
        work, table = self.workspace, self.query_one("#cases", RuledTable)
        after = draft.results if draft.changed and draft.tried == draft.text else {}
        self._cases = cases = self._in_order(after)
        width = max(34, table.size.width or 60)
        rows = Rows(
            len(cases),
            lambda n: case_row(cases[n], work.checking.results, after, draft.done is not None),
        )
        longest = max((len(c.name) for c in cases), default=10)
        table.show(case_columns(width, longest), rows, table.cursor)
        table.styles.height = None if self.has_class("-narrow") else len(cases) + HEAD
        heading = self.query_one("#cases-heading", Heading)
        heading.lit = table.has_focus
        heading.right = _tried_words(draft, len(cases))
        known = self.workspace.tries.before(draft) if draft.shown else None
        roomy = not self.has_class("-narrow")

        def write(width: int) -> list[list[Piece]]:
            fault = draft.fault if draft.changed else work.checking.fault
            if fault is not None and (draft.shown or not draft.changed):
                return [[Piece("═" * width, "rule")], *fault_lines(fault, width)]
            if not cases:
                said = "Without a case nobody can say what a change did. 1, then A, writes one."
                return [[], *wrapped(said, width)]
            return totals_lines(draft, work.checking.results, known, width, roomy)

        self.query_one("#totals", Prose).write(write)

    def _in_order(self, after: Mapping[int, CaseResult]) -> Sequence[Case]:
        """The plan's cases; where there is little room, what changed or is odd stands first."""
        before, cases = self.workspace.checking.results, self.workspace.checking.cases
        if not self.has_class("-narrow"):
            return cases

        def rank(case: Case) -> tuple[bool, bool]:
            was, now = before.get(case.number), after.get(case.number)
            turned = was is not None and now is not None and was.outcome is not now.outcome
            shown = now or was
            return not turned, not (shown is not None and shown.outcome.odd)

        return sorted(cases, key=rank)

    # -- the editor --------------------------------------------------------------------------

    @on(TextArea.Changed, "#editor")
    def changed(self, event: TextArea.Changed) -> None:
        """Something was typed."""
        self.workspace.mending.type(event.text_area.text)

    def action_leave_field(self) -> None:
        """Esc: out of the program, where the letters act; out of the search, back into it."""
        if self.focus_now == "search":
            self.remove_class("-finding")
            self.query_one(ProgramEditor).focus()
        else:
            self.query_one("#cases", RuledTable).focus()

    def on_descendant_focus(self) -> None:
        """Another heading is lit."""
        self._light()

    def _light(self) -> None:
        editor, table = self.query_one(ProgramEditor), self.query_one("#cases", RuledTable)
        self.query_one("#editor-heading", Heading).lit = editor.has_focus
        self.query_one("#cases-heading", Heading).lit = table.has_focus

    def word_of_keys(self) -> str:
        """The word of the program at the cursor."""
        editor = self.query_one(ProgramEditor)
        row, column = editor.cursor_location
        found = re.finditer(r"\w+|==|//|[^\w\s]+", editor.document[row])
        return next((m.group() for m in found if m.start() <= column <= m.end()), "")

    def action_edit(self) -> None:
        """Go into the program."""
        self.query_one(ProgramEditor).focus()

    def _line(self) -> int:
        """The line the cursor is on; the last keys are taken in before it is acted on."""
        editor = self.query_one(ProgramEditor)
        self.workspace.mending.type(editor.text)
        return editor.cursor_location[0] + 1

    def action_switch(self) -> None:
        """Switch the line off, or on again."""
        self.workspace.mending.switch_line(self._line())

    def action_keep(self) -> None:
        """Write the change into the file."""
        self._line()
        self.workspace.mending.keep()

    def action_editor(self, what: str) -> None:
        """Something that the editor itself does: ``undo``, ``redo``, ``comment``."""
        getattr(self.query_one(ProgramEditor), f"action_{what}")()

    def action_put_back(self) -> None:
        """The text as the file has it."""
        self.workspace.mending.put_back()

    def action_own_editor(self) -> None:
        """The learner's own editor, on a copy, at this line; what it leaves is in hand then."""
        draft, line = self.workspace.mending.draft, self._line()
        if draft is None:
            return
        text, fault = draft.text, None
        try:
            command = editor_command(self.workspace.preferences.settings.editor)
            with self.app.suspend():
                try:  # within: an error that leaves the block would leave the screen suspended
                    text = edited_with(command, draft.text, draft.source.name, line)
                except OddSumError as error:
                    fault = error
        except OddSumError as error:
            fault = error
        except SuspendNotSupported:
            self.notify("This terminal does not let another program take over the screen.")
            return
        if fault is not None:
            self.notify(str(fault), severity="warning", timeout=10)
        elif text != draft.text:
            self.workspace.mending.put(text.replace("\r\n", "\n"))

    def action_another_file(self) -> None:
        """Take up another of the program's own files."""
        from oddsum.tui.dialogs.choose_file import ChooseFile

        draft, files = self.workspace.mending.draft, self.workspace.mending.other_files()
        if draft is None or not files:
            return
        folder = self.workspace.files.folder

        def take(path: Path | None) -> None:
            if path is not None and path != draft.path:
                self.workspace.mending.open(os.path.relpath(path, folder))

        self.app.push_screen(ChooseFile("file", tuple(files), draft.path), take)

    def action_mend(self) -> None:
        """Take over the mend of the lead in hand, where it is uncovered."""
        self.workspace.mending.take_over_lead_in_hand()

    def action_advice(self) -> None:
        """See what no case tries."""
        self.dialogs.advice()

    def action_by_line(self) -> None:
        """Go to a line by its number."""
        editor = self.query_one(ProgramEditor)
        most = editor.document.line_count

        def go(text: str | None) -> None:
            if text is not None:
                editor.move_cursor((int(text) - 1, 0), center=True)
                editor.focus()

        page = Ask("GO TO A LINE", "Which line?", "", partial(check_line, most), example="12")
        self.app.push_screen(page, go)

    # -- the cases ---------------------------------------------------------------------------

    def _case_in_hand(self) -> Case | None:
        row = self.query_one("#cases", RuledTable).cursor
        return self._cases[row] if 0 <= row < len(self._cases) else None

    def action_trace(self) -> None:
        """Follow the case in hand, in the program as the file has it."""
        case = self._case_in_hand()
        if case is not None:
            self.workspace.trace_from_mend(case)

    @on(RuledTable.Opened)
    def action_side_by_side(self) -> None:
        """Expected and what comes out now, of the case in hand, whole."""
        case = self._case_in_hand()
        if case is not None:
            self.show_texts(self.workspace.newest_result(case.number))

    def action_find(self) -> None:
        """Find a text in the program."""
        self.add_class("-finding")
        self.query_one(FindBar).begin()


def _times(work: Workspace, draft: Draft) -> dict[int, int]:
    """How often each line ran in the case that was traced last, where it is as it was then."""
    traced, name = work.tracing.traced, draft.source.name
    if traced is None or traced.stale:
        return {}
    times = {new: traced.story.times_run(name, old)
             for old, new in draft.unchanged_lines().items()}  # fmt: skip
    return {line: count for line, count in times.items() if count}


def _marks(work: Workspace, draft: Draft) -> dict[int, Cell]:
    marks: dict[int, Cell] = {}
    search = work.pinpointing.search
    if search is not None and not search.stale and not draft.changed:
        for lead in search.leads[::-1]:
            if lead.file == draft.source.name:
                marks |= dict.fromkeys(lead.lines, cell(lead.letter, "blue", True))
    marks |= dict.fromkeys(draft.changed_lines(), cell("±", "straw", True))
    marks |= dict.fromkeys(
        language_of(draft.source.name).writing.off_lines(draft.text), cell("off", "straw")
    )
    fault = draft.fault if draft.changed else work.checking.fault
    if fault is not None and fault.line and fault.file == draft.source.name:
        marks[fault.line] = cell("!", "stopped", True)
    return marks


def _changed_words(draft: Draft) -> str:
    if draft.conflict:
        return "~ the file was changed outside"
    count = len(draft.edits)
    if not count:
        return "as the file has it"
    where = "1 place" if count == 1 else f"{count} places"
    return f"{where} changed, not kept"


def _tried_words(draft: Draft, cases: int) -> str:
    if draft.done is not None:
        return f"{draft.done} of {cases} tried"
    if draft.shown and draft.fault is None:
        return f"tried on a copy in {draft.seconds:.2f} s"
    return ""
