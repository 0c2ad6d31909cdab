"""Mend: one thing is changed, and every case shows at once what that did to it."""

from __future__ import annotations

import os
import re
from collections.abc import Iterable, Mapping, Sequence
from pathlib import Path
from typing import ClassVar

from textual import on
from textual.binding import BindingType
from textual.containers import Horizontal, Vertical, VerticalScroll
from textual.widget import Widget
from textual.widgets import Input, Label, TextArea

from oddsum.model.case import Case
from oddsum.model.errors import OddSumError
from oddsum.model.outcome import CaseResult
from oddsum.source.switch import off_lines
from oddsum.tui.actions import bindings_of
from oddsum.tui.dialogs.ask import Ask
from oddsum.tui.dialogs.texts import TextsPage
from oddsum.tui.draft import Draft
from oddsum.tui.mending import MendingApp
from oddsum.tui.screens.station import Station
from oddsum.tui.widgets.before_after import case_columns, case_row, totals_lines
from oddsum.tui.widgets.fault import fault_lines
from oddsum.tui.widgets.heading import Heading
from oddsum.tui.widgets.program_editor import ProgramEditor
from oddsum.tui.widgets.prose import Prose, wrapped
from oddsum.tui.widgets.ruled_table import HEAD, Rows, RuledTable
from oddsum.tui.widgets.tries import tries_lines
from oddsum.tui.writing import Cell, Piece, cell


