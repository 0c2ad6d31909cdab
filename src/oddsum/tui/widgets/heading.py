"""A heading set in the rule above its panel."""

from __future__ import annotations

from rich.cells import cell_len
from textual.reactive import reactive
from textual.strip import Strip
from textual.widget import Widget

from oddsum.tui.glyphs import own
from oddsum.tui.writing import Line, Piece


class Heading(Widget):
    """``── TITLE ─────── what stands at the right ──``; blue where its panel has the focus."""

    DEFAULT_CSS = "Heading { height: 1; }"
    title: reactive[str] = reactive("")
    right: reactive[str] = reactive("")
    lit: reactive[bool] = reactive(False)

    def __init__(self, title: str = "", right: str = "", *, id: str | None = None) -> None:
        super().__init__(id=id)
        self.set_reactive(Heading.title, title)
        self.set_reactive(Heading.right, right)

    def render_line(self, y: int) -> Strip:
        """Draw the rule with the heading in it."""
        width = self.size.width
        rule = "blue" if self.lit else "rule"
        title = own(self.title)
        right = self.shown(width - cell_len(title) - 10)
        line = Line(self.app.theme)
        line.put(Piece(own("── "), rule), Piece(title, "blue" if self.lit else "straw", bold=True))
        tail = cell_len(right) + 4 if right else 0
        fill = width - cell_len(title) - 4 - tail
        line.put(Piece(own(" " + "─" * max(0, fill)), rule))
        if right:
            line.put(Piece(f" {right} ", "quiet"), Piece(own("──"), rule))
        return line.strip(width)

    def shown(self, room: int) -> str:
        """What of ``right`` is drawn in so many cells: as many of its parts as fit."""
        words = self.right
        while words and cell_len(words) > room:
            words = words.rpartition(" · ")[0]
        return words
