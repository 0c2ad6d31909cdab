"""A list to walk through: the trace behind it follows, and Enter stays there."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace
from typing import ClassVar

from textual import on
from textual.app import ComposeResult
from textual.binding import BindingType
from textual.containers import Vertical
from textual.widgets import Label

from oddsum.tui.actions import bindings_for
from oddsum.tui.dialogs.dialog import Dialog
from oddsum.tui.dialogs.keys_heading import KeysHeading
from oddsum.tui.widgets.ruled_table import HEAD, Column, RuledTable
from oddsum.tui.writing import Cell

_MOST_ROWS = 16
_NARROWEST = 10  # cells that a column is made at least


def fitting_columns(columns: Sequence[Column], width: int) -> list[Column]:
    """Columns made narrower, the widest first, until they fit into so many cells."""
    widths = [c.width for c in columns]
    rules = sum(3 if c.ruled else 1 for c in columns)
    while sum(widths) + rules > width and max(widths, default=0) > _NARROWEST:
        widths[widths.index(max(widths))] -= 1
    return [replace(c, width=w) for c, w in zip(columns, widths, strict=True)]


class Pick(Dialog[int | None]):
    """Closes with a row's number from 0, or None. ``on_row`` is told each row that is reached.

    ``keys`` names the dialog of the table of actions whose words stand in the heading.
    """

    BINDINGS: ClassVar[list[BindingType]] = [*bindings_for("pick")]

    def __init__(
        self,
        title: str,
        columns: Sequence[Column],
        rows: Sequence[Sequence[Cell]],
        *,
        hint: str = "",
        hint_of: Callable[[int], str] | None = None,
        keys: str = "pick",
        start: int = 0,
        on_row: Callable[[int], None] | None = None,
    ) -> None:
        super().__init__(classes="page low")
        self._title, self._columns, self._rows = title, columns, rows
        self._hint, self._keys, self._start = hint, keys, start
        self._on_row = on_row
        self._hint_of = hint_of

    def compose(self) -> ComposeResult:
        """The rows, and a sentence under them."""
        with Vertical(id="card", classes="-wide"):
            yield KeysHeading(self._title, self._keys)
            yield RuledTable(id="rows")
            if self._hint or self._hint_of is not None:
                yield Label(self._hint, classes="hint", id="hint")

    def on_mount(self) -> None:
        """Begin where it was said."""
        table = self.query_one(RuledTable)
        room = max(3, self.app.size.height // 2 - 4)
        table.styles.height = min(len(self._rows), _MOST_ROWS, room) + HEAD
        table.show(fitting_columns(self._columns, self.app.size.width - 4), self._rows, self._start)
        table.focus()
        self._tell(self._start)

    def _tell(self, row: int) -> None:
        if self._hint_of is not None:
            self.query_one("#hint", Label).update(self._hint_of(row))

    @on(RuledTable.Moved)
    def moved(self, message: RuledTable.Moved) -> None:
        """Another row was reached."""
        self._tell(message.row)
        if self._on_row is not None:
            self._on_row(message.row)

    @on(RuledTable.Opened)
    def chosen(self, message: RuledTable.Opened) -> None:
        """A row was taken."""
        self.close(message.row)
