"""What is worked out once and kept: under a name that says too little, or longer than it holds."""

from __future__ import annotations

import ast
from collections.abc import Iterator

from oddsum.languages.python.edits.blocks import indent_of, last_line, replaced
from oddsum.languages.python.edits.edit_rule import EditRule
from oddsum.languages.python.edits.place import make_edit, span, text_of, whole_edit
from oddsum.languages.python.edits.scene import Scene
from oddsum.model.lead import TrialEdit
from oddsum.source.quoting import quoted


class Remembered(EditRule):
    """A key that leaves out what the result depends on, and a store that nobody empties."""

    name = "remembered"
    title = "a result that is kept and no longer right"
    explanation = (
        "What is worked out once and looked up later has to be kept under all that it depends on, "
        "and to be forgotten when that changes."
    )

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """Keys of all parameters; stores emptied where something they depend on is set."""
        for function in scene.functions.values():
            names = [a.arg for a in function.args.args if a.arg not in ("self", "cls")]
            if len(names) > 1:
                yield from self._keys(scene, function, names)
        for owner in scene.statements(ast.ClassDef):
            assert isinstance(owner, ast.ClassDef)
            yield from self._emptied(scene, owner)

    def _keys(self, scene: Scene, function: ast.AST, names: list[str]) -> Iterator[TrialEdit]:
        """``key = a`` and ``a in known`` with the other parameters beside it."""
        for node in ast.walk(function):
            place: ast.expr | None = None
            if isinstance(node, ast.Assign) and len(node.targets) == 1:
                if isinstance(node.targets[0], ast.Name):
                    place = node.value
            if isinstance(place, ast.Name) and place.id in names:
                new = f"({', '.join(names)})"
                yield make_edit(
                    scene,
                    self.name,
                    span(scene, place),
                    new,
                    likely=0.6,
                    what=f"Kept under {quoted(place.id)} alone, what is found is the same whatever "
                    f"{quoted(next(n for n in names if n != place.id))} is.",
                )

    def _emptied(self, scene: Scene, owner: ast.ClassDef) -> Iterator[TrialEdit]:
        stores = _stores(owner)
        for method in owner.body:
            if not isinstance(method, ast.FunctionDef) or method.name == "__init__":
                continue
            for node in method.body:
                changed = _attribute_set(node)
                for store in stores:
                    if changed and changed != store and store not in text_of(scene, method):
                        line = f"{indent_of(scene, node)}self.{store}.clear()"
                        text = replaced(scene, (last_line(node) + 1, last_line(node), [line]))
                        yield from whole_edit(
                            scene,
                            self.name,
                            text,
                            last_line(node),
                            likely=0.6,
                            size=len(store) + 8,
                            runs_at=node.lineno,
                            what=f"{quoted(f'self.{changed}')} changes here, and what is kept in "
                            f"{quoted(f'self.{store}')} was worked out before.",
                            how=f"Forget it: put in {quoted(line.strip())} after line "
                            f"{last_line(node)}.",
                        )


def _stores(owner: ast.ClassDef) -> list[str]:
    """Attributes that begin as an empty dict, and are looked up by what is not there yet."""
    found = []
    for node in ast.walk(owner):
        if isinstance(node, ast.Assign) and isinstance(node.value, ast.Dict):
            if not node.value.keys and isinstance(node.targets[0], ast.Attribute):
                found.append(node.targets[0].attr)
    asked = {
        c.attr
        for n in ast.walk(owner)
        if isinstance(n, ast.Compare)
        for c in n.comparators
        if isinstance(c, ast.Attribute)
    }
    return [name for name in dict.fromkeys(found) if name in asked]


def _attribute_set(node: ast.stmt) -> str:
    """The attribute of ``self`` that a statement sets, or an item of; blank for none."""
    targets = node.targets if isinstance(node, ast.Assign) else []
    if isinstance(node, ast.AugAssign):
        targets = [node.target]
    for target in targets:
        inner = target.value if isinstance(target, ast.Subscript) else target
        if isinstance(inner, ast.Attribute) and getattr(inner.value, "id", "") == "self":
            return inner.attr
    return ""
