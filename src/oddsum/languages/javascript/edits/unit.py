"""Minutes taken for hundredths: a number between two units that is another one."""

from __future__ import annotations

from collections.abc import Iterator

from oddsum.languages import units
from oddsum.languages.javascript.edits.scene import EditRule, Scene, make_edit
from oddsum.languages.javascript.literals import number_of
from oddsum.model.lead import TrialEdit

_TURNING = ("*", "/", "%")


class Unit(EditRule):
    """``minutes / 100`` for ``minutes / 60``."""

    name = "unit"
    title = units.TITLE
    explanation = units.EXPLANATION

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """Each number that something is multiplied or divided by, as another such number."""
        for node in scene.of_type("binary_expression"):
            if scene.text(scene.operator(node)) not in _TURNING:
                continue
            for side in (scene.field(node, "left"), scene.field(node, "right")):
                value = number_of(side, scene.tree) if side.type == "number" else None
                for factor, likely in units.other_factors(value) if value is not None else ():
                    yield make_edit(
                        scene,
                        self.name,
                        side,
                        str(factor),
                        likely=likely,
                        within=node,
                        what=units.asked(scene.text(side)),
                    )
