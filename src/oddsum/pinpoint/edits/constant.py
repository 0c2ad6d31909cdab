"""A whole number that is one too high or one too low."""

from __future__ import annotations

import ast
from collections.abc import Iterator

from oddsum.model.lead import Slip
from oddsum.pinpoint.edits.place import Span, expressions, make_slip, span
from oddsum.source.program import Source


def slips(source: Source) -> Iterator[Slip]:
    """Each whole number, one more and one less."""
    for node in expressions(source, ast.Constant):
        assert isinstance(node, ast.Constant)
        if type(node.value) is not int:
            continue
        at = span(source, node)
        if not at.of(source).isdecimal():  # 0x10, 1_000: written so for a reason
            continue
        for by in (-1, 1):
            new = node.value + by
            yield _of(source, at, node.value, new)


def _of(source: Source, at: Span, old: int, new: int) -> Slip:
    side = "lower" if new < old else "higher"
    return make_slip(
        source,
        "constant",
        at,
        str(new) if new >= 0 else f"({new})",
        what=f"The number {old} on this line is not what the cases expect: they fit one that is "
        f"{side}.",
        likely=0.4 if old in (0, 1) else 0.3,
    )
