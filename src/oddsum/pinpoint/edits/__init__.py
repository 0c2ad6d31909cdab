"""The slips that beginners make, as edits of the source text: a file each, a line in SLIPS each.

A slip is a function that takes a Source and yields a Slip for each place where it could have been
made. Formatting and comments of the program stay as they are: an edit replaces a few characters.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator

from oddsum.model.lead import Slip
from oddsum.pinpoint.edits import arithmetic, bounds, comparison, constant, parentheses
from oddsum.source.program import Source

# In this order, the more telling name first: `range(n - 1)` is a bound before it is a constant.
SLIPS: dict[str, Callable[[Source], Iterator[Slip]]] = {
    "comparison": comparison.slips,
    "bounds": bounds.slips,
    "parentheses": parentheses.slips,
    "arithmetic": arithmetic.slips,
    "constant": constant.slips,
}


def all_slips(source: Source) -> list[Slip]:
    """Every slip of every kind that could have been made in a program, each resulting text once."""
    seen = {source.text}
    found = []
    for propose in SLIPS.values():
        for slip in propose(source):
            text = slip_applied(source, slip)
            if text not in seen:
                seen.add(text)
                found.append(slip)
    return found


def slip_applied(source: Source, slip: Slip) -> str:
    """The program's text with the edit made."""
    return source.text[: slip.start] + slip.new + source.text[slip.stop :]
