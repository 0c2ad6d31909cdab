"""Minutes taken for hundredths: a number between two units that is another one."""

from __future__ import annotations

import ast
from collections.abc import Iterator

from oddsum.languages import units
from oddsum.languages.python.edits.edit_rule import EditRule
from oddsum.languages.python.edits.place import closed, make_edit, span
from oddsum.languages.python.edits.scene import Scene
from oddsum.model.lead import TrialEdit

_TURNING = (ast.Mult, ast.Div, ast.FloorDiv, ast.Mod)


class Unit(EditRule):
    """``minutes / 100`` for ``minutes / 60``."""

    name = "unit"
    title = units.TITLE
    explanation = units.EXPLANATION

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """Each number that something is multiplied or divided by, as another such number."""
        for node in scene.expressions(ast.BinOp, ast.Call):
            if isinstance(node, ast.BinOp):
                yield from self._left_out(scene, node)
            elif isinstance(node, ast.Call):
                yield from self._as_it_was_read(scene, node)
            if not isinstance(node, ast.BinOp) or not isinstance(node.op, _TURNING):
                continue
            for side in (node.left, node.right):
                if not isinstance(side, ast.Constant) or type(side.value) is not int:
                    continue
                for factor, likely in units.other_factors(side.value):
                    yield make_edit(
                        scene,
                        self.name,
                        span(scene, side),
                        str(factor),
                        likely=likely,
                        within=node,
                        what=units.asked(str(side.value)),
                    )

    def _as_it_was_read(self, scene: Scene, node: ast.Call) -> Iterator[TrialEdit]:
        """``return float(text)`` in another unit than the one it was written in."""
        if getattr(node.func, "id", "") not in ("int", "float"):
            return
        if isinstance(scene.parents.get(id(node)), ast.Return):
            yield from self._turned(scene, node)

    def _turned(self, scene: Scene, node: ast.expr) -> Iterator[TrialEdit]:
        """A whole value, times each factor or divided by it."""
        whole = span(scene, node)
        for sign in "*/":
            for factor, likely in units.LEFT_OUT:
                new = f"{whole.of(scene.source)} {sign} {factor}"
                yield make_edit(
                    scene, self.name, whole, new, likely=likely, within=node, what=units.LACKING
                )

    def _left_out(self, scene: Scene, node: ast.BinOp) -> Iterator[TrialEdit]:
        """``miles / minutes`` times 60, and ``hours + minutes`` with the first of them times 60."""
        above = scene.parents.get(id(node))
        if not isinstance(above, (ast.Return, ast.Assign, ast.AugAssign)):
            return
        left = span(scene, node.left)
        if any(isinstance(n, ast.Constant) and type(n.value) is str for n in ast.walk(node)):
            return  # texts
        if isinstance(node.op, (ast.Mult, ast.Div)):
            yield from self._turned(scene, node)
        if isinstance(node.op, ast.Div):
            right = span(scene, node.right)
            for factor, likely in units.LEFT_OUT[:2]:
                new = f"({closed(scene, node.right)} / {factor})"
                yield make_edit(
                    scene, self.name, right, new, likely=likely, within=node, what=units.LACKING
                )
        if isinstance(node.op, ast.Add) and not isinstance(node.right, ast.Constant):
            for factor, likely in units.LEFT_OUT:
                new = f"{closed(scene, node.left)} * {factor}"
                yield make_edit(
                    scene, self.name, left, new, likely=likely, within=node, what=units.LACKING
                )
