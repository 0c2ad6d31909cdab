"""Rounding in the wrong place, to the wrong number of places, missing or too much."""

from __future__ import annotations

import ast
from collections.abc import Iterator

from oddsum.languages.python.edits.edit_rule import EditRule
from oddsum.languages.python.edits.place import Span, make_edit, span, text_of
from oddsum.languages.python.edits.scene import Scene
from oddsum.model.lead import TrialEdit
from oddsum.source.quoting import quoted


class Rounding(EditRule):
    """``round`` put elsewhere in a sum, given its number of places, added or left out."""

    name = "rounding"
    title = "rounding in another place than meant"
    explanation = (
        "What is rounded early is wrong in everything worked out from it. Round last, and say to "
        "how many places: `round(x, 2)`."
    )

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """Each ``round`` moved, given places, taken away; and one put around what is given back."""
        for node in scene.expressions(ast.Call):
            assert isinstance(node, ast.Call)
            if getattr(node.func, "id", "") == "round" and node.args:
                yield from self._rounded(scene, node)
        for node in scene.expressions(ast.BinOp, ast.Name):
            yield from self._unrounded(scene, node)

    def _rounded(self, scene: Scene, node: ast.Call) -> Iterator[TrialEdit]:
        whole, inside = span(scene, node), text_of(scene, node.args[0])
        text = quoted(whole.of(scene.source))
        what = f"{text}: is it rounded here, and to so many places, that is meant?"
        if len(node.args) == 1:
            for number in (1, 2):
                yield make_edit(
                    scene,
                    self.name,
                    whole,
                    f"round({inside}, {number})",
                    what=what,
                    likely=0.5,
                    within=node,
                )
        else:
            for places in ("0", "1", "2", "3"):
                yield make_edit(
                    scene,
                    self.name,
                    span(scene, node.args[1]),
                    places,
                    what=what,
                    likely=0.4,
                    within=node,
                )
        bare = inside if not isinstance(node.args[0], ast.BinOp) else f"({inside})"
        yield make_edit(scene, self.name, whole, bare, what=what, likely=0.5, within=node)
        yield from self._outwards(scene, node, what)

    def _outwards(self, scene: Scene, node: ast.Call, what: str) -> Iterator[TrialEdit]:
        """``round(a) / b``: the whole of it rounded instead."""
        above = scene.parents.get(id(node))
        if isinstance(above, ast.GeneratorExp) and above.elt is node:
            yield from self._of_the_sum(scene, node, above, what)
        if not isinstance(above, ast.BinOp):
            return
        outer, own = span(scene, above), span(scene, node)
        inside = text_of(scene, node.args[0])
        inside = (
            f"({inside})"
            if isinstance(node.args[0], ast.BinOp)
            and not isinstance(node.args[0].op, (ast.Mult, ast.Div))
            else inside
        )
        text = scene.source.text
        body = text[outer.start : own.start] + inside + text[own.stop : outer.stop]
        places = [text_of(scene, a) for a in node.args[1:]] or ["", "2", "1"]
        for number in places:
            new = f"round({body}, {number})" if number else f"round({body})"
            yield make_edit(scene, self.name, outer, new, what=what, likely=0.5, within=above)

    def _of_the_sum(
        self, scene: Scene, node: ast.Call, inner: ast.GeneratorExp, what: str
    ) -> Iterator[TrialEdit]:
        """``sum(round(a) for a in xs)``: the sum rounded, and not each."""
        total = scene.parents.get(id(inner))
        if not isinstance(total, ast.Call) or getattr(total.func, "id", "") != "sum":
            return
        outer, own = span(scene, total), span(scene, node)
        text = scene.source.text
        body = text[outer.start : own.start] + text_of(scene, node.args[0])
        body += text[own.stop : outer.stop]
        places = "".join(f", {text_of(scene, a)}" for a in node.args[1:])
        yield make_edit(
            scene, self.name, outer, f"round({body}{places})", what=what, likely=0.6, within=total
        )

    def _unrounded(self, scene: Scene, node: ast.expr) -> Iterator[TrialEdit]:
        if isinstance(node, ast.BinOp) and not isinstance(node.op, (ast.Div, ast.Mult, ast.Sub)):
            return
        above = scene.parents.get(id(node))
        given = isinstance(above, (ast.Return, ast.Assign)) or (
            isinstance(above, ast.Call) and getattr(above.func, "id", "") == "print"
        )
        if not given or (isinstance(node, ast.Name) and not self._is_float(scene, node)):
            return
        at = span(scene, node)
        text = at.of(scene.source)
        for new in (f"round({text}, 2)", f"round({text}, 1)", f"round({text})"):
            yield make_edit(
                scene,
                self.name,
                Span(at.start, at.stop),
                new,
                likely=0.3,
                within=node,
                what=f"{quoted(text)} is given on with all its decimal places. Is that meant?",
            )

    @staticmethod
    def _is_float(scene: Scene, node: ast.Name) -> bool:
        return isinstance(node.ctx, ast.Load) and "float" in scene.types_of(node.id, node)
