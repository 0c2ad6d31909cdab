"""The program with its margin: line number, times run, mark; and the values beside it."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from itertools import pairwise

from rich.cells import cell_len
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
_VALUES = 22  # cells for values, where there is room


class SourceView(ScrollView, can_focus=False):
    """Shows a program. What stands in the margin is given from above."""

    DEFAULT_CSS = "SourceView { height: 1fr; overflow-x: auto; overflow-y: auto; }"
    current: reactive[int] = reactive(0)  # line, from 1; 0 for none

    @dataclass
    class MarginClicked(Message):
        """A click on a line's margin; lines count from 1."""

        line: int

    def __init__(self, *, id: str | None = None) -> None:
        super().__init__(id=id)
        self.text = ""
        self.grammar = ""
        self.margin = Margin()
        self.values: Mapping[int, Cell] = {}
        self.spots: Mapping[int, tuple[int, int]] = {}
        self.with_values = False

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
        widest = max((cell_len(line) for line in source.text.split("\n")), default=0)
        lines = len(self._lines())
        self.virtual_size = Size(self.margin.width + widest + 2, lines)
        self.current = current
        self.keep_in_sight()
        self.call_after_refresh(self.keep_in_sight)  # how far it scrolls is known only then
        self.refresh()

    def keep_in_sight(self) -> None:
        """Scroll so that the current line can be seen with some lines around it."""
        room = self.scrollable_content_region.height
        if not self.current or room <= 0:
            return
        top, at, margin = int(self.scroll_y), self.current - 1, min(4, room // 3)
        if at < top + margin:
            top = at - margin
        elif at > top + room - 1 - margin:
            top = at - room + 1 + margin
        self.scroll_to(y=max(0, min(top, len(self._lines()) - room)), animate=False)

    def on_resize(self) -> None:
        """Keep the current line in sight when the room changes."""
        self.keep_in_sight()

    def on_click(self, event: events.Click) -> None:
        """A click in the margin is told."""
        line = event.y + int(self.scroll_y) + 1
        if event.x < self.margin.width and line <= len(self._lines()):
            self.post_message(self.MarginClicked(line))

    def _lines(self) -> Sequence[Cell]:
        lines = inked(self.text, self.grammar)
        return lines[:-1] if lines and not lines[-1] else lines

    def render_line(self, y: int) -> Strip:
        """Draw one line of the program with its margin and values."""
        width, number = self.size.width, y + int(self.scroll_y) + 1
        lines = self._lines()
        here = number == self.current
        line = Line(self.app.theme, "lifted" if here else "ground")
        if number > len(lines):
            return line.strip(width)
        values = (
            _VALUES
            if self.with_values and width >= self.margin.width + _LEAST_CODE + _VALUES
            else 0
        )
        code = self._code(number, lines[number - 1])
        room = width - self.margin.width
        if number in self.values or width_of(code) <= room - values - 2:
            room -= values + 2 if values else 0
        else:
            values = 0  # a long line may run on where no value stands
        line.put(*self.margin.of(number, here))
        line.put(*fitted(code, room))
        if values:
            line.put(Piece("│ ", "rule"))
            line.put(*fitted(self.values.get(number, ()), values))
        return line.strip(width)

    def _code(self, number: int, pieces: Cell) -> Cell:
        left = int(self.scroll_x)
        if number in self.spots:
            pieces = _set_off(pieces, *self.spots[number])
        return _from(pieces, left) if left else pieces


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


def _from(pieces: Cell, left: int) -> Cell:
    made = []
    for p in pieces:
        text = p.text[left:]
        left = max(0, left - len(p.text))
        if text:
            made.append(Piece(text, p.ink, p.bold, p.italic, p.ground))
    return tuple(made)
