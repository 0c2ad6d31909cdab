"""What a function is given or works out and never uses: there is a line that should ask for it."""

from __future__ import annotations

from collections.abc import Iterator

from tree_sitter import Node

from oddsum.languages.fitted import UNUSED
from oddsum.languages.javascript.edits.scene import EditRule, Scene, make_edit
from oddsum.languages.javascript.names import pattern_names
from oddsum.languages.javascript.parsing import FUNCTIONS, around, line_of, walk
from oddsum.model.lead import TrialEdit
from oddsum.source.quoting import quoted

_WHOLE = {"return_statement": "", "variable_declarator": "value",
          "assignment_expression": "right", "augmented_assignment_expression": "right"}  # fmt: skip
_VALUES = ("identifier", "call_expression", "binary_expression", "subscript_expression",
           "member_expression")  # fmt: skip
_NAMED = ("identifier", "array_pattern")
_ORDERED = ("<", "<=", ">", ">=")
_SIGNS = ("<=", "<", ">=", ">", "===")


class Unused(EditRule):
    """A limit, an amount or a step that no line of the function reads."""

    name = "unused"
    title, explanation = UNUSED.title, UNUSED.explanation

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """It in the place of a number, asked for in an ``else``, and beside whole values."""
        most = _most_given(scene)
        for name, holder, since in _unread(scene):
            for node in walk(holder):
                if line_of(node) < since:
                    continue
                if node.type == "number" and node.parent is not None:
                    if node.parent.type in ("binary_expression", "arguments"):
                        yield self._edit(scene, node, name, name, 0.45)
                if node.type == "else_clause":
                    yield from self._in_else(scene, node, name)
                yield from self._beside(scene, node, name)
                if node.type == "call_expression":
                    yield from self._handed_on(scene, node, name, most)

    def _handed_on(
        self, scene: Scene, node: Node, name: str, most: dict[str, int]
    ) -> Iterator[TrialEdit]:
        """``add(kind)`` as ``add(kind, count)``, where the function can be given more."""
        given = scene.field(node, "arguments").named_children
        called = scene.text(scene.field(node, "function")).rpartition(".")[2]
        if given and len(given) < most.get(called, 0):
            stop = scene.tree.stop(given[-1])
            yield make_edit(
                scene, self.name, (stop, stop), f", {name}", likely=0.5, within=node,
                line=line_of(node), what=_asked(name),
                how=f"Hand {quoted(name)} on to {quoted(called)}.",
            )  # fmt: skip

    def _beside(self, scene: Scene, node: Node, name: str) -> Iterator[TrialEdit]:
        value = _whole(node)
        if value is None or value.type not in _VALUES or scene.text(value) == name:
            return
        if node.type == "variable_declarator" and scene.text(scene.field(node, "name")) == name:
            return
        text = scene.text(value)
        closed = f"({text})" if value.type == "binary_expression" else text
        read = [(f"{closed} + Number({name})", 0.4)] if "Number(" in text else []
        for new, likely in ((f"Math.min({text}, {name})", 0.42), (f"Math.max({text}, {name})", 0.4),
                            (f"{closed} * {name}", 0.4), (f"{closed} + {name}", 0.38),
                            *read, (f"{closed} - {name}", 0.38)):  # fmt: skip
            yield self._edit(scene, value, new, name, likely)

    def _in_else(self, scene: Scene, node: Node, name: str) -> Iterator[TrialEdit]:
        """``else {`` as ``else if (level <= name) {``, of what is compared above."""
        above, body = node.parent, node.named_children[-1]
        if above is None or body.type != "statement_block":
            return
        first = body.named_children[0] if body.named_children else node
        for side in _sides(scene, scene.field(above, "condition")):
            for place, sign in enumerate(_SIGNS):
                at = scene.tree.start(body)
                test = f"{scene.text(side)} {sign} {name}"
                yield make_edit(
                    scene, self.name, (at, at), f"if ({test}) ", likely=0.5 - 0.02 * place,
                    line=line_of(node), runs_at=line_of(first), what=_asked(name),
                    how=f"Write {quoted(f'else if ({test})')} in place of `else`.",
                )  # fmt: skip

    def _edit(self, scene: Scene, node: Node, new: str, name: str, likely: float) -> TrialEdit:
        return make_edit(
            scene, self.name, node, new, likely=likely, within=node,
            what=_asked(name),
        )  # fmt: skip


def _unread(scene: Scene) -> Iterator[tuple[str, Node, int]]:
    """Parameters, and names declared with a value, that nothing reads; where they can be read, and
    from which line on."""
    said: dict[str, int] = {}
    for node in scene.of_type("identifier", "shorthand_property_identifier"):
        said[scene.text(node)] = said.get(scene.text(node), 0) + 1
    for function in scene.of_type(*FUNCTIONS):
        given = function.child_by_field_name("parameters")
        for child in given.named_children if given is not None else ():
            for name in pattern_names(child, scene.tree):
                if said.get(scene.text(name)) == 1:
                    yield scene.text(name), scene.field(function, "body"), 0
    for node in scene.of_type("variable_declarator"):
        name, value = scene.field(node, "name"), node.child_by_field_name("value")
        if name.type not in _NAMED or value is None or value.type in FUNCTIONS:
            continue
        for one in pattern_names(name, scene.tree):
            if said.get(scene.text(one)) == 1:
                holder = around(node, FUNCTIONS)
                body = scene.field(holder, "body") if holder is not None else scene.tree.root
                yield scene.text(one), body, line_of(node)


def _most_given(scene: Scene) -> dict[str, int]:
    """How much each function and method of the program can be given, by its name."""
    return {
        scene.text(scene.field(f, "name")): len(scene.field(f, "parameters").named_children)
        for f in scene.of_type("function_declaration", "method_definition")
    }


def _whole(node: Node) -> Node | None:
    """The value that a statement gives back or keeps; None for others."""
    field = _WHOLE.get(node.type)
    if field is None:
        return None
    return node.child_by_field_name(field) if field else next(iter(node.named_children), None)


def _sides(scene: Scene, test: Node) -> list[Node]:
    """What a condition compares with something by size."""
    compared = [n for n in walk(test) if n.type == "binary_expression"]
    return [scene.field(n, "left") for n in compared if scene.text(scene.operator(n)) in _ORDERED]


def _asked(name: str) -> str:
    return UNUSED.asks.format(all="this file", here=quoted(name))
