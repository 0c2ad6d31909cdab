"""A pair of parentheses that is missing in an arithmetic expression."""

from __future__ import annotations

import ast
from collections.abc import Iterator

from oddsum.model.lead import Slip
from oddsum.pinpoint.edits.place import Span, expressions, make_slip, quoted, span
from oddsum.source.program import Source

_MOST_OPERANDS = 7


def slips(source: Source) -> Iterator[Slip]:
    """Each run of operands put in parentheses, where that changes what is worked out."""
    inner: set[int] = set()
    for node in expressions(source, ast.BinOp):
        assert isinstance(node, ast.BinOp)
        if id(node) in inner:
            continue
        operands = list(_operands(source, node, inner))
        if 3 <= len(operands) <= _MOST_OPERANDS:
            yield from _grouped(source, node, operands)


def _operands(source: Source, node: ast.expr, inner: set[int]) -> Iterator[Span]:
    """The operands of a chain in the order of the text; what is in parentheses is one of them."""
    if not isinstance(node, ast.BinOp):
        yield span(source, node)
        return
    whole = span(source, node)
    for side in (node.left, node.right):
        if isinstance(side, ast.BinOp) and not _in_parentheses(source, whole, node, side):
            inner.add(id(side))
            yield from _operands(source, side, inner)
        else:
            yield _with_parentheses(source, whole, node, side)


def _in_parentheses(source: Source, whole: Span, node: ast.BinOp, side: ast.expr) -> bool:
    return _with_parentheses(source, whole, node, side) != span(source, side)


def _with_parentheses(source: Source, whole: Span, node: ast.BinOp, side: ast.expr) -> Span:
    """The stretch an operand takes with the parentheses around it, if it has some."""
    own = span(source, side)
    if side is node.left:
        if whole.start == own.start:
            return own
        between = source.text[own.stop : span(source, node.right).start]
        return Span(whole.start, own.stop + between.rfind(")") + 1)
    if whole.stop == own.stop:
        return own
    between = source.text[span(source, node.left).stop : own.start]
    return Span(own.start - len(between) + between.find("("), whole.stop)


def _grouped(source: Source, node: ast.BinOp, operands: list[Span]) -> Iterator[Slip]:
    whole = span(source, node)
    text = whole.of(source)
    plain = _meaning(text)
    for first in range(len(operands)):
        for last in range(first + 1, len(operands)):
            if last - first + 1 == len(operands):
                continue
            start, stop = operands[first].start - whole.start, operands[last].stop - whole.start
            new = f"{text[:start]}({text[start:stop]}){text[stop:]}"
            if plain is None or _meaning(new) in (None, plain):
                continue
            yield make_slip(
                source,
                "parentheses",
                whole,
                new,
                what=f"{quoted(text)} is not worked out from left to right: `*`, `/`, `//` and `%` "
                "come before `+` and `-`. What belongs together here?",
                likely=0.7 if first == 0 else 0.5,
            )


def _meaning(text: str) -> str | None:
    try:
        return ast.dump(ast.parse(f"({text})", mode="eval"))
    except SyntaxError:
        return None
