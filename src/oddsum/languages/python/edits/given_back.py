"""A result that is worked out, or printed, and not given back."""

from __future__ import annotations

import ast
from collections.abc import Iterator

from oddsum.languages.python.edits.edit_rule import EditRule
from oddsum.languages.python.edits.place import Span, make_edit, span, text_of
from oddsum.languages.python.edits.scene import Scene
from oddsum.model.lead import TrialEdit
from oddsum.source.quoting import quoted


class GivenBack(EditRule):
    """``print(x)`` for ``return x`` in a function, and an expression without its ``return``."""

    name = "given back"
    title = "a result that is not given back"
    explanation = (
        "A function gives back what stands after `return`, and nothing else: what it prints can "
        "only be read, and what it works out and does not return is gone. A function that calls "
        "itself has to return what that call gives, too."
    )

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """Each expression statement of a function as what it returns."""
        for node in scene.statements(ast.Expr):
            assert isinstance(node, ast.Expr)
            if scene.function_of(node) is None or isinstance(node.value, ast.Constant):
                continue
            printed = _printed(node.value)
            if printed is not None:
                yield from self._instead(scene, node, printed)
            elif not isinstance(node.value, (ast.Yield, ast.YieldFrom, ast.Await)):
                yield from self._returned(scene, node)

    def _instead(self, scene: Scene, node: ast.Expr, printed: ast.expr) -> Iterator[TrialEdit]:
        text = text_of(scene, printed)
        yield make_edit(
            scene, self.name, span(scene, node), f"return {text}", likely=0.6,
            what=f"{quoted(text_of(scene, node))} shows the result. Who called the function gets "
            "nothing.",
        )  # fmt: skip

    def _returned(self, scene: Scene, node: ast.Expr) -> Iterator[TrialEdit]:
        start = span(scene, node).start
        mine = scene.function_of(node)
        own = mine is not None and any(
            isinstance(n, ast.Call) and getattr(n.func, "id", "") == mine.name
            for n in ast.walk(node)
        )
        works_out = isinstance(node.value, (ast.BinOp, ast.BoolOp, ast.Compare, ast.IfExp))
        text = text_of(scene, node)
        yield make_edit(
            scene, self.name, Span(start, start), "return ",
            likely=0.75 if own or works_out else 0.3,
            what=f"{quoted(text)} gives a value. Does anything become of it?",
            how=f"Give it back: {quoted(f'return {text}')}." if "\n" not in text else
            "Write `return` ahead of it.",
        )  # fmt: skip


def _printed(node: ast.expr) -> ast.expr | None:
    """What a plain ``print`` of one thing prints."""
    if isinstance(node, ast.Call) and getattr(node.func, "id", "") == "print":
        if len(node.args) == 1 and not isinstance(node.args[0], ast.Starred):
            return node.args[0]
    return None