class MendScreen(Station):
    """The program to change at the left; the cases before and after, and the tries, beside it."""

    station = "mend"
    BINDINGS: ClassVar[list[BindingType]] = [*bindings_of("mend")]

    def __init__(self) -> None:
        super().__init__()
        self._cases: Sequence[Case] = ()  # as they stand in the list
        self._shown: Draft | None = None  # what the editor has, and which revision of it
        self._revision = 0

    @property
    def mending(self) -> MendingApp:
        """The application, as what it is."""
        app = self.app
        assert isinstance(app, MendingApp)
        return app

    def compose_body(self) -> Iterable[Widget]:
        """Lay out the editor, the cases and the tries."""
        with Horizontal(id="body"):
            with Vertical(id="left", classes="column"):
                yield Heading(id="editor-heading")
                yield ProgramEditor(id="editor")
                with Horizontal(id="find-bar"):
                    yield Label("find ", id="find-label")
                    yield Input(id="find", compact=True)
                    yield Label("", id="found")
            yield Vertical(classes="gap")
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

    def on_screen_resume(self) -> None:
        """Take up a file, where none is in hand yet."""
        self.mending.open_draft()
        self.show()

    # -- showing -----------------------------------------------------------------------------

    def show_body(self) -> None:
        """Bring editor, cases and tries up to date."""
        draft = self.work.draft
        if draft is None:
            return
        self._show_editor(draft)
        self._show_cases(draft)
        tries = self.work.tries
        self.query_one("#tries-heading", Heading).right = f"{len(tries)}" if tries else ""
        self.query_one("#tries", Prose).write(lambda width: tries_lines(tries, width))

    def _show_editor(self, draft: Draft) -> None:
        editor, heading = self.query_one(ProgramEditor), self.query_one("#editor-heading", Heading)
        if draft is not self._shown:
            editor.language = "python" if draft.path.suffix == ".py" else None
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
        editor.mark(self._marks(draft), self._times(draft))

    def _times(self, draft: Draft) -> dict[int, int]:
        """How often each line ran in the case that was traced last, where it is as it was then."""
        traced, name = self.work.traced, draft.source.name
        if traced is None or traced.stale:
            return {}
        times = {new: traced.story.times_run(name, old)
                 for old, new in draft.unchanged_lines().items()}  # fmt: skip
        return {line: count for line, count in times.items() if count}

    def _marks(self, draft: Draft) -> dict[int, Cell]:
        marks: dict[int, Cell] = {}
        search = self.work.search
        if search is not None and not search.stale and not draft.changed:
            for lead in search.leads[::-1]:
                if lead.file == draft.source.name:
                    marks |= dict.fromkeys(lead.lines, cell(lead.letter, "blue", True))
        marks |= dict.fromkeys(draft.changed_lines(), cell("±", "straw", True))
        marks |= dict.fromkeys(off_lines(draft.text), cell("off", "straw"))
        fault = draft.fault if draft.changed else self.work.fault
        if fault is not None and fault.line and fault.file == draft.source.name:
            marks[fault.line] = cell("!", "stopped", True)
        return marks

    def _show_cases(self, draft: Draft) -> None:
        work, table = self.work, self.query_one("#cases", RuledTable)
        after = draft.results if draft.changed and draft.tried == draft.text else {}
        self._cases = cases = self._in_order(after)
        width = max(34, table.size.width or 60)
        rows = Rows(
            len(cases), lambda n: case_row(cases[n], work.results, after, draft.trying is not None)
        )
        longest = max((len(c.name) for c in cases), default=10)
        table.show(case_columns(width, longest), rows, table.cursor)
        table.styles.height = None if self.has_class("-narrow") else len(cases) + HEAD
        heading = self.query_one("#cases-heading", Heading)
        heading.lit = table.has_focus
        heading.right = _tried_words(draft, len(cases))
        before = self.mending.tried_before(draft) if draft.shown else None
        roomy = not self.has_class("-narrow")

        def write(width: int) -> list[list[Piece]]:
            fault = draft.fault if draft.changed else work.fault
            if fault is not None and (draft.shown or not draft.changed):
                return [[Piece("═" * width, "rule")], *fault_lines(fault, width)]
            if not cases:
                said = "Without a case nobody can say what a change did. 1, then A, writes one."
                return [[], *wrapped(said, width)]
            return totals_lines(draft, work.results, before, width, roomy)

        self.query_one("#totals", Prose).write(write)

    def _in_order(self, after: Mapping[int, CaseResult]) -> Sequence[Case]:
        """The plan's cases; where there is little room, what changed or is odd stands first."""
        before, cases = self.work.results, self.work.cases
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
        self.mending.draft_changed(event.text_area.text)

    @on(ProgramEditor.Left)
    def leave_editor(self) -> None:
        """Esc: the letters act."""
        self.query_one("#cases", RuledTable).focus()
        self.show()

    def word_of_keys(self) -> str:
        """The word of the program at the cursor."""
        editor = self.query_one(ProgramEditor)
        row, column = editor.cursor_location
        found = re.finditer(r"\w+|==|//|[^\w\s]+", editor.document[row])
        return next((m.group() for m in found if m.start() <= column <= m.end()), "")

    def action_edit(self) -> None:
        """Go into the program."""
        self.query_one(ProgramEditor).focus()
        self.show()

    def _line(self) -> int:
        """The line the cursor is on; the last keys are taken in before it is acted on."""
        editor = self.query_one(ProgramEditor)
        self.mending.draft_changed(editor.text)
        return editor.cursor_location[0] + 1

    def action_switch(self) -> None:
        """Switch the line off, or on again."""
        self.mending.switch_line(self._line())

    def action_keep(self) -> None:
        """Write the change into the file."""
        self.mending.draft_changed(self.query_one(ProgramEditor).text)
        self.mending.keep_draft()

    def action_put_back(self) -> None:
        """The text as the file has it."""
        self.mending.put_back()

    def action_own_editor(self) -> None:
        """The learner's own editor, at this line."""
        self.mending.use_own_editor(self._line())

    def action_another_file(self) -> None:
        """Take up another of the program's own files."""
        from oddsum.source.outline import own_modules
        from oddsum.tui.dialogs.choose_file import ChooseFile

        draft = self.work.draft
        if draft is None:
            return
        folder = self.work.program.resolve().parent
        files = own_modules(self.work.program)
        if draft.changed or len(files) < 2:
            self.notify(f"Keep or put back what you changed in {draft.source.name} first."
                        if draft.changed else "This program has one file of its own.")  # fmt: skip
            return

        def take(path: Path | None) -> None:
            if path is not None and path != draft.path:
                self.mending.open_draft(os.path.relpath(path, folder))
                self.show()

        self.app.push_screen(ChooseFile("file", files, draft.path), take)

    def action_comment(self) -> None:
        """Comment the marked lines, or take that back."""
        self.query_one(ProgramEditor).action_comment()

    def action_mend(self) -> None:
        """Take over the mend of the lead in hand, where it is uncovered."""
        search = self.work.search
        lead = search.lead_in_hand() if search is not None else None
        if search is None or lead is None:
            self.notify("No lead is there to take over. 3 looks for leads.")
            return
        if search.level(lead) < 2 or lead.mend is None:
            self.notify(f"Lead {lead.letter} is not uncovered so far: change line "
                        f"{lead.lines[0]} yourself, or uncover it with 3 and Enter.")  # fmt: skip
        self.mending.take_over(lead)
        self.show()

    def action_by_line(self) -> None:
        """Go to a line by its number."""
        editor = self.query_one(ProgramEditor)
        most = editor.document.line_count

        def check(text: str) -> None:
            if not (text.strip().isdecimal() and 1 <= int(text) <= most):
                raise OddSumError(f"The program has lines 1 to {most}.")

        def go(text: str | None) -> None:
            if text is not None:
                editor.move_cursor((int(text) - 1, 0), center=True)
                editor.focus()

        self.app.push_screen(Ask("GO TO A LINE", "Which line?", "", check, example="12"), go)

    def action_trace(self) -> None:
        """Follow the case in hand, in the program as the file has it."""
        draft, cases = self.work.draft, self._cases
        row = self.query_one("#cases", RuledTable).cursor
        if draft is not None and draft.changed:
            self.notify("Trace follows the program as its file has it: keep your change first, or "
                        "put it back.")  # fmt: skip
        elif 0 <= row < len(cases):
            self.odd_sum.open_trace(cases[row])

    @on(RuledTable.Opened)
    def open_case(self, message: RuledTable.Opened) -> None:
        """Expected and what comes out now, whole."""
        draft, cases = self.work.draft, self._cases
        number = cases[message.row].number
        tried = draft.results if draft is not None and draft.changed else {}
        result = tried.get(number) or self.work.results.get(number)
        if result is not None:
            self.app.push_screen(TextsPage(result))

    def action_side_by_side(self) -> None:
        """The case in hand, whole."""
        table = self.query_one("#cases", RuledTable)
        if self._cases:
            self.open_case(RuledTable.Opened(table, max(0, table.cursor)))

    # -- finding -----------------------------------------------------------------------------

    def action_find(self) -> None:
        """Find a text in the program."""
        self.add_class("-finding")
        editor, field = self.query_one(ProgramEditor), self.query_one("#find", Input)
        if editor.selected_text and "\n" not in editor.selected_text:
            field.value = editor.selected_text
        field.focus()
        self._find(0)

    @on(Input.Changed, "#find")
    def find_typed(self) -> None:
        """The first place from here on."""
        self._find(0)

    @on(Input.Submitted, "#find")
    def find_next(self) -> None:
        """The next place."""
        self._find(1)

    def _find(self, step: int) -> None:
        editor, wanted = self.query_one(ProgramEditor), self.query_one("#find", Input).value
        label = self.query_one("#found", Label)
        places = _places(editor.text, wanted)
        if not places:
            label.update("nowhere" if wanted else "Enter: the next · Esc: back")
            return
        here = min(editor.selection)
        at = next((n for n, p in enumerate(places) if p > here or (p == here and not step)), 0)
        row, column = places[at]
        editor.selection = type(editor.selection)((row, column), (row, column + len(wanted)))
        editor.scroll_cursor_visible(center=True)
        label.update(f"{at + 1} of {len(places)} · Enter: the next · Esc: back")

    def action_leave_find(self) -> None:
        """Back to the program; or, outside of the search, stop what is running."""
        if self.has_class("-finding"):
            self.remove_class("-finding")
            self.query_one(ProgramEditor).focus()
        else:
            self.odd_sum.action_stop_work()


def _places(text: str, wanted: str) -> Sequence[tuple[int, int]]:
    """Where a text stands, capitals or not: rows and columns from 0."""
    if not wanted:
        return ()
    found = []
    for row, line in enumerate(text.lower().split("\n")):
        at = line.find(wanted.lower())
        while at >= 0:
            found.append((row, at))
            at = line.find(wanted.lower(), at + len(wanted))
    return found


def _changed_words(draft: Draft) -> str:
    if draft.conflict:
        return "~ the file was changed outside"
    count = len(draft.edits)
    if not count:
        return "as the file has it"
    where = "1 place" if count == 1 else f"{count} places"
    return f"{where} changed, not kept"


def _tried_words(draft: Draft, cases: int) -> str:
    if draft.trying is not None:
        return f"{draft.trying} of {cases} tried"
    if draft.shown and draft.fault is None:
        return f"tried on a copy in {draft.seconds:.2f} s"
    return ""
