"""The margin of a source, the same in every view: what speaks against a line, its number, how often
it ran, its mark.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

from oddsum.tui.glyphs import own
from oddsum.tui.writing import Cell, Piece, fitted

_NUMBER, _TIMES, _MARK = 6, 6, 4  # cells: the line's number, times run, its mark
_WEIGHT = 6  # cells for how much speaks against a line, where that is shown


@dataclass(frozen=True)
class Margin:
    """What stands in it, by line from 1. ``weights`` are from 0 to 1."""

    times: Mapping[int, int] = field(default_factory=dict)
    marks: Mapping[int, Cell] = field(default_factory=dict)
    weights: Mapping[int, float] = field(default_factory=dict)

    @property
    def width(self) -> int:
        """Cells it takes."""
        return (_WEIGHT if self.weights else 0) + _NUMBER + (_TIMES if self.times else 0) + _MARK

    def of(self, number: int, here: bool) -> list[Piece]:
        """The pieces beside a line; ``here`` for the one in hand."""
        shown = own(f"⟨{number}⟩") if here else f"{number} "
        pieces = [Piece(shown.rjust(_NUMBER), "blue" if here else "quiet", bold=here)]
        if self.weights:
            full = round(self.weights.get(number, 0.0) * (_WEIGHT - 1))
            pieces.insert(0, Piece(own("▪" * full).rjust(_WEIGHT), "quiet"))
        if self.times:
            times = own(f"×{self.times[number]}") if number in self.times else ""
            pieces.append(Piece(" " + times.ljust(_TIMES - 1), "quiet"))
        return [*pieces, Piece(" "), *fitted(self.marks.get(number, ()), _MARK - 1)]
