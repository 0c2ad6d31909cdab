"""Two things the wrong way round: a row and a column, two arguments."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import pairwise

from tree_sitter import Node

from oddsum.languages.javascript.edits.scene import EditRule, Scene, make_edit
from oddsum.model.lead import TrialEdit
from oddsum.source.quoting import quoted

_MIXED = ({"*", "/"}, {"+", "-"})


class Exchanged(EditRule):
    """``deck[lane][line]`` for ``deck[line][lane]``; ``f(b, a)`` for ``f(a, b)``."""

    name = "exchanged"
    title = "two things the wrong way round"
    explanation = (
        "Of a list of lists the first index says which list, the second which item in it. What a "
        "call is given goes to the parameters in their order."
    )

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """The other way round."""
        for node in scene.of_type("subscript_expression"):
            inner = scene.field(node, "object")
            if inner.type == "subscript_expression":
                held = scene.text(scene.field(inner, "object"))
                first, second = (scene.text(scene.field(n, "index")) for n in (inner, node))
                yield from self._other(scene, node, first, second, f"{held}[{second}][{first}]")
        for node in scene.of_type("binary_expression"):
            inner, last = scene.field(node, "left"), scene.field(node, "right")
            if inner.type != "binary_expression":
                continue
            # Of `a * b / c` the last two do opposite things to the first.
            if {scene.text(scene.operator(n)) for n in (inner, node)} in _MIXED:
                yield from self._neighbours(scene, scene.field(inner, "right"), last)
        for node in scene.of_type("arguments"):
            for one, two in pairwise(node.named_children):
                if "comment" not in (one.type, two.type):
                    yield from self._neighbours(scene, one, two)

    def _neighbours(self, scene: Scene, one: Node, two: Node) -> Iterator[TrialEdit]:
        """Two nodes of which the one stands ahead of the other, with what is between them."""
        first, second = scene.text(one), scene.text(two)
        at = scene.tree.start(one), scene.tree.stop(two)
        between = scene.source.text[scene.tree.stop(one) : scene.tree.start(two)]
        yield from self._other(scene, at, first, second, f"{second}{between}{first}")

    def _other(
        self, scene: Scene, at: Node | tuple[int, int], first: str, second: str, new: str
    ) -> Iterator[TrialEdit]:
        if first == second or "=>" in new:
            return
        yield make_edit(
            scene,
            self.name,
            at,
            new,
            likely=0.4,
            what=f"{quoted(first)} stands ahead of {quoted(second)} here. Which is which?",
        )
