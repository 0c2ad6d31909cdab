"""Another variable than the one that is meant."""

from __future__ import annotations

import ast
from collections.abc import Iterator

from oddsum.languages.python.edits.edit_rule import EditRule
from oddsum.languages.python.edits.place import make_edit, span
from oddsum.languages.python.edits.scene import Scene
from oddsum.model.lead import TrialEdit
from oddsum.source.quoting import quoted


class Variable(EditRule):
    """A name taken for another one that can be read in the same place."""

    name = "variable"
    title = "another variable than the one that is meant"
    explanation = (
        "Names that stand close to each other are easily mixed up. Say aloud what each variable of "
        "the line holds, and whether that is what is needed."
    )

    @staticmethod
    def _others(scene: Scene, node: ast.Name) -> list[str]:
        alike = scene.alike(node.id, node)
        if not _is_handed_on(scene, node):
            return alike
        own = scene.own_names(scene.function_of(node))
        return alike + [n for n in own if n != node.id and n not in alike]

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """Each name that is read or set, with others of the same kind of value."""
        called = {id(n.func) for n in ast.walk(scene.tree) if isinstance(n, ast.Call)}
        for node in scene.expressions(ast.Name):
            assert isinstance(node, ast.Name)
            if id(node) in called or node.id not in scene.names_at(node):
                continue
            load = isinstance(node.ctx, ast.Load)
            for other in self._others(scene, node):
                if _is_doubled(scene, node, other):
                    continue
                if not load and scene.function_of(node) is not None:
                    if other not in scene.own_names(scene.function_of(node)):
                        continue
                yield make_edit(
                    scene,
                    self.name,
                    span(scene, node),
                    other,
                    likely=0.4 if load else 0.3,
                    within=_around(scene, node) if load else None,
                    what=(
                        f"{quoted(node.id)} stands here. Is it that variable whose value is needed?"
                    ),
                )


def _is_doubled(scene: Scene, node: ast.Name, other: str) -> bool:
    """Whether a line would add a name to itself: round for round that is twice as much."""
    line = scene.parents.get(id(node))
    if not isinstance(line, ast.AugAssign):
        return False
    sides = [n.id for n in (line.target, line.value) if n is not node and isinstance(n, ast.Name)]
    return other in sides


def _is_handed_on(scene: Scene, node: ast.Name) -> bool:
    """Whether a value of another type would do as well: it is put into a list, or given back."""
    above = scene.parents.get(id(node))
    if isinstance(above, ast.Call):
        return isinstance(above.func, ast.Attribute) and node in above.args
    return isinstance(above, (ast.Return, ast.Tuple))


def _around(scene: Scene, node: ast.Name) -> ast.expr:
    """The largest sum or comparison that a name is a part of, itself where there is none."""
    found: ast.expr = node
    above = scene.parents.get(id(node))
    while isinstance(above, (ast.BinOp, ast.Compare, ast.Subscript, ast.UnaryOp)):
        found, above = above, scene.parents.get(id(above))
    return found
