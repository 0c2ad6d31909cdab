"""Another expression in the place of one, found from the values that would have been right."""

from __future__ import annotations

import ast
from collections.abc import Iterator

from oddsum.languages.fitted import EXPRESSION
from oddsum.languages.python.edits.edit_rule import EditRule
from oddsum.languages.python.edits.place import Span, make_edit, span
from oddsum.languages.python.edits.scene import Scene
from oddsum.languages.python.parsing import expression_of
from oddsum.model.lead import TrialEdit
from oddsum.source.quoting import quoted

_SIMPLE = (ast.Name, ast.Call, ast.Attribute, ast.Subscript, ast.Constant, ast.List, ast.Dict)
_BESIDE = (ast.BinOp, ast.UnaryOp, ast.Compare, ast.BoolOp, ast.Attribute, ast.Subscript)


class Expression(EditRule):
    """What an expression works out is not what is needed; another works it out."""

    name = "expression"
    invents = "a value"
    title, explanation = EXPRESSION.title, EXPRESSION.explanation

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """None: an expression is found from values, not read off the source."""
        return iter(())

    def instead(
        self, scene: Scene, start: int, stop: int, text: str, likely: float
    ) -> TrialEdit | None:
        """Another expression at a place; None where no expression of the program stands there."""
        node = next(
            (n for n in scene.expressions(ast.expr) if scene.place(n) == (start, stop)), None
        )
        if node is None:
            return None
        at = Span(start, stop)
        above = scene.parents.get(id(node))
        written = scene.source.text[start - 1 : start] + scene.source.text[stop : stop + 1]
        if isinstance(above, _BESIDE) and written != "()":
            in_key = isinstance(above, ast.Subscript) and above.slice is node
            if not in_key and not isinstance(expression_of(text), _SIMPLE):
                text = f"({text})"
        return make_edit(
            scene,
            self.name,
            at,
            text,
            likely=likely,
            within=node,
            what=EXPRESSION.asks.format(here=quoted(span(scene, node).of(scene.source))),
        )
