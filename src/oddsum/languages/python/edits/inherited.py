"""A method in place of its class's own, that leaves out what that one does."""

from __future__ import annotations

import ast
from collections.abc import Iterator

from oddsum.languages.python.edits.blocks import first_line, indent_of, is_text, replaced
from oddsum.languages.python.edits.edit_rule import EditRule
from oddsum.languages.python.edits.place import closed, make_edit, span, text_of, whole_edit
from oddsum.languages.python.edits.scene import Scene, parameters
from oddsum.model.lead import TrialEdit
from oddsum.source.quoting import quoted

_VALUES = (ast.Assign, ast.Return)
_PLAIN = (ast.BinOp, ast.Constant, ast.Name, ast.Attribute)


class Inherited(EditRule):
    """``super().fare(zones)`` left out of a ``fare`` of a class that is made from another."""

    name = "inherited"
    title = "a method that leaves out what it replaces"
    explanation = (
        "A method of the same name takes the place of the one it comes from, altogether. What that "
        "one does happens only where `super()` is asked for it."
    )

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """What is replaced, called first, in the place of a value, or beside it."""
        classes = {n.name: n for n in scene.statements(ast.ClassDef) if isinstance(n, ast.ClassDef)}
        for owner in classes.values():
            above = [classes[b.id] for b in owner.bases
                     if isinstance(b, ast.Name) and b.id in classes]  # fmt: skip
            for method in owner.body:
                if isinstance(method, ast.FunctionDef) and not _asks_above(method):
                    for other in _replaced_by(method, above)[:1]:
                        yield from self._of(scene, method, other)

    def _of(
        self, scene: Scene, method: ast.FunctionDef, other: ast.FunctionDef
    ) -> Iterator[TrialEdit]:
        mine = parameters(method)
        given = ", ".join(name for name in parameters(other) if name in mine)
        call = f"super().{method.name}({given})"
        gives = any(isinstance(n, ast.Return) and n.value is not None for n in ast.walk(other))
        what = (
            f"{quoted(method.name)} takes the place of the one on line {other.lineno}, and does "
            "not ask for what that one does."
        )
        if not gives:
            first = next((s for s in method.body if not is_text(s)), None)
            if first is not None:
                line = f"{indent_of(scene, first)}{call}"
                at = first_line(first)
                yield from whole_edit(
                    scene, self.name, replaced(scene, (at, at - 1, [line])), at, likely=0.7,
                    size=len(call), what=what, runs_at=at,
                    how=f"Put in, ahead of line {at}: {quoted(call)}.",
                )  # fmt: skip
            return
        for node in ast.walk(method):
            value = node.value if isinstance(node, _VALUES) else None
            if isinstance(value, _PLAIN):
                text = closed(scene, value)
                for new, likely in (
                    (call, 0.6),
                    (f"{call} + {text}", 0.45),
                    (f"{call} * {text}", 0.35),
                ):
                    yield make_edit(
                        scene, self.name, span(scene, value), new, likely=likely, what=what,
                        how=f"Write {quoted(new)} in place of {quoted(text_of(scene, value))}.",
                        within=value,
                    )  # fmt: skip


def _asks_above(method: ast.FunctionDef) -> bool:
    return any(isinstance(n, ast.Name) and n.id == "super" for n in ast.walk(method))


def _replaced_by(method: ast.FunctionDef, above: list[ast.ClassDef]) -> list[ast.FunctionDef]:
    """The methods of that name in the classes that one is made from."""
    return [n for owner in above for n in owner.body
            if isinstance(n, ast.FunctionDef) and n.name == method.name]  # fmt: skip
