"""Every question in a learner's words: numbered, found by typing a part of one."""

from __future__ import annotations

from typing import ClassVar

from textual import on
from textual.app import ComposeResult
from textual.binding import BindingType
from textual.containers import Vertical
from textual.widgets import Input, Label

from oddsum.tui.actions import bindings_for
from oddsum.tui.dialogs.dialog import Dialog
from oddsum.tui.dialogs.keys_heading import KeysHeading
from oddsum.tui.dialogs.pick import fitting_columns
from oddsum.tui.questions.fitting import QUESTION_COLUMNS, Asked, question_rows
from oddsum.tui.widgets.ruled_table import HEAD, RuledTable

_MOST_ROWS = 16
_NARROW = 110  # cells below which what a question shows is told for the one in hand alone


class _Words(Input):
    """A field for letters: digits are left to the list."""

    def check_consume_key(self, key: str, character: str | None) -> bool:
        """Whether a key is typed into it."""
        return not key.isdecimal() and super().check_consume_key(key, character)


class QuestionList(Dialog[Asked | None]):
    """Closes with the question that is asked, or None.

    Letters narrow the list down; a digit asks the question that carries it.
    """

    BINDINGS: ClassVar[list[BindingType]] = [*bindings_for("questions")]

    def __init__(self, asked: list[Asked]) -> None:
        super().__init__(classes="page low")
        self.every, self.shown = asked, asked

    def compose(self) -> ComposeResult:
        """The field that narrows it down, the rows, and what the one in hand shows."""
        with Vertical(id="card", classes="-wide"):
            yield KeysHeading("WHAT DO YOU WANT TO KNOW?", "questions")
            yield _Words(placeholder="type a word to look for: loop, call, from, print ...")
            yield RuledTable(id="rows")
            yield Label("", classes="hint", id="hint")

    def on_mount(self) -> None:
        """All of them; the keys go to the field."""
        table = self.query_one(RuledTable)
        table.can_focus = False
        room = max(4, self.app.size.height // 2 - 5)
        table.styles.height = min(len(self.every), _MOST_ROWS, room) + HEAD
        self._show(0)
        self.query_one(Input).focus()

    def _show(self, row: int) -> None:
        width = self.app.size.width - 4
        count = len(QUESTION_COLUMNS) - (1 if width < _NARROW else 0)
        columns = fitting_columns(QUESTION_COLUMNS[:count], width)
        table = self.query_one(RuledTable)
        table.show(columns, question_rows(self.shown, count), row)
        self._tell(table.cursor)

    def _tell(self, row: int) -> None:
        here = self.shown[row] if 0 <= row < len(self.shown) else None
        words = here.action.tip if here is not None else "No question has this word in it."
        self.query_one("#hint", Label).update(words)

    @on(Input.Changed)
    def narrow_down(self, event: Input.Changed) -> None:
        """Only the questions that have every word of what was typed."""
        words = event.value.casefold().split()
        self.shown = [a for a in self.every if all(w in a.searched for w in words)]
        self._show(0)

    @on(Input.Submitted)
    def ask_in_hand(self) -> None:
        """Enter asks the question in hand."""
        self.action_ask_row(self.query_one(RuledTable).cursor + 1)

    def action_ask_row(self, number: int) -> None:
        """Ask the question in a row, from 1."""
        if 1 <= number <= len(self.shown):
            self.close(self.shown[number - 1])

    def action_move(self, by: int) -> None:
        """The next question, or the one before."""
        table = self.query_one(RuledTable)
        if self.shown:
            table.cursor = (table.cursor + by) % len(self.shown)
            self._tell(table.cursor)

    @on(RuledTable.Moved)
    @on(RuledTable.Asked)
    def clicked(self, message: RuledTable.Moved | RuledTable.Asked) -> None:
        """A row was clicked."""
        self.action_ask_row(message.row + 1)
