"""Ruled tables in plain text: columns that fit a width, numbers at the right, a double rule."""

from __future__ import annotations

from rich.cells import cell_len, set_cell_size

from oddsum.source.visible import visible

WIDTH = 80
SINGLE, DOUBLE = "─", "═"


def fit(text: str, width: int) -> str:
    """One line of text in exactly so many cells, cut with … where it is longer."""
    flat = visible(text.replace("\t", " "), kept="")
    if cell_len(flat) > width:
        flat = set_cell_size(flat, max(0, width - 1)).rstrip() + "…"
    return set_cell_size(flat, width)


def one_line(text: str) -> str:
    """A text of several lines on one, with ⏎ between them."""
    return " ⏎ ".join(line.strip() for line in text.strip().splitlines())


def heading(title: str, right: str = "", width: int = WIDTH) -> str:
    """A heading set in a rule."""
    left = f"{SINGLE * 2} {title} "
    end = f" {right} {SINGLE * 2}" if right else ""
    rule = SINGLE * max(0, width - cell_len(left) - cell_len(end))
    return left + rule + end


def row(cells: list[tuple[str, int]], gap: str = "  ") -> str:
    """A row of (text, width) cells; a negative width puts the text at the right."""
    parts = [
        fit(text, width) if width > 0 else " " * (-width - cell_len(text)) + fit(text, min(
            -width, cell_len(text))) if text else " " * -width
        for text, width in cells
    ]  # fmt: skip
    return gap.join(parts).rstrip()
