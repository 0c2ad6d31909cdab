"""A range or a slice that begins or ends one place off: one round too few or too many."""

from __future__ import annotations

import ast
from collections.abc import Iterator

from oddsum.model.lead import Slip
from oddsum.pinpoint.edits.place import Span, expressions, make_slip, quoted, span
from oddsum.source.program import Source


def slips(source: Source) -> Iterator[Slip]:
    """Each bound of each ``range`` and slice, moved by one."""
    for node in expressions(source, ast.Call, ast.Subscript):
        whole = quoted(span(source, node).of(source))
        if isinstance(node, ast.Call) and getattr(node.func, "id", "") == "range" and node.args:
            bounds = node.args[:2]
            for bound in bounds:
                stop = len(node.args) == 1 or bound is not node.args[0]
                yield from _moved(source, bound, _range_words(whole, stop), stop)
        elif isinstance(node, ast.Subscript) and isinstance(node.slice, ast.Slice):
            for end in (node.slice.lower, node.slice.upper):
                if end is not None:
                    stop = end is node.slice.upper
                    yield from _moved(source, end, _slice_words(whole, stop), stop)


def _range_words(whole: str, stop: bool) -> str:
    if stop:
        return (
            f"{whole} ends before its last number is reached: a range never includes the number it "
            "ends with. Count its rounds against what there is to go over."
        )
    return f"{whole}: look at the number it begins with. Lists begin at item 0."


def _slice_words(whole: str, stop: bool) -> str:
    side = "ends; the item at its end is not included" if stop else "begins; item 0 is the first"
    return f"{whole}: look at where this piece {side}."


def _moved(source: Source, bound: ast.expr, what: str, stop: bool) -> Iterator[Slip]:
    """The bound one more and one less; ``n - 1`` becomes ``n`` rather than ``n - 1 + 1``."""
    at = span(source, bound)
    text = at.of(source)
    for by in (1, -1):
        new, likely = _plus(source, bound, text, by)
        likely += 0.1 if stop else 0.0
        how = f"Write {quoted(new)} instead of {quoted(text)}."
        yield make_slip(source, "bounds", at, new, what=what, likely=likely, how=how)


def _plus(source: Source, bound: ast.expr, text: str, by: int) -> tuple[str, float]:
    if isinstance(bound, ast.Constant) and type(bound.value) is int:
        return str(bound.value + by), 0.7
    if isinstance(bound, ast.BinOp) and isinstance(bound.right, ast.Constant):
        sign = {ast.Add: 1, ast.Sub: -1}.get(type(bound.op), 0)
        if type(bound.right.value) is int and sign:
            total = sign * bound.right.value + by
            left = Span(at_start(source, bound), span(source, bound.left).stop).of(source)
            if total == 0:
                return left, 0.8
            return f"{left} {'+' if total > 0 else '-'} {abs(total)}", 0.5
    simple = isinstance(bound, (ast.Name, ast.Call, ast.Attribute, ast.Subscript))
    body = text if simple else f"({text})"
    return f"{body} {'+' if by > 0 else '-'} 1", 0.7


def at_start(source: Source, node: ast.expr) -> int:
    """Offset where an expression begins."""
    return span(source, node).start
