"""A text that is looked for in the program: a field under the editor."""

from __future__ import annotations

from collections.abc import Sequence

from textual import on
from textual.app import ComposeResult
from textual.containers import Horizontal
from textual.widgets import Input, Label

from oddsum.tui.widgets.program_editor import ProgramEditor


class FindBar(Horizontal):
    """Looks through the editor of the screen it stands on."""

    def __init__(self) -> None:
        super().__init__(id="find-bar")

    def compose(self) -> ComposeResult:
        """The field, and how many places there are."""
        yield Label("find ", id="find-label")
        yield Input(id="find", compact=True)
        yield Label("", id="found")

    @property
    def _editor(self) -> ProgramEditor:
        return self.screen.query_one(ProgramEditor)

    def begin(self) -> None:
        """Go into the field; what is marked in the program is looked for first."""
        field, marked = self.query_one("#find", Input), self._editor.selected_text
        if marked and "\n" not in marked:
            field.value = marked
        field.focus()
        self._go(0)

    @on(Input.Changed, "#find")
    def typed(self) -> None:
        """The first place from here on."""
        self._go(0)

    @on(Input.Submitted, "#find")
    def next_place(self) -> None:
        """The next place."""
        self._go(1)

    def _go(self, step: int) -> None:
        editor, wanted = self._editor, self.query_one("#find", Input).value
        label = self.query_one("#found", Label)
        places = _places(editor.text, wanted)
        if not places:
            label.update("nowhere" if wanted else "")
            return
        here = min(editor.selection)
        at = next((n for n, p in enumerate(places) if p > here or (p == here and not step)), 0)
        row, column = places[at]
        editor.selection = type(editor.selection)((row, column), (row, column + len(wanted)))
        editor.scroll_cursor_visible(center=True)
        label.update(f"{at + 1} of {len(places)}")


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
