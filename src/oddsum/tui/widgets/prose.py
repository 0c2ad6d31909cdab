"""Lines of pieces, wrapped where asked: sentences, facts, texts side by side."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from textual.content import Content
from textual.geometry import Size
from textual.strip import Strip
from textual.widget import Widget

from oddsum.tui.writing import Line, Piece

Writer = Callable[[int], Sequence[Sequence[Piece]]]  # width in cells to lines


class Prose(Widget):
    """Shows what a writer writes for the width there is; as high as that needs."""

    DEFAULT_CSS = "Prose { height: auto; }"

    def __init__(self, writer: Writer | None = None, *, id: str | None = None) -> None:
        super().__init__(id=id)
        self._writer: Writer = writer or (lambda width: ())
        self._lines: Sequence[Sequence[Piece]] = ()
        self._for = -1

    def write(self, writer: Writer) -> None:
        """Show something else. A page is laid out anew only where its height changes."""
        before, width = len(self._lines), self._for
        self._writer, self._for = writer, -1
        same = width > 0 and width == self.size.width and len(self._written(width)) == before
        self.refresh(layout=not same)

    def get_content_height(self, container: Size, viewport: Size, width: int) -> int:
        """As many lines as the writer writes."""
        return len(self._written(width))

    def _written(self, width: int) -> Sequence[Sequence[Piece]]:
        if width != self._for:
            self._lines, self._for = self._writer(width), width
        return self._lines

    def render_line(self, y: int) -> Strip:
        """Draw one line."""
        width = self.size.width
        lines = self._written(width)
        line = Line(self.app.theme)
        if y < len(lines):
            line.put(*lines[y])
        return line.strip(width)


def wrapped(text: str, width: int, ink: str = "ink", bold: bool = False,
            indent: int = 0) -> list[list[Piece]]:  # fmt: skip
    """A sentence over as many lines as it needs; parts in backquotes are inked as code."""
    parts = [(part, _CODE if n % 2 else _SAID) for n, part in enumerate(text.split("`"))]
    lines = Content.assemble(*parts).wrap(max(8, width - indent))
    pad = [Piece(" " * indent)] if indent else []
    return [pad + _pieces(line.rstrip(), ink, bold) for line in lines] or [pad]


_SAID, _CODE = "said", "code"


def _pieces(line: Content, ink: str, bold: bool) -> list[Piece]:
    """A line that was wrapped, in inks: these follow the theme, which ``Content`` knows not."""
    return [
        Piece(line.plain[s.start : s.end], "strong" if s.style == _CODE else ink,
              bold or s.style == _CODE)
        for s in line.spans
    ]  # fmt: skip


def titled(title: str, width: int, right: str = "") -> list[Piece]:
    """A heading set in a rule, as wide as there is room."""
    rule = max(0, width - len(title) - 4 - (len(right) + 1 if right else 0))
    line = [Piece("── ", "rule"), Piece(title, "straw", True), Piece(" " + "─" * rule, "rule")]
    return [*line, Piece(f" {right}", "quiet")] if right else line
