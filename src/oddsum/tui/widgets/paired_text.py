"""Two texts that scroll together, however long: only the lines in sight are aligned and drawn."""

from __future__ import annotations

from typing import ClassVar

from textual.binding import Binding, BindingType
from textual.geometry import Size
from textual.reactive import reactive
from textual.scroll_view import ScrollView
from textual.strip import Strip

from oddsum.tui.widgets.side_by_side import RULE, half_of, paired, sides, titles
from oddsum.tui.writing import Line, Piece, fitted, width_of

HEAD = 2  # lines: titles and the rule under them
_NUMBER = 6  # cells of a line number and the blank behind it
_SIDEWAYS = 16  # cells of one move to the side


class PairedText(ScrollView, can_focus=True):
    """Expected and actual, side by side. ``shift`` is in cells, ``blanks`` makes them visible."""

    BINDINGS: ClassVar[list[BindingType]] = [
        Binding("up", "go(-1)", "Up", show=False),
        Binding("down", "go(1)", "Down", show=False),
        Binding("pageup", "page(-1)", "A page up", show=False),
        Binding("pagedown", "page(1)", "A page down", show=False),
        Binding("home", "end(-1)", "First line", show=False),
        Binding("end", "end(1)", "Last line", show=False),
        Binding("left", "aside(-1)", "To the left", show=False),
        Binding("right", "aside(1)", "To the right", show=False),
        Binding("full_stop", "blanks", "Blanks", show=False),
        Binding("n", "next_odd", "Next difference", show=False),
    ]
    DEFAULT_CSS = "PairedText { height: 1fr; overflow-y: auto; overflow-x: hidden; }"

    blanks: reactive[bool] = reactive(False)
    shift: reactive[int] = reactive(0)

    def __init__(self, expected: str | None, actual: str, differs: bool) -> None:
        super().__init__(id="texts")
        self.said = expected is not None
        self.left, self.right, self.pairs = paired(expected or "", actual)
        self.differs = differs
        self.virtual_size = Size(10, len(self.pairs) + HEAD)

    def on_mount(self) -> None:
        """Begin where the first difference can be seen."""
        self.call_after_refresh(self.action_next_odd, True)

    def action_go(self, by: int) -> None:
        """Scroll by lines."""
        self.scroll_to(y=self.scroll_y + by, animate=False)

    def action_page(self, by: int) -> None:
        """Scroll by pages."""
        self.scroll_to(y=self.scroll_y + by * max(1, self.size.height - HEAD - 1), animate=False)

    def action_end(self, side: int) -> None:
        """Scroll to the first or the last line."""
        self.scroll_to(y=0 if side < 0 else len(self.pairs), animate=False)

    def action_aside(self, by: int) -> None:
        """Move both texts sideways."""
        room = half_of(self.size.width) - _NUMBER
        longest = max(map(len, (*self.left, *self.right)), default=0)
        self.shift = min(max(0, self.shift + by * _SIDEWAYS), max(0, longest - room))

    def action_blanks(self) -> None:
        """Show blanks, or no longer."""
        self.blanks = not self.blanks

    def action_next_odd(self, first: bool = False) -> None:
        """Scroll to the next line that differs below the top; past the last, to the first."""
        odd = [n for n, p in enumerate(self.pairs) if not p.same] if self.differs else []
        if not odd:
            return
        room = max(1, self.size.height - HEAD)
        top = int(self.scroll_y)
        if first and odd[0] < room:
            return
        below = [n for n in odd if n > top + 2]
        self.scroll_to(y=max(0, (odd[0] if first or not below else below[0]) - 2), animate=False)

    def render_line(self, y: int) -> Strip:
        """Draw one line: titles, their rule, or a pair."""
        width = self.size.width
        line = Line(self.app.theme)
        if y < HEAD:
            return line.put(*titles(width)[y]).strip(width)
        number = y - HEAD + int(self.scroll_y)
        if number < len(self.pairs):
            self._pair(line, number, half_of(width))
        return line.strip(width)

    def _pair(self, line: Line, number: int, half: int) -> None:
        pair = self.pairs[number]
        left, right = sides(self.left, self.right, pair, self.differs, self.blanks)
        if not self.said:
            left = (Piece("nothing said yet" if number == 0 else "", "quiet", italic=True),)
            right = (Piece(self.right[number] if number < len(self.right) else ""),)
        odd = self.differs and not pair.same
        line.put(*self._side(left, pair.left, half, odd), Piece(RULE, "rule"))
        line.put(*self._side(right, pair.right, half, odd))

    def _side(
        self, pieces: tuple[Piece, ...], number: int | None, half: int, odd: bool
    ) -> list[Piece]:
        label = "" if number is None else str(number + 1)
        margin = Piece(f"{label:>{_NUMBER - 1}} ", "strong" if odd else "quiet", odd)
        return [margin, *fitted(_shifted(pieces, self.shift), half - _NUMBER)]


def _shifted(pieces: tuple[Piece, ...], by: int) -> tuple[Piece, ...]:
    """Pieces without their first cells."""
    kept: list[Piece] = []
    for piece in pieces:
        if by <= 0:
            kept.append(piece)
            continue
        taken = width_of((piece,))
        if taken > by:
            kept.append(Piece(piece.text[by:], piece.ink, piece.bold, piece.italic, piece.ground))
        by -= taken
    return tuple(kept)
