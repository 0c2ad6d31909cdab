"""Another attribute, method or function than the one that is meant: its neighbour."""

from __future__ import annotations

import ast
from collections.abc import Iterator

from oddsum.languages.python.edits.edit_rule import EditRule
from oddsum.languages.python.edits.place import Span, make_edit, span, text_of
from oddsum.languages.python.edits.scene import Scene
from oddsum.model.lead import TrialEdit
from oddsum.source.quoting import quoted

# Names that are taken for each other, with how likely.
_NEIGHBOURS: tuple[tuple[str, ...], ...] = (
    ("min", "max"),
    ("any", "all"),
    ("sum", "len", "max"),
    ("int", "round", "float"),
    ("append", "remove", "extend"),
    ("append", "add"),
    ("lower", "upper", "title", "capitalize"),
    ("strip", "lstrip", "rstrip"),
    ("find", "rfind", "index", "count"),
    ("index", "count"),
    ("isdigit", "isalpha", "isalnum"),
    ("isupper", "islower"),
    ("startswith", "endswith"),
    ("keys", "values", "items"),
    ("sorted", "reversed"),
    ("pop", "remove"),
    ("ljust", "rjust"),
    ("floor", "ceil"),
    ("union", "intersection", "difference"),
    ("split", "splitlines"),
    ("read", "readline", "readlines"),
)


class Attribute(EditRule):
    """``self.low`` for ``self.high``, ``min`` for ``max``, one function for another."""

    name = "attribute"
    title = "another function, method or attribute than the one that is meant"
    explanation = (
        "Many names have a twin close by: `min` and `max`, `append` and `remove`, the "
        "attributes of "
        "one object. Read the name aloud, and what it gives."
    )

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """Each attribute, method and function called, with those beside it."""
        for node in scene.expressions(ast.Attribute, ast.Call):
            if isinstance(node, ast.Attribute):
                yield from self._attribute(scene, node)
            elif isinstance(node, ast.Call) and isinstance(node.func, ast.Name):
                yield from self._function(scene, node, node.func)
            if isinstance(node, ast.Call) and isinstance(node.func, ast.Attribute):
                yield from self._at_the_front(scene, node, node.func)

    def _attribute(self, scene: Scene, node: ast.Attribute) -> Iterator[TrialEdit]:
        whole = span(scene, node)
        at = Span(whole.stop - len(node.attr), whole.stop)
        if at.of(scene.source) != node.attr:
            return
        above = scene.parents.get(id(node))
        called = isinstance(above, ast.Call) and above.func is node
        others = [(n, 0.5) for n in _neighbours(node.attr)] if called else []
        own = _methods(scene) if called else scene.set_attributes
        if node.attr in own:
            others += [(n, 0.4) for n in own if n != node.attr]
        for other, likely in others:
            yield make_edit(
                scene,
                self.name,
                at,
                other,
                likely=likely,
                what=f"{quoted(text_of(scene, node))}: is that the one that is meant here, or one "
                "beside it?",
            )
        if not called:
            yield from self._other_owner(scene, node)

    def _other_owner(self, scene: Scene, node: ast.Attribute) -> Iterator[TrialEdit]:
        """``self.x`` for a plain ``x``, where both are there."""
        if isinstance(node.ctx, ast.Load) and node.attr in scene.names_at(node):
            whole = span(scene, node)
            yield make_edit(
                scene,
                self.name,
                whole,
                node.attr,
                likely=0.3,
                what=f"{quoted(whole.of(scene.source))} or {quoted(node.attr)}: which of the two?",
            )

    def _function(self, scene: Scene, node: ast.Call, name: ast.Name) -> Iterator[TrialEdit]:
        others = [(n, 0.5) for n in _neighbours(name.id)]
        mine = scene.functions.get(name.id)
        if mine is not None:
            others += [
                (n, 0.25)
                for n, f in scene.functions.items()
                if n != name.id and len(f.args.args) == len(mine.args.args)
            ]
        for other, likely in others:
            yield make_edit(
                scene,
                self.name,
                span(scene, name),
                other,
                likely=likely,
                within=node,
                what=f"{quoted(text_of(scene, node))}: does {quoted(name.id)} give what is needed?",
            )

    def _at_the_front(
        self, scene: Scene, node: ast.Call, func: ast.Attribute
    ) -> Iterator[TrialEdit]:
        """``append(x)`` and ``insert(0, x)`` put at opposite ends."""
        whole, base = span(scene, node), text_of(scene, func.value)
        new = ""
        if func.attr == "append" and len(node.args) == 1:
            new = f"{base}.insert(0, {text_of(scene, node.args[0])})"
        elif func.attr == "insert" and len(node.args) == 2:
            new = f"{base}.append({text_of(scene, node.args[1])})"
        if new:
            yield make_edit(
                scene,
                self.name,
                whole,
                new,
                likely=0.45,
                what=f"{quoted(whole.of(scene.source))}: at which end is it put in?",
            )


def _neighbours(name: str) -> list[str]:
    return list(
        dict.fromkeys(n for group in _NEIGHBOURS if name in group for n in group if n != name)
    )


def _methods(scene: Scene) -> list[str]:
    return [
        n.name
        for c in ast.walk(scene.tree)
        if isinstance(c, ast.ClassDef)
        for n in c.body
        if isinstance(n, ast.FunctionDef) and not n.name.startswith("__")
    ]
