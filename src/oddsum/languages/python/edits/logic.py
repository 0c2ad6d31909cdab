"""``and`` for ``or``, a ``not`` too much or too little, a condition turned round."""

from __future__ import annotations

import ast
from collections.abc import Iterator
from itertools import pairwise

from oddsum.languages.python.edits.edit_rule import EditRule
from oddsum.languages.python.edits.place import Span, make_edit, operator_between, span, text_of
from oddsum.languages.python.edits.scene import Scene
from oddsum.model.lead import TrialEdit
from oddsum.source.quoting import quoted

_WORD = {ast.And: "and", ast.Or: "or"}
_SAID = {
    "and": "is true only where all its parts are true",
    "or": "is true as soon as one of its parts is",
}


class Logic(EditRule):
    """Conditions joined, negated or turned round the wrong way."""

    name = "logic"
    title = "a condition that is joined or negated the wrong way"
    explanation = (
        "`and` needs both, `or` is content with one; `not` turns one part round and not the whole. "
        "Write down for one case which part is True and which is False."
    )

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """Other words between conditions, and conditions turned round."""
        for node in scene.expressions(ast.BoolOp, ast.UnaryOp, ast.Compare):
            if isinstance(node, ast.BoolOp):
                yield from self._joined(scene, node)
            elif isinstance(node, ast.UnaryOp) and isinstance(node.op, ast.Not):
                yield from self._without_not(scene, node)
            elif isinstance(node, ast.Compare):
                yield from self._membership(scene, node)
        for statement in scene.statements(ast.If, ast.While):
            assert isinstance(statement, (ast.If, ast.While))
            yield from self._negated(scene, statement.test)

    def _joined(self, scene: Scene, node: ast.BoolOp) -> Iterator[TrialEdit]:
        word = _WORD[type(node.op)]
        other = "or" if word == "and" else "and"
        text = text_of(scene, node)
        what = f"{quoted(text)} {_SAID[word]}. Is that what is meant?"
        for left, right in zip(node.values, node.values[1:], strict=False):
            at = operator_between(scene.source, span(scene, left), span(scene, right), word)
            if at is not None:
                yield make_edit(scene, self.name, at, other, what=what, likely=0.7, within=node)
        for value in node.values:
            yield from self._negated(scene, value, likely=0.45)
        yield from self._fewer(scene, node)
        yield from self._each_asked(scene, node)
        yield from self._summed(scene, node)
        yield from self._of_a_tie(scene, node)

    def _each_asked(self, scene: Scene, node: ast.BoolOp) -> Iterator[TrialEdit]:
        """``day == 'Mon' or 'Tue'``: the second is asked of nothing, and always true."""
        first, *rest = node.values
        if not isinstance(first, ast.Compare) or len(first.ops) != 1:
            return
        if not isinstance(first.ops[0], (ast.Eq, ast.NotEq)):
            return
        alone = [v for v in rest if isinstance(v, (ast.Constant, ast.Name))]
        if not alone or len(alone) != len(rest):
            return
        sign = "==" if isinstance(first.ops[0], ast.Eq) else "!="
        left, word = text_of(scene, first.left), f" {_WORD[type(node.op)]} "
        asked = word.join(
            [text_of(scene, first), *(f"{left} {sign} {text_of(scene, v)}" for v in rest)]
        )
        yield make_edit(
            scene, self.name, span(scene, node), asked, likely=0.85, within=node,
            what=f"{quoted(text_of(scene, alone[0]))} stands alone here: it is not compared with "
            f"{quoted(left)}, and is true by itself.",
        )  # fmt: skip

    def _of_a_tie(self, scene: Scene, node: ast.BoolOp) -> Iterator[TrialEdit]:
        """``n > most or name < best`` with ``n == most`` asked first of the second."""
        if not isinstance(node.op, ast.Or):
            return
        for first, second in pairwise(node.values):
            both = [n for n in (first, second) if isinstance(n, ast.Compare) and len(n.ops) == 1]
            if len(both) < 2 or any(not isinstance(n.ops[0], (ast.Lt, ast.Gt)) for n in both):
                continue
            same = f"{text_of(scene, both[0].left)} == {text_of(scene, both[0].comparators[0])}"
            yield make_edit(
                scene,
                self.name,
                span(scene, second),
                f"({same} and {text_of(scene, second)})",
                likely=0.6,
                within=node,
                what=f"{quoted(text_of(scene, second))} is asked whatever comes of "
                f"{quoted(text_of(scene, first))}, also where that is less.",
            )

    def _summed(self, scene: Scene, node: ast.BoolOp) -> Iterator[TrialEdit]:
        """``here or rest`` of two numbers, as ``here + rest``."""
        above = scene.parents.get(id(node))
        if not isinstance(node.op, ast.Or) or len(node.values) != 2:
            return
        if not isinstance(above, (ast.Return, ast.Assign, ast.AugAssign)):
            return
        left, right = node.values
        if isinstance(left, ast.Compare) or isinstance(right, ast.Compare):
            return
        at = operator_between(scene.source, span(scene, left), span(scene, right), "or")
        if at is not None:
            yield make_edit(
                scene,
                self.name,
                at,
                "+",
                likely=0.4,
                within=node,
                what=f"{quoted(text_of(scene, node))} takes the first of the two where it is not 0 "
                "or empty, and never both.",
            )

    def _fewer(self, scene: Scene, node: ast.BoolOp) -> Iterator[TrialEdit]:
        whole = span(scene, node)
        for number, value in enumerate(node.values):
            rest = [v for n, v in enumerate(node.values) if n != number]
            if len(rest) == 1:
                yield make_edit(
                    scene,
                    self.name,
                    whole,
                    text_of(scene, rest[0]),
                    likely=0.15,
                    within=node,
                    what=f"Does {quoted(text_of(scene, value))} have to be asked here at all?",
                )

    def _without_not(self, scene: Scene, node: ast.UnaryOp) -> Iterator[TrialEdit]:
        whole = span(scene, node)
        yield make_edit(
            scene,
            self.name,
            whole,
            text_of(scene, node.operand),
            likely=0.6,
            within=node,
            what=f"{quoted(whole.of(scene.source))}: is the `not` meant?",
        )

    def _membership(self, scene: Scene, node: ast.Compare) -> Iterator[TrialEdit]:
        pairs = {
            ast.In: ("in", "not in"),
            ast.NotIn: ("not in", "in"),
            ast.Is: ("is", "is not"),
            ast.IsNot: ("is not", "is"),
        }
        old, new = pairs.get(type(node.ops[0]), ("", ""))
        left, right = span(scene, node.left), span(scene, node.comparators[0])
        at = operator_between(scene.source, left, right, old.split()[0]) if old else None
        if at is None:
            return
        gap = scene.source.text[at.start : right.start]
        stop = at.start + len(gap.rstrip())
        if " ".join(gap.split()) != old:
            return
        yield make_edit(
            scene,
            self.name,
            Span(at.start, stop),
            new,
            likely=0.6,
            within=node,
            what=f"{quoted(text_of(scene, node))}: is it this, or the opposite, that is meant?",
        )

    def _negated(self, scene: Scene, test: ast.expr, likely: float = 0.5) -> Iterator[TrialEdit]:
        if isinstance(test, (ast.Compare, ast.UnaryOp, ast.Constant)):
            return  # another sign, or no `not`, says the same
        at = span(scene, test)
        text = at.of(scene.source)
        new = f"not ({text})" if isinstance(test, ast.BoolOp) else f"not {text}"
        yield make_edit(
            scene,
            self.name,
            at,
            new,
            likely=likely,
            within=test,
            what=f"What follows runs when {quoted(text)} is true. Or should it run when it is not?",
        )
