"""What can be gone over once only, and is gone over twice."""

from __future__ import annotations

import ast
from collections.abc import Iterator

from oddsum.languages.python.edits.edit_rule import EditRule
from oddsum.languages.python.edits.place import make_edit, span
from oddsum.languages.python.edits.scene import Scene
from oddsum.model.lead import TrialEdit
from oddsum.source.quoting import quoted

_ONCE = ("map", "filter", "zip", "reversed", "iter", "enumerate")


class UsedUp(EditRule):
    """A generator, ``map`` or ``zip`` that is kept in a name, as a list."""

    name = "used up"
    title = "something that is used up after the first time"
    explanation = (
        "A generator, and what `map`, `filter`, `zip` and `reversed` give, can be gone over once. "
        "After that it is empty. A list can be gone over as often as you like."
    )

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """A list in the place of each that a name holds, and of each generator that is called."""
        generators = {
            f.name
            for f in scene.functions.values()
            if any(isinstance(n, (ast.Yield, ast.YieldFrom)) for n in ast.walk(f))
        }
        for node in scene.statements(ast.Assign):
            assert isinstance(node, ast.Assign)
            target, value = node.targets[0], node.value
            if not isinstance(target, ast.Name):
                continue
            called = getattr(value.func, "id", "") if isinstance(value, ast.Call) else ""
            if isinstance(value, ast.GeneratorExp) or called in (*_ONCE, *generators):
                yield from self._kept(scene, target.id, value)

    def _kept(self, scene: Scene, name: str, value: ast.expr) -> Iterator[TrialEdit]:
        at = span(scene, value)
        text = at.of(scene.source)
        if isinstance(value, ast.GeneratorExp) and text.startswith("("):
            new = f"[{text[1:-1]}]"
        else:
            new = f"list({text})"
        yield make_edit(
            scene, self.name, at, new, likely=0.8,
            what=f"{quoted(name)} is empty once it was gone over. Is it used a second time?",
        )  # fmt: skip
