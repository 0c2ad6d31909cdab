"""A pen that turns the wrong way, goes the wrong way, or is down where it should be up."""

from __future__ import annotations

import ast
from collections.abc import Iterator

from oddsum.languages.python.edits.edit_rule import EditRule
from oddsum.languages.python.edits.place import Span, make_edit, span, text_of
from oddsum.languages.python.edits.scene import Scene
from oddsum.model.lead import TrialEdit
from oddsum.source.quoting import quoted

# Each command with the one it is taken for, and how common that is.
_OPPOSITE = {
    "left": ("right", 0.7), "right": ("left", 0.7), "lt": ("rt", 0.7), "rt": ("lt", 0.7),
    "forward": ("back", 0.5), "back": ("forward", 0.5), "fd": ("bk", 0.5), "bk": ("fd", 0.5),
    "backward": ("forward", 0.5), "penup": ("pendown", 0.5), "pendown": ("penup", 0.5),
    "pu": ("pd", 0.5), "pd": ("pu", 0.5), "up": ("down", 0.4), "down": ("up", 0.4),
    "setx": ("sety", 0.5), "sety": ("setx", 0.5), "xcor": ("ycor", 0.5), "ycor": ("xcor", 0.5),
}  # fmt: skip


class Turning(EditRule):
    """One command of a pen for its opposite."""

    name = "turning"
    title = "a pen that goes or turns the other way"
    explanation = (
        "Left and right are the pen's own, as it faces at that moment. Facing down the sheet, its "
        "left is on your right."
    )

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """Each command in a program that draws."""
        if not _draws(scene):
            return
        for call in scene.expressions(ast.Call):
            assert isinstance(call, ast.Call)
            at = _command(scene, call.func)
            if at is None:
                continue
            other, likely = _OPPOSITE[at.of(scene.source)]
            yield make_edit(
                scene,
                self.name,
                at,
                other,
                what=f"{quoted(text_of(scene, call))}: is that the way the pen should go from "
                "where it is then?",
                likely=likely,
            )


def _draws(scene: Scene) -> bool:
    return any(
        isinstance(n, (ast.Import, ast.ImportFrom))
        and "turtle" in (getattr(n, "module", None), *(a.name for a in n.names))
        for n in ast.walk(scene.tree)
    )


def _command(scene: Scene, func: ast.expr) -> Span | None:
    """Where a command's name stands: alone, or behind the pen's point."""
    whole = span(scene, func)
    if isinstance(func, ast.Name) and func.id in _OPPOSITE:
        return whole
    if isinstance(func, ast.Attribute) and func.attr in _OPPOSITE:
        return Span(whole.stop - len(func.attr), whole.stop)
    return None
