"""Two values in each other's place."""

from __future__ import annotations

import ast
import itertools
from collections.abc import Iterator

from oddsum.languages.python.edits.edit_rule import EditRule
from oddsum.languages.python.edits.place import Span, make_edit, span
from oddsum.languages.python.edits.scene import Scene
from oddsum.model.lead import TrialEdit
from oddsum.source.quoting import quoted


class Exchanged(EditRule):
    """Two things that stand in each other's place: arguments, operands, parts of a pair."""

    name = "arguments"
    title = "two values in each other's place"
    explanation = (
        "`a - b` is not `b - a`, and `f(a, b)` is not `f(b, a)`. Look up which comes first, and "
        "follow one case through the line."
    )

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """Arguments, parameters, members of a pair, and operands, exchanged."""
        for node in scene.expressions(ast.Call, ast.Tuple, ast.BinOp):
            if isinstance(node, ast.Call) and len(node.args) > 1:
                yield from self._neighbours(scene, node.args, 0.5, None)
            elif isinstance(node, ast.Tuple):
                yield from self._neighbours(scene, node.elts, 0.4, None)
            elif isinstance(node, ast.BinOp):
                yield from self._operands(scene, node)
        for function in scene.functions.values():
            yield from self._parameters(scene, function)

    def _neighbours(
        self, scene: Scene, parts: list[ast.expr], likely: float, within: ast.expr | None
    ) -> Iterator[TrialEdit]:
        if len(parts) > 6 or any(isinstance(p, ast.Starred) for p in parts):
            return
        pairs = [(a, b) for n, a in enumerate(parts) for b in parts[n + 1 :]]
        for left, right in pairs:
            yield from self._pair(scene, left, right, likely, within)

    def _operands(self, scene: Scene, node: ast.BinOp) -> Iterator[TrialEdit]:
        inner = node.left
        if isinstance(node.op, ast.Add) and isinstance(inner, ast.BinOp):
            yield from self._pair(scene, inner.left, node.right, 0.35, node)  # a + b + c
        if isinstance(inner, ast.BinOp) and _is_mixed(inner.op, node.op):
            yield from self._pair(scene, inner.right, node.right, 0.4, node)  # a * b / c
        ordered = isinstance(node.op, (ast.Sub, ast.Div, ast.FloorDiv, ast.Mod))
        texts = isinstance(node.op, ast.Add) and not _is_number(scene, node)
        if ordered or texts:
            yield from self._pair(scene, node.left, node.right, 0.5 if ordered else 0.45, node)

    def _pair(
        self, scene: Scene, left: ast.expr, right: ast.expr, likely: float, within: ast.expr | None
    ) -> Iterator[TrialEdit]:
        first, second = span(scene, left), span(scene, right)
        source = scene.source
        a, between, b = (
            first.of(source),
            source.text[first.stop : second.start],
            second.of(source),
        )
        if a == b or "#" in between:
            return
        old = f"{a}{between}{b}"
        yield make_edit(
            scene,
            self.name,
            Span(first.start, second.stop),
            _fit(right, b) + between + _fit(left, a),
            likely=likely,
            within=within,
            what=f"{quoted(old)}: which of the two comes first?",
            how=f"Exchange {quoted(a)} and {quoted(b)}.",
        )

    def _parameters(
        self, scene: Scene, function: ast.FunctionDef | ast.AsyncFunctionDef
    ) -> Iterator[TrialEdit]:
        arguments = function.args
        if arguments.defaults or arguments.vararg or arguments.kwonlyargs:
            return
        names = [a for a in arguments.args if a.arg not in ("self", "cls")]
        for left, right in itertools.pairwise(names):
            start = scene.source.offset(left.lineno, left.col_offset)
            stop = scene.source.offset(right.end_lineno or 0, right.end_col_offset or 0)
            old = scene.source.text[start:stop]
            if left.annotation or right.annotation or old.count(",") != 1:
                continue
            new = old.replace(left.arg, "\0", 1)
            head, tail = new.split("\0")
            new = right.arg + head + tail[: -len(right.arg)] + left.arg
            yield make_edit(
                scene,
                self.name,
                Span(start, stop),
                new,
                likely=0.35,
                what=f"The parameters {quoted(old)}: do the calls give them in this order?",
                how=f"Exchange {quoted(left.arg)} and {quoted(right.arg)}.",
            )


def _is_mixed(first: ast.operator, then: ast.operator) -> bool:
    """Whether of three operands the last two do opposite things to the first."""
    families = ({ast.Mult, ast.Div}, {ast.Mult, ast.FloorDiv}, {ast.Add, ast.Sub})
    return {type(first), type(then)} in families


def _fit(node: ast.expr, text: str) -> str:
    return f"({text})" if isinstance(node, (ast.BinOp, ast.BoolOp, ast.IfExp)) else text


def _is_number(scene: Scene, node: ast.BinOp) -> bool:
    """Whether a sum is one of numbers, as far as can be told."""
    for side in (node.left, node.right):
        if isinstance(side, ast.Constant):
            return isinstance(side.value, (int, float))
        if isinstance(side, ast.Name):
            types = scene.types_of(side.id, side)
            if types:
                return not types & {"str", "list", "tuple"}
    return False
