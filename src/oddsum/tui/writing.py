"""How widgets write lines: pieces of text in inks, cut and filled to cells."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, field
from typing import Literal

from rich.cells import cell_len, set_cell_size
from rich.segment import Segment
from textual.strip import Strip

from oddsum.source.visible import visible
from oddsum.tui.glyphs import own
from oddsum.tui.theme import ink


@dataclass(frozen=True)
class Piece:
    """A piece of text in one ink. ``ground`` is a colour name, blank for none."""

    text: str
    ink: str = "ink"
    bold: bool = False
    italic: bool = False
    ground: str = ""


Cell = tuple[Piece, ...]
Align = Literal["left", "right"]


def cell(text: str, name: str = "ink", bold: bool = False, italic: bool = False) -> Cell:
    """A cell of one piece."""
    return (Piece(text, name, bold, italic),)


def width_of(pieces: Iterable[Piece]) -> int:
    """Cells that pieces take."""
    return sum(cell_len(p.text) for p in pieces)


def fitted(pieces: Cell, width: int, align: Align = "left") -> list[Piece]:
    """Pieces in exactly so many cells: cut with … where longer, filled where shorter."""
    taken = width_of(pieces)
    if taken > width:
        return _cut(pieces, width)
    blank = Piece(" " * (width - taken))
    return [blank, *pieces] if align == "right" else [*pieces, blank]


def _cut(pieces: Cell, width: int) -> list[Piece]:
    left, kept = max(0, width - 1), []
    for piece in pieces:
        size = cell_len(piece.text)
        text = piece.text if size <= left else set_cell_size(piece.text, left)
        kept.append(Piece(text, piece.ink, piece.bold, piece.italic, piece.ground))
        left -= cell_len(text)
        if left <= 0:
            break
    return [*kept, Piece(own("…") if width else "", "quiet")]


@dataclass
class Line:
    """A line being written."""

    theme: str
    ground: str = "ground"
    segments: list[Segment] = field(default_factory=list)

    def put(self, *pieces: Piece) -> Line:
        """Add pieces; the line's own ground shows where a piece has none."""
        for p in pieces:
            if p.text:
                text = own(p.text) if p.ink == "rule" else p.text
                style = ink(self.theme, p.ink, p.ground or self.ground, p.bold, p.italic)
                self.segments.append(Segment(text, style))
        return self

    def strip(self, width: int) -> Strip:
        """The line as Textual wants it, in exactly so many cells."""
        fill = ink(self.theme, "ink", self.ground)
        return Strip(self.segments).adjust_cell_length(width, fill)


def clean(text: str) -> str:
    """Text for one line of the screen: control characters made visible."""
    if text.isprintable():
        return text
    return visible(text.replace("\t", "    ").replace("\n", "⏎"))
