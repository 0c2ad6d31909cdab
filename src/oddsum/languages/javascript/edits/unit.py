"""Minutes taken for hundredths: a number between two units that is another one."""

from __future__ import annotations

from collections.abc import Iterator

from tree_sitter import Node

from oddsum.languages import units
from oddsum.languages.javascript.edits.scene import EditRule, Scene, make_edit
from oddsum.languages.javascript.literals import number_of
from oddsum.languages.javascript.parsing import walk
from oddsum.model.lead import TrialEdit

_TURNING = ("*", "/", "%")
_WHOLE = ("return_statement", "variable_declarator", "assignment_expression",
          "augmented_assignment_expression")  # fmt: skip
_TEXTS = ("string", "template_string")


class Unit(EditRule):
    """``minutes / 100`` for ``minutes / 60``."""

    name = "unit"
    title = units.TITLE
    explanation = units.EXPLANATION

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """Each number that something is multiplied or divided by, as another such number."""
        for node in scene.of_type("binary_expression"):
            yield from self._left_out(scene, node)
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

    def _left_out(self, scene: Scene, node: Node) -> Iterator[TrialEdit]:
        """``miles / minutes`` times 60, and ``hours + minutes`` with the first of them times 60."""
        above, sign = node.parent, scene.text(scene.operator(node))
        if above is None or above.type not in _WHOLE or any(n.type in _TEXTS for n in walk(node)):
            return
        left, right, whole = scene.field(node, "left"), scene.field(node, "right"), scene.text(node)
        for factor, likely in units.LEFT_OUT[:3] if sign in "*/" else ():
            for turned in "*/":
                yield self._turned(scene, node, node, f"{whole} {turned} {factor}", likely)
        for factor, likely in units.LEFT_OUT[:2] if sign == "/" else ():
            yield self._turned(scene, node, right, f"({scene.text(right)} / {factor})", likely)
        for factor, likely in units.LEFT_OUT if sign == "+" and right.type != "number" else ():
            yield self._turned(scene, node, left, f"{scene.text(left)} * {factor}", likely)

    def _turned(self, scene: Scene, node: Node, at: Node, new: str, likely: float) -> TrialEdit:
        return make_edit(scene, self.name, at, new, likely=likely, within=node, what=units.LACKING)
