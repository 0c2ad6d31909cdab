"""Parentheses that are missing in an expression, or stand where they should not."""

from __future__ import annotations

import ast
from collections.abc import Iterator

from oddsum.languages.python.edits.edit_rule import EditRule
from oddsum.languages.python.edits.place import Span, make_edit, span
from oddsum.languages.python.edits.scene import Scene
from oddsum.languages.python.parsing import expression_of
from oddsum.model.lead import TrialEdit
from oddsum.source.quoting import quoted

_MOST_OPERANDS = 7


class Parentheses(EditRule):
    """What belongs together in a sum or in a condition."""

    name = "parentheses"
    title = "parts that belong together, and are not worked out together"
    explanation = (
        "`*`, `/`, `//` and `%` come before `+` and `-`; `and` comes before `or`. Parentheses say "
        "what belongs together."
    )

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """Each run of operands put in parentheses, and each pair left out, where that matters."""
        inner: set[int] = set()
        for node in scene.expressions(ast.BinOp):
            assert isinstance(node, ast.BinOp)
            if id(node) in inner:
                continue
            operands = list(_operands(scene, node, inner))
            yield from self._dropped(scene, node, operands)
            if 3 <= len(operands) <= _MOST_OPERANDS:
                yield from self._grouped(scene, node, operands)
        for node in scene.expressions(ast.BoolOp):
            assert isinstance(node, ast.BoolOp)
            yield from self._joined(scene, node)

    def _grouped(self, scene: Scene, node: ast.BinOp, operands: list[Span]) -> Iterator[TrialEdit]:
        whole = span(scene, node)
        text = whole.of(scene.source)
        for first in range(len(operands)):
            for last in range(first + 1, len(operands)):
                if last - first + 1 == len(operands):
                    continue
                start = operands[first].start - whole.start
                stop = operands[last].stop - whole.start
                new = f"{text[:start]}({text[start:stop]}){text[stop:]}"
                yield from self._other(scene, node, whole, new, 0.7 if first == 0 else 0.5)

    def _dropped(self, scene: Scene, node: ast.BinOp, operands: list[Span]) -> Iterator[TrialEdit]:
        """Parentheses left out, and moved over to the operand beside them."""
        whole = span(scene, node)
        text = whole.of(scene.source)
        for one in operands:
            inside = one.of(scene.source)
            if inside[:1] == "(" and inside[-1:] == ")":
                start, stop = one.start - whole.start, one.stop - whole.start
                bare = text[:start] + text[start + 1 : stop - 1] + text[stop:]
                yield from self._other(scene, node, whole, bare, 0.4)
                yield from self._moved(scene, node, whole, bare)

    def _moved(self, scene: Scene, node: ast.BinOp, whole: Span, bare: str) -> Iterator[TrialEdit]:
        """Another run of operands in parentheses than the one that has them now."""
        try:
            tree = expression_of(bare)
        except SyntaxError:
            return
        ends = _flat_ends(tree)
        if not isinstance(tree, ast.BinOp) or len(ends) > _MOST_OPERANDS or not bare.isascii():
            return
        for first in range(len(ends)):
            for last in range(first + 1, len(ends)):
                start, stop = ends[first][0], ends[last][1]
                new = f"{bare[:start]}({bare[start:stop]}){bare[stop:]}"
                if last - first + 1 < len(ends):
                    yield from self._other(scene, node, whole, new, 0.4)

    def _other(
        self, scene: Scene, node: ast.BinOp, whole: Span, new: str, likely: float
    ) -> Iterator[TrialEdit]:
        text = whole.of(scene.source)
        if _meaning(text) is None or _meaning(new) in (None, _meaning(text)):
            return
        yield make_edit(
            scene,
            self.name,
            whole,
            new,
            likely=likely,
            within=node,
            what=f"{quoted(text)} is not worked out from left to right: `*`, `/`, `//` and `%` "
            "come before `+` and `-`. What belongs together here?",
        )

    def _joined(self, scene: Scene, node: ast.BoolOp) -> Iterator[TrialEdit]:
        """``a or b and c``: the ``or`` first."""
        inner = [v for v in node.values if isinstance(v, ast.BoolOp)]
        if not isinstance(node.op, ast.Or) or len(node.values) != 2 or len(inner) != 1:
            return
        whole, text = span(scene, node), span(scene, node).of(scene.source)
        _left, right = node.values
        if inner[0] is right:
            stop = span(scene, inner[0].values[0]).stop - whole.start
            new = f"({text[:stop]}){text[stop:]}"
        else:
            start = span(scene, inner[0].values[-1]).start - whole.start
            new = f"{text[:start]}({text[start:]})"
        if _meaning(new) not in (None, _meaning(text)):
            yield make_edit(
                scene,
                self.name,
                whole,
                new,
                likely=0.6,
                within=node,
                what=f"In {quoted(text)} the `and` is worked out before the `or`. Is that meant?",
            )


def _flat_ends(node: ast.expr) -> list[tuple[int, int]]:
    """The ends of the operands of a text of one line, flat."""
    if isinstance(node, ast.BinOp):
        return [*_flat_ends(node.left), *_flat_ends(node.right)]
    return [(node.col_offset, node.end_col_offset or 0)] if node.lineno == 1 else []


def _operands(scene: Scene, node: ast.expr, inner: set[int]) -> Iterator[Span]:
    """The operands of a chain in the order of the text; what is in parentheses is one of them."""
    if not isinstance(node, ast.BinOp):
        yield span(scene, node)
        return
    whole = span(scene, node)
    for side in (node.left, node.right):
        if isinstance(side, ast.BinOp) and not _in_parentheses(scene, whole, node, side):
            inner.add(id(side))
            yield from _operands(scene, side, inner)
        else:
            yield _with_parentheses(scene, whole, node, side)


def _in_parentheses(scene: Scene, whole: Span, node: ast.BinOp, side: ast.expr) -> bool:
    return _with_parentheses(scene, whole, node, side) != span(scene, side)


def _with_parentheses(scene: Scene, whole: Span, node: ast.BinOp, side: ast.expr) -> Span:
    """The stretch an operand takes with the parentheses around it, if it has some."""
    own, text = span(scene, side), scene.source.text
    if side is node.left:
        if whole.start == own.start:
            return own
        between = text[own.stop : span(scene, node.right).start]
        return Span(whole.start, own.stop + between.rfind(")") + 1)
    if whole.stop == own.stop:
        return own
    between = text[span(scene, node.left).stop : own.start]
    return Span(own.start - len(between) + between.find("("), whole.stop)


def _meaning(text: str) -> str | None:
    try:
        return ast.dump(ast.Expression(expression_of(f"({text})")))
    except SyntaxError:
        return None
