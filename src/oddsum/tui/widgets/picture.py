"""A drawing on the screen: dots of braille, two across and four down to a cell."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from oddsum.model.picture import Segment
from oddsum.tui.glyphs import own
from oddsum.tui.writing import Piece, fitted

Lines = list[list[Piece]]
_DOTS = ((0x01, 0x08), (0x02, 0x10), (0x04, 0x20), (0x40, 0x80))  # of a cell, by row and column
_HIGH = 12  # lines a drawing may take


def beside(
    expected: Sequence[Segment], actual: Sequence[Segment], width: int, high: int = _HIGH
) -> Lines:
    """Two drawings beside each other, in one scale."""
    half = max(8, (width - 3) // 2)
    frame = _frame([*expected, *actual])
    sides = [drawn(lines, frame, half, high) for lines in (expected, actual)]
    lines: Lines = [
        [*fitted((Piece("expected", "quiet"),), half), Piece(" │ ", "rule"),
         Piece("actual", "quiet")],
        [Piece("─" * (half + 1) + "┼" + "─" * max(0, width - half - 2), "rule")],
    ]  # fmt: skip
    for left, right in zip(*sides, strict=True):
        lines.append([*fitted((Piece(left),), half), Piece(" │ ", "rule"), Piece(right)])
    return lines


def alone(lines: Sequence[Segment], width: int, high: int = _HIGH) -> Lines:
    """One drawing."""
    return [[Piece(row)] for row in drawn(lines, _frame(lines), width, high)]


Frame = tuple[float, float, float, float]


def _frame(lines: Sequence[Segment]) -> Frame:
    """The smallest x and y, and how wide and high it is all together."""
    xs = [x for s in lines for x in (s.x1, s.x2)] or [0.0]
    ys = [y for s in lines for y in (s.y1, s.y2)] or [0.0]
    return min(xs), min(ys), max(xs) - min(xs) or 1.0, max(ys) - min(ys) or 1.0


def drawn(lines: Sequence[Segment], frame: Frame, width: int, high: int) -> list[str]:
    """The rows of a drawing, as large as the room lets it be; a step is as wide as high."""
    left, low, wide, tall = frame
    scale = min((width * 2 - 1) / wide, (high * 4 - 1) / tall)
    rows = max(1, int(tall * scale) // 4 + 1)
    cells = [[0] * width for _ in range(rows)]
    for one in lines:
        for x, y in _points(one, left, low, scale):
            column, row = x // 2, rows - 1 - y // 4
            if 0 <= row < rows and 0 <= column < width:
                cells[row][column] |= _DOTS[3 - y % 4][x % 2]
    return ["".join(_cell(dots) for dots in row).rstrip() for row in cells]


def _cell(dots: int) -> str:
    """A cell of dots; with plain marks, a cross where there is any."""
    if not dots:
        return " "
    return chr(0x2800 + dots) if own("×") == "×" else "x"


def _points(one: Segment, left: float, low: float, scale: float) -> Iterator[tuple[int, int]]:
    """The dots that a line touches, one after the other along its longer side."""
    x1, y1 = (one.x1 - left) * scale, (one.y1 - low) * scale
    x2, y2 = (one.x2 - left) * scale, (one.y2 - low) * scale
    count = max(1, round(max(abs(x2 - x1), abs(y2 - y1))))
    for n in range(count + 1):
        yield round(x1 + (x2 - x1) * n / count), round(y1 + (y2 - y1) * n / count)
