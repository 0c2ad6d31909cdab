"""Another expression in the place of one: from elsewhere in the function, or with a part more."""

from __future__ import annotations

import re
from collections.abc import Iterator

from tree_sitter import Node

from oddsum.languages.javascript.edits.scene import EditRule, Scene, make_edit
from oddsum.languages.javascript.parsing import FUNCTIONS, around, own
from oddsum.model.lead import TrialEdit
from oddsum.source.quoting import quoted

_VALUES = frozenset({"identifier", "member_expression", "subscript_expression", "call_expression"})
_PLACES = frozenset({*_VALUES, "number", "string", "true", "false", "binary_expression"})
_READS = re.compile(r"\b(prompt|readFileSync|question)\(")
_OUTSIDE = re.compile(rf"{_READS.pattern}|\bconsole\b")  # said or asked once more
_MOST, _LONGEST = 14, 28  # expressions of a function, and their letters


class Instead(EditRule):
    """A value of the function where another one stands."""

    name = "instead"
    title = "another value than the one that is needed"
    explanation = (
        "Say of each part of the line what it stands for: is it the one thing, or all of them, the "
        "item, or how many there are?"
    )

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """Expressions that stand elsewhere in the function; a part of one; one more, one less."""
        known: dict[int, list[str]] = {}
        for node in scene.nodes:
            if node.type not in _PLACES or not _is_value(node):
                continue
            if _READS.search(scene.text(node)):
                continue  # what is typed in is asked for in any case
            function = around(node, FUNCTIONS | {"program"})
            assert function is not None
            if function.id not in known:
                known[function.id] = _values_in(scene, function)
            yield from self._others(scene, node, known[function.id])
            yield from self._nearly(scene, node)

    def _others(self, scene: Scene, node: Node, values: list[str]) -> Iterator[TrialEdit]:
        text = scene.text(node)
        by_name = node.type == "identifier"
        for other in values:
            # A name for a name is another rule's.
            if other == text or (by_name and other.isidentifier()) or f"({text})" in other:
                continue
            yield self._instead(scene, node, other, 0.3 if other in text else 0.22)

    def _nearly(self, scene: Scene, node: Node) -> Iterator[TrialEdit]:
        text = scene.text(node)
        if node.type == "binary_expression":
            for side in ("left", "right"):
                part = scene.text(scene.field(node, side))
                yield self._instead(scene, node, part, 0.2)
            if _is_counted(node) and scene.text(scene.operator(node)) == "-":
                yield self._instead(scene, node, f"Math.max(0, {text})", 0.4)
            return
        if node.type not in _VALUES:
            return
        if not _is_counted_elsewhere(scene, node):
            yield self._instead(scene, node, f"{text} + 1", 0.26)
            yield self._instead(scene, node, f"{text} - 1", 0.26)
        if _is_counted(node):
            for name in _numbers_at(scene, node):
                for new in (f"{text} - {name}", f"{text} + {name}", f"{text} * {name}",
                            f"Math.min({text}, {name})", f"Math.max({text}, {name})"):  # fmt: skip
                    yield self._instead(scene, node, new, 0.2)
        if node.type == "subscript_expression":
            yield self._instead(scene, node, scene.text(scene.field(node, "index")), 0.3)
        if text.endswith(".length"):
            yield self._instead(scene, node, f"{text.removesuffix('.length')}[0].length", 0.24)
        elif node.type == "identifier":
            yield self._instead(scene, node, f"{text}.length", 0.15)
            if _is_put_in(scene, node):
                yield self._instead(scene, node, f"...{text}", 0.35)

    def _instead(self, scene: Scene, node: Node, new: str, likely: float) -> TrialEdit:
        return make_edit(
            scene,
            self.name,
            node,
            f"({new})" if _binds(node) and " " in new else new,
            likely=likely,
            within=node,
            what=f"{quoted(scene.text(node))} stands here. Is it that whose value is needed?",
        )


def _is_counted(node: Node) -> bool:
    """Whether it is kept, given back, handed on or put into a list as it is."""
    above = node.parent
    return above is not None and above.type in (
        "array", "arguments", "return_statement", "variable_declarator",
        "assignment_expression", "augmented_assignment_expression",
    )  # fmt: skip


def _numbers_at(scene: Scene, node: Node) -> list[str]:
    """Other names that can be read there and had numbers, where it may be one itself."""
    text = scene.text(node)
    seen = scene.types_of(text, node)
    if seen and "number" not in seen:
        return []
    names = sorted(scene.names_at(node))
    return [n for n in names if n != text and "number" in scene.types_of(n, node)][:4]


def _values_in(scene: Scene, function: Node) -> list[str]:
    """What the function works with, each once, the shorter first."""
    inside = (function,) if function.type == "program" else function.children
    found = dict.fromkeys(
        scene.text(n) for part in inside for n in own(part) if n.type in _VALUES and _is_value(n)
    )
    short = [t for t in found if len(t) <= _LONGEST and "\n" not in t and not _OUTSIDE.search(t)]
    return sorted(short, key=len)[:_MOST]


def _is_put_in(scene: Scene, node: Node) -> bool:
    """Whether a list, or what may be one, is put into another as a single item."""
    given = node.parent
    if given is None or given.parent is None or len(given.named_children) != 1:
        return False
    called = given.parent.child_by_field_name("function")
    seen = scene.types_of(scene.text(node), node)
    return (
        called is not None and scene.text(called).endswith(".push") and (not seen or "list" in seen)
    )


def _is_value(node: Node) -> bool:
    """Whether it is read as a whole: not called, not set, not a part of a longer name."""
    above = node.parent
    if above is None:
        return False
    if above.type in ("arguments", "return_statement", "binary_expression", "array",
                      "template_substitution", "ternary_expression", "spread_element"):  # fmt: skip
        return True
    if above.type in ("variable_declarator", "pair"):
        return bool(above.child_by_field_name("value") == node)
    if above.type in ("assignment_expression", "augmented_assignment_expression",
                      "for_in_statement"):  # fmt: skip
        return bool(above.child_by_field_name("right") == node)
    if above.type == "subscript_expression":
        return bool(above.child_by_field_name("index") == node)
    return above.type == "arrow_function" and above.child_by_field_name("body") == node


def _is_counted_elsewhere(scene: Scene, node: Node) -> bool:
    """Whether one more or one less is another rule's there, or none at all: of an index, of a
    length, of one side of `<` and the like, of a text.
    """
    above, text = node.parent, scene.text(node)
    sizes = (
        above is not None
        and above.type == "binary_expression"
        and scene.text(scene.operator(above)) in ("<", "<=", ">", ">=")
    )
    index = above is not None and above.type == "subscript_expression"
    seen = scene.types_of(text, node)
    return sizes or index or text.endswith(".length") or bool(seen and "number" not in seen)


def _binds(node: Node) -> bool:
    return node.parent is not None and node.parent.type == "binary_expression"
