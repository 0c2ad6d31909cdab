"""Another arithmetic operator than the one that is meant."""

from __future__ import annotations

import ast
from collections.abc import Iterator

from oddsum.languages.python.edits.edit_rule import EditRule
from oddsum.languages.python.edits.place import Span, make_edit, operator_between, span
from oddsum.languages.python.edits.scene import Scene
from oddsum.model.lead import TrialEdit
from oddsum.source.quoting import quoted

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
_WHAT = {
    ("/", "//"): "`/` always gives a number with a fraction",
    ("//", "/"): "`//` drops the fraction",
    ("%", "//"): "`%` gives what is left over by a division",
    ("//", "%"): "`//` gives how often it goes in whole",
}


class Arithmetic(EditRule):
    """Each arithmetic operator, in expressions and before ``=``, with each that could be meant."""

    name = "arithmetic"
    title = "another operation than the one that is meant"
    explanation = (
        "`/` gives a fraction and `//` drops it, `%` is what is left over, `**` is a power. Work "
        "the line out by hand with the values of one case."
    )

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """Another operator for each."""
        for node in scene.expressions(ast.BinOp):
            assert isinstance(node, ast.BinOp)
            sign = SIGNS.get(type(node.op))
            if sign is None or isinstance(node.left, (ast.JoinedStr, ast.List)):
                continue
            at = operator_between(
                scene.source, span(scene, node.left), span(scene, node.right), sign
            )
            if at is not None:
                yield from self._of(scene, at, sign, span(scene, node).of(scene.source), node)
        yield from self._augmented(scene)

    def _of(
        self, scene: Scene, at: Span, sign: str, whole: str, within: ast.expr | None
    ) -> Iterator[TrialEdit]:
        for new, likely in _MEANT[sign]:
            told = _WHAT.get((sign, new), f"it works with `{sign}`")
            yield make_edit(
                scene, self.name, at, new, likely=likely, within=within,
                what=f"Look at {quoted(whole)}: {told}. Is that the operation that is meant?",
            )  # fmt: skip

    def _augmented(self, scene: Scene) -> Iterator[TrialEdit]:
        for node in scene.statements(ast.AugAssign):
            assert isinstance(node, ast.AugAssign)
            sign = SIGNS.get(type(node.op))
            if sign is None:
                continue
            target, value = span(scene, node.target), span(scene, node.value)
            at = operator_between(scene.source, target, value, f"{sign}=")
            if at is not None:
                whole = scene.source.text[target.start : value.stop]
                yield from self._of(scene, Span(at.start, at.stop - 1), sign, whole, None)
