"""Two names for one list; a function that has lost what `this` is; a text with blanks around it."""

from __future__ import annotations

from collections.abc import Iterator

from tree_sitter import Node

from oddsum.languages.javascript.edits.scene import EditRule, Scene, make_edit
from oddsum.languages.javascript.parsing import walk
from oddsum.model.lead import TrialEdit
from oddsum.source.quoting import quoted


class Shared(EditRule):
    """``const list = other;``: two names for one list or object."""

    name = "shared"
    title = "two names for one list or object"
    explanation = (
        "`=` gives a second name to the same list or object: what is changed under one name is "
        "changed under the other. `[...list]` and `{ ...object }` make another one."
    )

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """A copy in its place."""
        for node in scene.of_type("variable_declarator", "assignment_expression"):
            field = "value" if node.type == "variable_declarator" else "right"
            value = node.child_by_field_name(field)
            if value is None or value.type not in ("identifier", "member_expression"):
                continue
            text = scene.text(value)
            seen = scene.types_of(text, value)
            for kind, copied in (("list", f"[...{text}]"), ("dict", f"{{ ...{text} }}")):
                if kind in seen or not seen:
                    yield make_edit(
                        scene,
                        self.name,
                        value,
                        copied,
                        likely=0.45,
                        within=value,
                        what=f"From here on there are two names for what {quoted(text)} holds. "
                        "Which lines change it, under which of the names?",
                    )


class LostThis(EditRule):
    """``function`` where an arrow is needed: its `this` is another one."""

    name = "lost this"
    title = "a `this` that is not the object's"
    explanation = (
        "A `function` that somebody else calls has a `this` of its own; an arrow has that of the "
        "method it stands in."
    )

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """An arrow in its place."""
        for node in scene.of_type("function_expression"):
            above = node.parent
            uses = any(n.type == "this" for n in walk(scene.field(node, "body")))
            if above is None or above.type != "arguments" or not uses:
                continue
            given, body = scene.field(node, "parameters"), scene.field(node, "body")
            at = scene.tree.start(node), scene.tree.start(body)
            yield make_edit(
                scene,
                self.name,
                at,
                f"{scene.text(given)} => ",
                likely=0.85,
                what="`this` in this function is not the `this` of the method around it.",
                how=f"Write {quoted(scene.text(given) + ' => { ... }')} instead of "
                f"{quoted('function ' + scene.text(given) + ' { ... }')}.",
            )


class Folding(EditRule):
    """Blanks, capital letters, an order, leading zeros that are not seen to."""

    name = "folding"
    title = "texts or lists that are taken as they come"
    explanation = (
        "What people type has blanks around it and capital letters in it; a list is in the order "
        "in which it was filled."
    )

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """Methods that tidy, behind what is read, split, given back or gone over."""
        for node in scene.of_type("identifier", "call_expression", "member_expression",
                                  "array"):  # fmt: skip
            if not _is_taken(node):
                continue
            text = scene.text(node)
            seen = scene.types_of(text, node)
            for more, likely, kinds in _TIDIES:
                if text.endswith(more) or (seen and not seen & kinds):
                    continue
                if not seen and not _fits(scene, node, more):
                    continue
                yield self._tidied(scene, node, f"{text}{more}", likely)
            if not seen or "number" in seen:
                above = node.parent.type if node.parent is not None else ""
                if above in ("binary_expression", "template_substitution"):
                    yield self._tidied(scene, node, f'String({text}).padStart(2, "0")', 0.2)
        for node in scene.of_type("call_expression"):
            called = scene.field(node, "function")
            if called.type != "member_expression":
                continue
            method, inner = (
                scene.text(scene.field(called, "property")),
                scene.field(called, "object"),
            )
            text = scene.text(inner)
            if method in _OF_TEXTS:
                for more in (".trim()", ".toLowerCase()", ".toUpperCase()"):
                    if not text.endswith(more):
                        yield self._tidied(scene, inner, f"{text}{more}", 0.3)

    def _tidied(self, scene: Scene, node: Node, new: str, likely: float) -> TrialEdit:
        return make_edit(
            scene,
            self.name,
            node,
            new,
            likely=likely,
            within=node,
            what=f"{quoted(scene.text(node))} is taken here as it comes. Look closely at what "
            "is in it.",
        )


_OF_TEXTS = ("split", "toLowerCase", "toUpperCase", "startsWith", "endsWith", "includes", "indexOf")
_TEXTS, _LISTS = frozenset({"string"}), frozenset({"list"})
_TIDIES = (
    (".trim()", 0.35, _TEXTS),
    (".toLowerCase()", 0.3, _TEXTS),
    (".toUpperCase()", 0.25, _TEXTS),
    (".sort()", 0.35, _LISTS),
    (".sort((a, b) => a - b)", 0.35, _LISTS),
    (".reverse()", 0.25, _LISTS),
    (".slice()", 0.3, _LISTS),
    ('.filter((one) => one !== "")', 0.3, _LISTS),
)


def _is_taken(node: Node) -> bool:
    """Whether it is a whole value that is kept, given back, handed on or gone over."""
    above = node.parent
    if above is None:
        return False
    if above.type in ("variable_declarator", "pair"):
        return bool(above.child_by_field_name("value") == node)
    if above.type in ("for_in_statement", "assignment_expression"):
        return bool(above.child_by_field_name("right") == node)
    return above.type in ("return_statement", "arguments", "binary_expression", "array",
                          "template_substitution")  # fmt: skip


def _fits(scene: Scene, node: Node, more: str) -> bool:
    """Whether what no value was seen of can be something that has this method, by what made it."""
    called = node.child_by_field_name("function") if node.type == "call_expression" else None
    method = called.child_by_field_name("property") if called is not None else None
    gives_list = node.type == "array" or scene.text(method) in _GIVING_LISTS
    if more in (".trim()", ".toLowerCase()", ".toUpperCase()"):
        return node.type == "call_expression" and not gives_list
    return gives_list


_GIVING_LISTS = ("split", "map", "filter", "slice", "keys", "values", "entries", "concat")
