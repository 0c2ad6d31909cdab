"""What the rules for a reader's notes need."""

from __future__ import annotations

from collections.abc import Callable, Iterator

from tree_sitter import Node

from oddsum.languages import noting
from oddsum.languages.javascript.edits.scene import Scene
from oddsum.languages.javascript.parsing import FUNCTIONS, around, line_of, walk

Found = Iterator[tuple[Node, str]]  # a place, with the question to ask there


Rule = noting.Rule[Scene]


def rule(
    name: str,
    explanation: str,
    example: str,
    kinds: tuple[str, ...],
    find: Callable[[Scene], Found],
) -> Rule:
    """A rule that finds places, told by their lines."""

    def lines(scene: Scene) -> noting.Found:
        return ((line_of(node), text) for node, text in find(scene))

    return noting.Rule(name, explanation, example, kinds, lines)


def code(scene: Scene, node: Node) -> str:
    """A node as text in a sentence; a long one is cut."""
    text = " ".join(scene.text(node).split())
    return f"`{text}`" if len(text) <= 50 else f"`{text[:47]}...`"


def function_around(node: Node) -> Node | None:
    """The function that a node stands in; None in the module."""
    return around(node, FUNCTIONS)


def sign(scene: Scene, node: Node) -> str:
    """The sign of an operation; blank for what is none."""
    operator = node.child_by_field_name("operator")
    return scene.text(operator) if node.type == "binary_expression" else ""


def sides(node: Node) -> tuple[Node, Node]:
    """The two sides of an operation."""
    left, right = node.child_by_field_name("left"), node.child_by_field_name("right")
    assert left is not None and right is not None
    return left, right


def method(scene: Scene, call: Node) -> str:
    """The name of the method that is called; blank for a call of anything else."""
    called = call.child_by_field_name("function")
    if called is None or called.type != "member_expression":
        return ""
    return scene.text(called.child_by_field_name("property"))


def names_in(scene: Scene, node: Node) -> set[str]:
    """Every name anywhere under a node."""
    return {scene.text(n) for n in walk(node) if n.type == "identifier"}


def set_in(scene: Scene, node: Node) -> set[str]:
    """Every name that is given a value anywhere under a node."""
    found = set()
    for inner in walk(node):
        if inner.type in ("assignment_expression", "augmented_assignment_expression"):
            found |= names_in(scene, sides(inner)[0])
        elif inner.type == "update_expression":
            found |= names_in(scene, inner)
    return found
