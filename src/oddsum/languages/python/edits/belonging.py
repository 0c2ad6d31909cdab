"""A list or dict of the class where each object should have its own."""

from __future__ import annotations

import ast
from collections.abc import Iterator

from oddsum.languages.python.edits.blocks import (
    begin_of,
    first_line,
    indent_of,
    last_line,
    replaced,
)
from oddsum.languages.python.edits.edit_rule import EditRule
from oddsum.languages.python.edits.place import text_of, whole_edit
from oddsum.languages.python.edits.scene import Scene
from oddsum.model.lead import TrialEdit
from oddsum.source.quoting import quoted

_MADE = ("list", "dict", "set", "deque", "Counter", "defaultdict")


class Belonging(EditRule):
    """``items = []`` in the body of a class, as ``self.items = []`` in its ``__init__``."""

    name = "belonging"
    title = "one list for all objects where each should have its own"
    explanation = (
        "What stands in the body of a class is made once, and all objects share it. What each "
        "object should have for itself is made in `__init__`."
    )

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """Each list, dict and set of a class that its methods change through ``self``."""
        for owner in scene.statements(ast.ClassDef):
            assert isinstance(owner, ast.ClassDef)
            for node in owner.body:
                if isinstance(node, ast.Assign) and _is_made(node.value):
                    target = node.targets[0]
                    if isinstance(target, ast.Name) and f"self.{target.id}" in text_of(
                        scene, owner
                    ):
                        yield from self._own(scene, owner, node, target.id)

    def _own(
        self, scene: Scene, owner: ast.ClassDef, node: ast.Assign, name: str
    ) -> Iterator[TrialEdit]:
        line = f"self.{name} = {text_of(scene, node.value)}"
        # Where it is read off the class, it stays there as well.
        kept = f"{owner.name}.{name}" in scene.source.text or len(owner.body) == 1
        gone = [] if kept else [(first_line(node), last_line(node), list[str]())]
        begin = next((f for f in owner.body if getattr(f, "name", "") == "__init__"), None)
        if isinstance(begin, ast.FunctionDef):
            first = begin.body[0]
            ahead = begin_of(begin)
            put = [f"{indent_of(scene, first)}{line}"]
            text = replaced(scene, *gone, (ahead, ahead - 1, put))
        else:
            indent = indent_of(scene, node)
            lines = [f"{indent}def __init__(self):", f"{indent}{indent}{line}", ""]
            text = replaced(scene, (first_line(node), last_line(node), lines))
        yield from whole_edit(
            scene,
            self.name,
            text,
            node.lineno,
            likely=0.8,
            size=len(line),
            what=f"{quoted(name)} is made once, with the class: every object has the same one.",
            how=f"Make one for each object: {quoted(line)} in `__init__`"
            + (", and not with the class." if not kept else "."),
        )


def _is_made(node: ast.expr) -> bool:
    if isinstance(node, (ast.List, ast.Dict, ast.Set, ast.ListComp, ast.DictComp)):
        return True
    return isinstance(node, ast.Call) and getattr(node.func, "id", "") in _MADE
