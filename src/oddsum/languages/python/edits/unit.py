"""Minutes taken for hundredths: a number between two units that is another one."""

from __future__ import annotations

import ast
from collections.abc import Iterator

from oddsum.languages import units
from oddsum.languages.python.edits.edit_rule import EditRule
from oddsum.languages.python.edits.place import make_edit, span
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
        for node in scene.expressions(ast.BinOp):
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
