"""Another arithmetic operator than the one that is meant."""

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

SIGNS: dict[type[ast.operator], str] = {
    ast.Add: "+", ast.Sub: "-", ast.Mult: "*", ast.Div: "/",
    ast.FloorDiv: "//", ast.Mod: "%", ast.Pow: "**",
}  # fmt: skip
_MEANT: dict[str, tuple[tuple[str, float], ...]] = {
    "+": (("-", 0.6), ("*", 0.5)),
    "-": (("+", 0.6), ("*", 0.2)),
    "*": (("+", 0.5), ("**", 0.4), ("/", 0.4)),
    "/": (("//", 0.7), ("*", 0.4), ("%", 0.4)),
    "//": (("/", 0.7), ("%", 0.5), ("*", 0.2)),
    "%": (("//", 0.5), ("/", 0.4)),
    "**": (("*", 0.5),),
}


def slips(source: Source) -> Iterator[Slip]:
    """Each arithmetic operator, in expressions and before ``=``, with each that could be meant."""
    for node in expressions(source, ast.BinOp):
        assert isinstance(node, ast.BinOp)
        sign = SIGNS.get(type(node.op))
        at = operator_between(source, node.left, node.right, sign) if sign else None
        if sign is not None and at is not None:
            yield from _of(source, at, sign, span(source, node).of(source))
    yield from _augmented(source)


def _of(source: Source, at: Span, sign: str, whole: str) -> Iterator[Slip]:
    for new, likely in _MEANT[sign]:
        yield make_slip(
            source,
            "arithmetic",
            at,
            new,
            what=f"{quoted(whole)} works with `{sign}`. Is that the operation that is meant?",
            likely=likely,
        )


def _augmented(source: Source) -> Iterator[Slip]:
    for node in ast.walk(source.tree or ast.Module([], [])):
        if not isinstance(node, ast.AugAssign):
            continue
        sign = SIGNS.get(type(node.op))
        at = operator_between(source, node.target, node.value, f"{sign}=") if sign else None
        if sign is not None and at is not None:
            whole = source.text[span(source, node.target).start : span(source, node.value).stop]
            yield from _of(source, Span(at.start, at.stop - 1), sign, whole)
