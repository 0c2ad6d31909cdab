"""The program with its margin: line number, times run, mark; and the values beside it."""

from __future__ import annotations

from bisect import bisect_left
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from itertools import pairwise
from typing import NamedTuple

from rich.cells import cell_len, chop_cells
from textual import events
from textual.geometry import Size
from textual.message import Message
from textual.reactive import reactive
from textual.scroll_view import ScrollView
from textual.strip import Strip

from oddsum.languages import language_of
from oddsum.source.program import Source
from oddsum.tui.widgets.highlight import inked
from oddsum.tui.widgets.margin import Margin
from oddsum.tui.writing import Cell, Line, Piece, fitted, width_of

_LEAST_CODE = 40  # cells of code that must be left before values stand beside it
_VALUES = 22  # cells for values, at least, where there is room
_UNKNOWN = 100_000  # cells of a view that is not laid out yet: nothing is wrapped for it
_FURTHER_IN = 4  # cells that the rest of a long line stands further in


class _Row(NamedTuple):
    """One row of the screen: a line (from 1), and of its text the characters from one to another.

    ``indent``: blanks ahead of it, where it is the rest of a line that has no room on one row.
    """

    line: int
    start: int
    stop: int
    indent: int


class SourceView(ScrollView, can_focus=False):
    """Shows a program. What stands in the margin is given from above. Long lines are wrapped."""

    DEFAULT_CSS = "SourceView { height: 1fr; overflow-x: hidden; overflow-y: auto; }"
    current: reactive[int] = reactive(0)  # line, from 1; 0 for none

    @dataclass
    class MarginClicked(Message):
        """A click on a line's margin; lines count from 1."""

        line: int

    @dataclass
    class LineClicked(Message):
        """A click on a line's text; lines count from 1."""

        line: int

    def __init__(self, *, id: str | None = None) -> None:
        super().__init__(id=id)
        self.text = ""
        self.grammar = ""
        self.margin = Margin()
        self.values: Mapping[int, Cell] = {}
        self.spots: Mapping[int, tuple[int, int]] = {}
        self.with_values = False
        self._plain: list[_Row] = []  # with no value beside any line
        self._rows: list[_Row] = []
        self._rows_for: tuple[object, ...] = ()

    def show(
        self,
        source: Source,
        *,
        times: Mapping[int, int] | None = None,
        marks: Mapping[int, Cell] | None = None,
        values: Mapping[int, Cell] | None = None,
        spots: Mapping[int, tuple[int, int]] | None = None,
        weights: Mapping[int, float] | None = None,
        current: int = 0,
        with_values: bool = False,
    ) -> None:
        """Show a program: times run, marks and values by line; ``spots``: columns to set off;
        ``weights``: how much speaks against a line, from 0 to 1."""
        self.text, self.grammar = source.text, language_of(source.name).grammar
        self.margin = Margin(times or {}, marks or {}, weights or {})
        self.values, self.spots, self.with_values = values or {}, spots or {}, with_values
        self.current = current
        self._lay_out()
        self.call_after_refresh(self.keep_in_sight)  # how far it scrolls is known only then
        self.refresh()

    def _lay_out(self) -> None:
        """Find the rows, where text or room are others now."""
        told = self.text, self.size.width, self.margin.width
        if told != self._rows_for:
            self._rows_for = told
            self._plain = [row for n, line in enumerate(self._lines(), 1)
                           for row in self._rows_of(n, line, self._room())]  # fmt: skip
        self._rows = self._plain
        for line in self.values if self.values_width else ():
            self._make_room_beside(line)
        self.virtual_size = Size(self.size.width, len(self._rows))
        self.keep_in_sight()

    @property
    def values_width(self) -> int:
        """Cells for the values beside the code; 0 where there is no room for any."""
        spare = self.size.width - self.margin.width - _LEAST_CODE - 2
        if not self.with_values or spare < _VALUES:
            return 0
        return max(_VALUES, min(spare, self.size.width * 2 // 5))

    def _make_room_beside(self, line: int) -> None:
        """Wrap the one line beside which a value stands, where it needs more rows for that."""
        start, stop = self._span(line)
        if start == stop:
            return
        narrower = self._rows_of(line, self._lines()[line - 1], self._room(self.values_width + 2))
        if narrower != self._rows[start:stop]:
            self._rows = [*self._rows[:start], *narrower, *self._rows[stop:]]

    def _span(self, line: int) -> tuple[int, int]:
        """The rows of a line: the first, and the one behind the last."""
        return bisect_left(self._rows, (line,)), bisect_left(self._rows, (line + 1,))

    def _room(self, beside: int = 0) -> int:
        """Cells for the code of a line. Where no value stands, it may run on."""
        if not self.size.width:
            return _UNKNOWN
        return max(12, self.size.width - self.margin.width - beside - 1)

    @staticmethod
    def _rows_of(number: int, pieces: Cell, room: int) -> list[_Row]:
        text = "".join(p.text for p in pieces)
        if cell_len(text) <= room:
            return [_Row(number, 0, len(text), 0)]
        indent = min(len(text) - len(text.lstrip()) + _FURTHER_IN, room // 2)
        first = _cut_at(text, room)
        rows, at = [_Row(number, 0, first, 0)], first
        while at < len(text):
            size = _cut_at(text[at:], room - indent)
            rows.append(_Row(number, at, at + size, indent))
            at += size
        return rows

    def keep_in_sight(self) -> None:
        """Scroll so that the current line can be seen with some lines around it."""
        room = self.scrollable_content_region.height
        if not self.current or room <= 0:
            return
        first, behind = self._span(self.current)
        if first == behind:
            return
        top, margin = int(self.scroll_y), min(4, room // 3)
        if first < top + margin:
            top = first - margin
        elif behind > top + room - margin:
            top = behind - room + margin
        self.scroll_to(y=max(0, min(top, len(self._rows) - room)), animate=False)

    def on_resize(self) -> None:
        """Lay it out anew, and keep the current line in sight."""
        self._lay_out()
        self.refresh()

    def on_click(self, event: events.Click) -> None:
        """A click is told: in the margin, or on the text."""
        at = event.y + int(self.scroll_y)
        if at < len(self._rows):
            line = self._rows[at].line
            inside = event.x < self.margin.width
            self.post_message(self.MarginClicked(line) if inside else self.LineClicked(line))

    def _lines(self) -> Sequence[Cell]:
        lines = inked(self.text, self.grammar)
        return lines[:-1] if lines and not lines[-1] else lines

    def render_line(self, y: int) -> Strip:
        """Draw one row of the program with its margin and values."""
        width, at = self.size.width, y + int(self.scroll_y)
        if at >= len(self._rows):
            return Line(self.app.theme).strip(width)
        row = self._rows[at]
        here = row.line == self.current
        line = Line(self.app.theme, "lifted" if here else "ground")
        if row.indent:
            line.put(Piece(" " * (self.margin.width + row.indent)))
        else:
            line.put(*self.margin.of(row.line, here))
        values, room = self.values_width, width - self.margin.width - row.indent
        code = self._code(row)
        if values and (row.line in self.values or width_of(code) <= room - values - 2):
            line.put(*fitted(code, room - values - 2), Piece("│ ", "rule"))
            told = self.values.get(row.line, ())
            line.put(*fitted(_lines_of(told, values, at - self._span(row.line)[0]), values))
        else:
            line.put(*fitted(code, room))
        return line.strip(width)

    def _code(self, row: _Row) -> Cell:
        pieces = self._lines()[row.line - 1]
        if row.line in self.spots:
            pieces = _set_off(pieces, *self.spots[row.line])
        return _between(pieces, row.start, row.stop)


def _cut_at(text: str, room: int) -> int:
    """How many characters of a text go into so many cells: up to a blank, where one is near."""
    most = len(chop_cells(text, max(4, room))[0])
    if most >= len(text):
        return len(text)
    blank = text.rfind(" ", most * 2 // 3, most)
    return blank + 1 if blank > 0 and text[:blank].strip() else most


def _lines_of(pieces: Cell, width: int, number: int) -> Cell:
    """Of values that do not fit beside a line, those beside its further rows."""
    text = "".join(p.text for p in pieces)
    if cell_len(text) <= width or not pieces:
        return pieces if number == 0 else ()
    parts = chop_cells(text, width)
    shown = parts[number] if number < len(parts) else ""
    return (Piece(shown, pieces[0].ink, pieces[0].bold),)


def _set_off(pieces: Cell, start: int, stop: int) -> Cell:
    """The pieces with columns ``start`` to ``stop`` (from 0) on an amber ground."""
    made, at = [], 0
    for p in pieces:
        end = at + len(p.text)
        cuts = sorted({at, end, *(c for c in (start, stop) if at < c < end)})
        for a, b in pairwise(cuts):
            text = p.text[a - at : b - at]
            inside = start <= a and b <= stop
            made.append(
                Piece(text, "ground", True, False, "odd")
                if inside
                else Piece(text, p.ink, p.bold, p.italic)
            )
        at = end
    return tuple(made)


def _between(pieces: Cell, start: int, stop: int) -> Cell:
    """The characters of a line from one to another."""
    made, at = [], 0
    for p in pieces:
        text = p.text[max(0, start - at) : max(0, stop - at)]
        at += len(p.text)
        if text:
            made.append(Piece(text, p.ink, p.bold, p.italic, p.ground))
    return tuple(made)
