"""A function for what has parts, that asks the parts themselves and not what they have in them."""

from __future__ import annotations

from collections.abc import Iterator

from tree_sitter import Node

from oddsum.languages.fitted import DEEPER, OF_THE_WHOLE
from oddsum.languages.javascript.edits.scene import EditRule, Scene, make_edit
from oddsum.languages.javascript.names import pattern_names
from oddsum.languages.javascript.parsing import FUNCTIONS, around, walk
from oddsum.model.lead import TrialEdit
from oddsum.source.quoting import quoted


class Deeper(EditRule):
    """``sum + part.watts`` in ``total(node)``, as ``sum + total(part)``."""

    name = "deeper"
    title, explanation = DEEPER.title, DEEPER.explanation

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """The function called for a part, where only something of the part is asked for; another
        that is given the whole of a thing, where one is given a part of it."""
        yield from self._of_the_whole(scene)
        for function in scene.of_type("function_declaration"):
            given = [n for child in scene.field(function, "parameters").named_children
                     for n in pattern_names(child, scene.tree)]  # fmt: skip
            if not given:
                continue
            first, *rest = [scene.text(n) for n in given]
            inside = [n for n in walk(scene.field(function, "body")) if _is_asked(n)]
            mine = {_property(scene, n) for n in inside if _base(scene, n) == first}
            for node in inside:
                name = _base(scene, node)
                if name.isidentifier() and name != first and _property(scene, node) in mine:
                    called = scene.text(scene.field(function, "name"))
                    yield make_edit(
                        scene,
                        self.name,
                        node,
                        f"{called}({', '.join([name, *rest])})",
                        likely=0.55,
                        what=DEEPER.asks.format(here=quoted(scene.text(node))),
                        within=node,
                    )

    def _of_the_whole(self, scene: Scene) -> Iterator[TrialEdit]:
        """``postage(parcel.weight)`` as ``price(parcel)``."""
        taking = {scene.text(scene.field(f, "name")): f
                  for f in scene.of_type("function_declaration")
                  if len(scene.field(f, "parameters").named_children) == 1}  # fmt: skip
        for node in scene.of_type("call_expression"):
            given = scene.field(node, "arguments").named_children
            called = scene.text(scene.field(node, "function"))
            if len(given) != 1 or called not in taking or not _is_asked(given[0]):
                continue
            name, mine = _base(scene, given[0]), around(node, FUNCTIONS)
            for other, function in taking.items() if name.isidentifier() else ():
                if other != called and function != mine:
                    yield make_edit(
                        scene, self.name, node, f"{other}({name})", likely=0.4, within=node,
                        what=OF_THE_WHOLE.format(here=quoted(scene.text(node)), all=quoted(name)),
                    )  # fmt: skip


def _is_asked(node: Node) -> bool:
    """Whether a property is read, and not called."""
    above = node.parent
    return node.type == "member_expression" and not (
        above is not None
        and above.type in ("call_expression", "member_expression", "assignment_expression")
        and above.named_children[0] == node
    )


def _base(scene: Scene, node: Node) -> str:
    return scene.text(scene.field(node, "object"))


def _property(scene: Scene, node: Node) -> str:
    return scene.text(scene.field(node, "property"))
