"""What is shown when the program or its plan cannot be used: what, where, what to do."""

from __future__ import annotations

from oddsum.model.errors import OddSumError, StartError
from oddsum.tui.widgets.prose import wrapped
from oddsum.tui.writing import Piece, clean

_MOST_SAID = 12  # lines of a compiler's words


def fault_lines(fault: OddSumError, width: int) -> list[list[Piece]]:
    """The fault as a title, a sentence, the line with the one before it, and what to do."""
    starts = isinstance(fault, StartError)
    title = "! The program cannot start" if starts else "! This has to be put right first"
    lines = [[Piece("  "), Piece(title, "stopped", True)]]
    lines += wrapped(fault.text, width - 2, indent=2)
    if isinstance(fault, StartError) and fault.shown:
        lines += _place(fault, width)
    first, *said = fault.hint.split("\n")
    if first:
        lines += wrapped(first, width - 2, "quiet", indent=2)
    for text in said[:_MOST_SAID]:
        lines.append([Piece("    "), Piece(clean(text), "strong")])
    return lines


def _place(fault: StartError, width: int) -> list[list[Piece]]:
    """The line at fault and the one before it, with a mark under the column."""
    lines: list[list[Piece]] = [[]]
    for number, text in fault.shown:
        here = number == fault.line
        label = f"⟨{number}⟩" if here else f"{number} "
        shown = Piece(clean(text)[: width - 10])
        lines.append([Piece(f"{label:>8} ", "stopped" if here else "quiet", here), shown])
    column = fault.column or 0
    if 1 <= column <= width - 10:
        lines.append([Piece(" " * (8 + column)), Piece("┴", "stopped", True)])
    return [*lines, []]
