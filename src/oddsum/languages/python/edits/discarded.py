"""A result that is worked out and thrown away."""

from __future__ import annotations

import ast
from collections.abc import Iterator

from oddsum.languages.python.edits.edit_rule import EditRule
from oddsum.languages.python.edits.place import Span, make_edit, span, text_of
from oddsum.languages.python.edits.scene import Scene
from oddsum.model.lead import TrialEdit
from oddsum.source.quoting import quoted

_CHANGING = {
    "append",
    "extend",
    "insert",
    "remove",
    "pop",
    "clear",
    "sort",
    "reverse",
    "add",
    "discard",
    "update",
    "write",
    "close",
    "appendleft",
}
_SILENT = {"print", "input"}


class Discarded(EditRule):
    """``name.strip()`` alone on a line; a function whose result nobody takes."""

    name = "discarded"
    title = "a result that is thrown away"
    explanation = (
        "A text is never changed by its methods: they give a new one. A result that no variable "
        "takes is gone."
    )

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """Each expression alone on a line, given to a variable; and one that wrongly is."""
        for node in scene.statements(ast.Expr):
            assert isinstance(node, ast.Expr)
            if isinstance(node.value, ast.Call):
                yield from self._call(scene, node, node.value)
            elif isinstance(node.value, (ast.BinOp, ast.Compare)):
                yield from self._to_names(scene, node, 0.7, (" = ",))
        for statement in scene.statements(ast.Assign):
            assert isinstance(statement, ast.Assign)
            yield from self._changed_in_place(scene, statement)

    def _call(self, scene: Scene, node: ast.Expr, call: ast.Call) -> Iterator[TrialEdit]:
        if isinstance(call.func, ast.Attribute) and call.func.attr not in _CHANGING:
            target = text_of(scene, call.func.value)
            yield from self._given(scene, node, target, " = ", 0.9)
            yield from self._to_names(scene, node, 0.3, (" = ", " += "))
            for argument in call.args:
                if isinstance(argument, ast.Name):  # what was asked for, less what was got of it
                    yield from self._given(scene, node, argument.id, " -= ", 0.4)
        elif isinstance(call.func, ast.Name) and call.func.id not in _SILENT:
            known = call.func.id in scene.functions
            if call.args and isinstance(call.args[0], ast.Name):
                yield from self._given(scene, node, call.args[0].id, " = ", 0.6)
            yield from self._to_names(scene, node, 0.5 if known else 0.3, (" += ", " = "))

    def _to_names(
        self, scene: Scene, node: ast.Expr, likely: float, signs: tuple[str, ...]
    ) -> Iterator[TrialEdit]:
        names = scene.own_names(scene.function_of(node)) if scene.function_of(node) else []
        names = names or scene.names_at(node)
        for name in names[:10]:
            for sign in signs:
                yield from self._given(scene, node, name, sign, likely)
        for target in _set_in_function(scene, node):
            yield from self._given(scene, node, target, " = ", likely)

    def _given(
        self, scene: Scene, node: ast.Expr, target: str, sign: str, likely: float
    ) -> Iterator[TrialEdit]:
        at = span(scene, node)
        text = quoted(at.of(scene.source))
        yield make_edit(
            scene,
            self.name,
            Span(at.start, at.start),
            target + sign,
            likely=likely,
            what=f"{text} works something out, and nothing takes the result.",
            how=f"Give the result to {quoted(target)}: `{target}{sign}...`.",
        )

    def _changed_in_place(self, scene: Scene, node: ast.Assign) -> Iterator[TrialEdit]:
        """``xs = xs.sort()`` makes xs None."""
        call = node.value
        if not (isinstance(call, ast.Call) and isinstance(call.func, ast.Attribute)):
            return
        if call.func.attr in _CHANGING - {"pop"}:
            start, value = span(scene, node).start, span(scene, call)
            yield make_edit(
                scene,
                self.name,
                Span(start, value.start),
                "",
                likely=0.8,
                what=(
                    f"{quoted(value.of(scene.source))} changes the list itself and gives None back."
                ),
            )


def _set_in_function(scene: Scene, node: ast.Expr) -> list[str]:
    """Items and attributes that the node's function reads, which the result could be meant for."""
    function = scene.function_of(node)
    if function is None:
        return []
    return list(
        dict.fromkeys(
            text_of(scene, n)
            for n in ast.walk(function)
            if isinstance(n, (ast.Subscript, ast.Attribute))
            and isinstance(getattr(n, "value", None), (ast.Name, ast.Attribute))
            and not isinstance(scene.parents.get(id(n)), ast.Call)
        )
    )[:8]
