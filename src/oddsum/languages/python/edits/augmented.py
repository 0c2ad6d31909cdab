"""A total that is overwritten instead of added to, or added to instead of set."""

from __future__ import annotations

import ast
from collections.abc import Iterator

from oddsum.languages.python.edits.arithmetic import SIGNS
from oddsum.languages.python.edits.edit_rule import EditRule
from oddsum.languages.python.edits.place import Span, make_edit, operator_between, span, text_of
from oddsum.languages.python.edits.scene import Scene
from oddsum.model.lead import TrialEdit
from oddsum.source.quoting import quoted


class Augmented(EditRule):
    """``=`` where ``+=`` is meant, and the other way round."""

    name = "augmented"
    title = "a total that does not keep what it had"
    explanation = (
        "`total = price` throws away what total was before; `total += price` adds to it. In a loop "
        "only the last round is left of the first."
    )

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """Assignments that could add, and additions that could assign."""
        for node in scene.statements(ast.Assign):
            assert isinstance(node, ast.Assign)
            if len(node.targets) == 1:
                yield from self._kept(scene, node, node.targets[0])
        for node in scene.statements(ast.AugAssign):
            assert isinstance(node, ast.AugAssign)
            yield from self._set(scene, node)

    def _kept(self, scene: Scene, node: ast.Assign, target: ast.expr) -> Iterator[TrialEdit]:
        if isinstance(target, (ast.Tuple, ast.List)):
            return
        at = operator_between(scene.source, span(scene, target), span(scene, node.value), "=")
        if at is None:
            return
        name, value = text_of(scene, target), text_of(scene, node.value)
        in_loop = scene.loop_of(node) is not None
        what = (
            f"{quoted(f'{name} = {value}')} forgets what {quoted(name)} was before"
            + (", in every round" if in_loop else "")
            + ". Is that meant?"
        )
        likely = 0.7 if in_loop else 0.35
        for sign, share in (("+=", 1.0), ("-=", 0.5), ("*=", 0.3)):
            yield make_edit(scene, self.name, at, sign, what=what, likely=likely * share)
        if isinstance(target, ast.Subscript):
            yield from self._counted(scene, node, target, what)
        yield from self._itself(scene, node, name, what)

    def _counted(
        self, scene: Scene, node: ast.Assign, target: ast.Subscript, what: str
    ) -> Iterator[TrialEdit]:
        """``counts[k] = n``: what stood there before is looked up and added to."""
        base, key = text_of(scene, target.value), text_of(scene, target.slice)
        at = span(scene, node.value)
        new = f"{base}.get({key}, 0) + {at.of(scene.source)}"
        yield make_edit(scene, self.name, at, new, what=what, likely=0.4)

    def _itself(self, scene: Scene, node: ast.Assign, name: str, what: str) -> Iterator[TrialEdit]:
        """``total = other + price``: total itself is what is meant to be added to."""
        if not isinstance(node.value, ast.BinOp) or not isinstance(node.value.left, ast.Name):
            return
        left = node.value.left
        if left.id != name:
            yield make_edit(
                scene, self.name, span(scene, left), name, what=what, likely=0.4, within=node.value
            )

    def _set(self, scene: Scene, node: ast.AugAssign) -> Iterator[TrialEdit]:
        sign = SIGNS.get(type(node.op))
        target, value = span(scene, node.target), span(scene, node.value)
        at = operator_between(scene.source, target, value, f"{sign}=") if sign else None
        if at is None:
            return
        whole = quoted(scene.source.text[target.start : value.stop])
        yield make_edit(
            scene,
            self.name,
            Span(at.start, at.stop),
            "=",
            likely=0.45,
            what=f"{whole} goes on from the value before. Should it begin anew here?",
        )
