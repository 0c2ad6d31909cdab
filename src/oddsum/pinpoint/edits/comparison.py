"""A comparison too loose, too tight, or the wrong way round."""

from __future__ import annotations

import ast
from collections.abc import Iterator

from oddsum.model.lead import Slip
from oddsum.pinpoint.edits.place import (
    Span,
    expressions,
    make_slip,
    operator_between,
    quoted,
    span,
)
from oddsum.source.program import Source

SIGNS: dict[type[ast.cmpop], str] = {
    ast.Lt: "<", ast.LtE: "<=", ast.Gt: ">", ast.GtE: ">=", ast.Eq: "==", ast.NotEq: "!=",
}  # fmt: skip
# What it could have been meant to be, with how common that slip is; both sides of a limit first.
_MEANT: dict[str, tuple[tuple[str, float], ...]] = {
    "<": (("<=", 0.9), (">", 0.5), (">=", 0.3)),
    "<=": (("<", 0.9), (">=", 0.5), (">", 0.3)),
    ">": ((">=", 0.9), ("<", 0.5), ("<=", 0.3)),
    ">=": ((">", 0.9), ("<=", 0.5), ("<", 0.3)),
    "==": (("!=", 0.4), (">=", 0.3), ("<=", 0.3)),
    "!=": (("==", 0.4), ("<", 0.3), (">", 0.3)),
}
_LIMIT = {("<", "<="), ("<=", "<"), (">", ">="), (">=", ">")}


def slips(source: Source) -> Iterator[Slip]:
    """Each comparison with each sign that could have been meant."""
    for node in expressions(source, ast.Compare):
        assert isinstance(node, ast.Compare)
        left = node.left
        for operator, right in zip(node.ops, node.comparators, strict=True):
            sign = SIGNS.get(type(operator))
            at = operator_between(source, left, right, sign) if sign else None
            if sign is not None and at is not None:
                shown = span(source, left).of(source), span(source, right).of(source)
                yield from _of(source, at, sign, *shown)
            left = right


def _of(source: Source, at: Span, sign: str, left: str, right: str) -> Iterator[Slip]:
    for new, likely in _MEANT[sign]:
        yield make_slip(
            source, "comparison", at, new, what=_words(sign, new, left, right), likely=likely
        )


def _words(sign: str, new: str, left: str, right: str) -> str:
    whole = quoted(f"{left} {sign} {right}")
    if (sign, new) in _LIMIT:
        holds = "also holds" if "=" in sign else "does not hold"
        return (
            f"{whole} {holds} when {quoted(left)} is exactly {quoted(right)}. "
            "Is that the side of the limit that is meant?"
        )
    return f"{whole} asks the opposite of what the cases expect, or not quite that question."
