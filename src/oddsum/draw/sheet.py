"""A sheet of ruled text: rows of words at columns, thin rules and double ones, on paper."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from typing import TYPE_CHECKING

from oddsum.draw.figure import INK, QUIET, ChartError, Drawing

if TYPE_CHECKING:
    from matplotlib.figure import Figure

_POINTS = 9.0
_CELL = 0.60205 * _POINTS / 72  # inches: DejaVu Sans Mono's letters are 0.602 of its size wide
_ROW = 0.19  # inches
_MARGIN = 0.3
_MOST_ROWS = 2_000

Place = Callable[[float, float], tuple[float, float]]  # column and row to parts of the figure


@dataclass(frozen=True)
class Word:
    """A text at a column, from 0. ``quiet`` is grey, ``ink`` another colour where one is given."""

    column: float
    text: str
    bold: bool = False
    quiet: bool = False
    ink: str = ""


@dataclass(frozen=True)
class Rule:
    """A rule across a row, from a column to another; a double one closes an account."""

    start: float
    stop: float
    double: bool = False


@dataclass
class Sheet:
    """Rows of words and rules. ``edges``: upright rules, each a column and the rows it runs by."""

    title: str
    rows: list[list[Word | Rule]] = field(default_factory=list)
    edges: list[tuple[float, float, float]] = field(default_factory=list)

    def row(self, *words: Word | Rule) -> int:
        """Add a row; returns its number from 0."""
        self.rows.append(list(words))
        return len(self.rows) - 1

    def drawing(self) -> Drawing:
        """The sheet as a drawing, as large as what stands on it. Raises ChartError."""
        if len(self.rows) > _MOST_ROWS:
            raise ChartError(
                f"This would be a drawing of {len(self.rows):,} lines; {_MOST_ROWS:,} are the most."
            )
        widest = max((_end(w) for row in self.rows for w in row), default=10)
        columns = max(widest, len(self.title) + 2, 30)
        width = columns * _CELL + 2 * _MARGIN
        height = (len(self.rows) + 2) * _ROW + 2 * _MARGIN
        return Drawing(width, height, lambda figure: self._draw(figure, width, height),
                       constrained=False)  # fmt: skip

    def _draw(self, figure: Figure, width: float, height: float) -> None:
        def place(column: float, row: float) -> tuple[float, float]:
            x, y = _MARGIN + column * _CELL, height - _MARGIN - (row + 2) * _ROW
            return x / width, y / height

        top = (height - _MARGIN) / height
        figure.text(_MARGIN / width, top, self.title, fontsize=11, va="top", color=INK)
        for number, row in enumerate(self.rows):
            for one in row:
                if isinstance(one, Rule):
                    self._rule(figure, one, place, number)
                else:
                    text = one.text.expandtabs(4)
                    x, y = place(one.column + len(text) - len(text.lstrip()), number)
                    figure.text(x, y, _solid(text.lstrip()), fontsize=_POINTS,
                                family="monospace", va="center",
                                weight="bold" if one.bold else "normal",
                                color=one.ink or (QUIET if one.quiet else INK))  # fmt: skip
        for column, first, last in self.edges:
            self._line(figure, place(column, first), place(column, last))

    def _rule(self, figure: Figure, one: Rule, place: Place, number: int) -> None:
        for shift in (-0.08, 0.08) if one.double else (0.0,):
            self._line(figure, place(one.start, number + shift), place(one.stop, number + shift))

    @staticmethod
    def _line(figure: Figure, start: tuple[float, float], stop: tuple[float, float]) -> None:
        from matplotlib.lines import Line2D

        xs, ys = (start[0], stop[0]), (start[1], stop[1])
        figure.add_artist(Line2D(xs, ys, color=QUIET, linewidth=0.7))


def _solid(text: str) -> str:
    """A text whose runs of blanks stay: SVG makes one blank of several."""
    return text.replace("  ", "\u00a0 ")


def _end(one: Word | Rule) -> float:
    return one.stop if isinstance(one, Rule) else one.column + len(one.text)
