"""A ruled table: thin column rules, a row that is lifted, only the visible rows drawn."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Any, ClassVar

from textual import events
from textual.binding import Binding, BindingType
from textual.geometry import Size
from textual.message import Message
from textual.reactive import reactive
from textual.scroll_view import ScrollView
from textual.strip import Strip

from oddsum.tui.writing import Align, Cell, Line, Piece, fitted

HEAD = 2  # lines: titles and the rule under them


@dataclass(frozen=True)
class Column:
    """A column: its title, cells wide, and the side its text stands on."""

    title: str
    width: int
    align: Align = "left"
    ruled: bool = True  # whether a rule stands before it
    lit: bool = False  # whether it is the one in hand


class Rows(Sequence[Sequence[Cell]]):
    """Rows that are written when they come into sight: a plan may have thousands."""

    def __init__(self, count: int, row: Callable[[int], Sequence[Cell]]) -> None:
        self._count, self._row = count, row

    def __len__(self) -> int:
        return self._count

    def __getitem__(self, number: Any) -> Any:
        return self._row(number)


def _cells(columns: Sequence[Column]) -> int:
    """Cells that columns take, with their rules and blanks."""
    return sum(c.width + (3 if c.ruled else 1) for c in columns)


class RuledTable(ScrollView, can_focus=True):
    """Rows of cells under column titles. ``cursor`` is the lifted row, from 0, -1 for none."""

    BINDINGS: ClassVar[list[BindingType]] = [
        Binding("up", "move(-1)", "Row above", show=False),
        Binding("down", "move(1)", "Row below", show=False),
        Binding("pageup", "move(-10)", "Ten rows up", show=False),
        Binding("pagedown", "move(10)", "Ten rows down", show=False),
        Binding("home", "to_end(-1)", "First row", show=False),
        Binding("end", "to_end(1)", "Last row", show=False),
        Binding("enter", "open", "Open", show=False),
    ]
    DEFAULT_CSS = "RuledTable { height: 1fr; overflow-x: auto; overflow-y: auto; }"

    cursor: reactive[int] = reactive(0)

    @dataclass
    class Moved(Message):
        """The user moved to another row, from 0."""

        table: RuledTable
        row: int

    @dataclass
    class Opened(Message):
        """The user opened a row, from 0."""

        table: RuledTable
        row: int

    @dataclass
    class Asked(Message):
        """A column's title was clicked, or a cell of the lifted row; the title's row is -1.

        ``column`` counts from 0.
        """

        table: RuledTable
        row: int
        column: int

    def __init__(self, *, id: str | None = None) -> None:
        super().__init__(id=id)
        self.columns: Sequence[Column] = ()
        self.rows: Sequence[Sequence[Cell]] = ()

    def show(
        self,
        columns: Sequence[Column],
        rows: Sequence[Sequence[Cell]],
        cursor: int,
    ) -> None:
        """Show other rows, with the cursor on one of them."""
        self.columns, self.rows = columns, rows
        width = _cells(columns)
        self.virtual_size = Size(width, len(rows) + HEAD)
        self.cursor = min(max(cursor, 0), len(rows) - 1)
        self.keep_in_sight()
        self.call_after_refresh(self.keep_in_sight)  # how far it scrolls is known only then
        self.refresh()

    def keep_in_sight(self) -> None:
        """Scroll so that the lifted row can be seen, with some rows around it where there are."""
        room = self.scrollable_content_region.height - HEAD
        if self.cursor < 0 or room <= 0:
            return
        top, margin = int(self.scroll_y), min(3, room // 3)
        if self.cursor < top + margin:
            top = self.cursor - margin
        elif self.cursor > top + room - 1 - margin:
            top = self.cursor - room + 1 + margin
        self.scroll_to(y=max(0, min(top, len(self.rows) - room)), animate=False)

    def watch_cursor(self) -> None:
        """Another row is lifted."""
        self.keep_in_sight()
        self.refresh()

    def on_resize(self) -> None:
        """Keep the lifted row in sight when the room changes."""
        self.keep_in_sight()

    def action_move(self, by: int) -> None:
        """Move the cursor and tell."""
        self._go(self.cursor + by)

    def action_to_end(self, side: int) -> None:
        """Move to the first or the last row."""
        self._go(0 if side < 0 else len(self.rows) - 1)

    def action_open(self) -> None:
        """Open the lifted row."""
        if self.cursor >= 0:
            self.post_message(self.Opened(self, self.cursor))

    def _go(self, row: int) -> None:
        row = min(max(row, 0), len(self.rows) - 1)
        if row >= 0 and row != self.cursor:
            self.cursor = row
            self.post_message(self.Moved(self, row))

    def on_click(self, event: events.Click) -> None:
        """A click lifts a row; a second one opens it. One on what is in hand asks about it."""
        row, column = event.y - HEAD + int(self.scroll_y), self._column_at(event.x)
        if event.y == 0 and column >= 0:
            self.post_message(self.Asked(self, -1, column))
        if event.y < HEAD or not 0 <= row < len(self.rows):
            return
        if event.chain == 2:
            self.post_message(self.Opened(self, row))
        elif row == self.cursor:
            self.post_message(self.Asked(self, row, column))
        else:
            self._go(row)

    def _column_at(self, x: int) -> int:
        """The column under a cell, from 0; -1 right of all of them."""
        x += int(self.scroll_x)
        for number in range(len(self.columns)):
            if x < _cells(self.columns[: number + 1]):
                return number
        return -1

    def render_line(self, y: int) -> Strip:
        """Draw one line: titles, their rule, or a row."""
        width = max(self.size.width, self.virtual_size.width)
        if y == 0:
            strip = self._titles().strip(width)
        elif y == 1:
            strip = self._rule().strip(width)
        else:
            strip = self._row(y - HEAD + int(self.scroll_y), width)
        left = int(self.scroll_x)
        return strip.crop(left, left + self.size.width)

    def _titles(self) -> Line:
        line = Line(self.app.theme)
        for column in self.columns:
            line.put(Piece("│ " if column.ruled else "", "rule"))
            title = Piece(column.title, "blue" if column.lit else "quiet", column.lit)
            line.put(*fitted((title,), column.width, column.align))
            line.put(Piece(" "))
        return line

    def _rule(self) -> Line:
        line = Line(self.app.theme)
        for column in self.columns:
            line.put(Piece(("┼─" if column.ruled else "") + "─" * (column.width + 1), "rule"))
        return line

    def _row(self, row: int, width: int) -> Strip:
        if not 0 <= row < len(self.rows):
            return Strip.blank(width, self.rich_style)
        line = Line(self.app.theme, "lifted" if row == self.cursor else "ground")
        for column, text in zip(self.columns, self.rows[row], strict=True):
            line.put(Piece("│ " if column.ruled else "", "rule"))
            line.put(*fitted(text, column.width, column.align), Piece(" "))
        return line.strip(width)
