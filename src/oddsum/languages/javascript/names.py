"""The variables in a piece of program: which it binds, and which it reads."""

from __future__ import annotations

from collections.abc import Iterator

from tree_sitter import Node

from oddsum.languages.javascript.parsing import CLASSES, FUNCTIONS, Tree, own, walk

_PATTERNS = frozenset({"object_pattern", "array_pattern", "assignment_pattern", "rest_pattern",
                       "pair_pattern", "object_assignment_pattern"})  # fmt: skip
_IDENTIFIERS = frozenset({"identifier", "shorthand_property_identifier"})
_SAID = frozenset({"undefined", "NaN", "Infinity", "arguments"})
# Functions of the language that change nothing and ask nobody.
PURE = frozenset({"Number", "String", "Boolean", "parseInt", "parseFloat", "isNaN", "isFinite",
                  "BigInt"})  # fmt: skip
# Methods that change what they are called on.
CHANGING = frozenset({"push", "pop", "shift", "unshift", "splice", "sort", "reverse", "fill", "set",
                      "add", "delete", "clear"})  # fmt: skip
_PURE_ON = frozenset({"Math", "Number", "Object", "Array", "String"})


def pattern_names(node: Node | None, tree: Tree) -> Iterator[Node]:
    """The identifiers that a target binds, as nodes: ``a``, or those in ``[a, {b}]``."""
    if node is None:
        return
    if node.type in ("identifier", "shorthand_property_identifier_pattern"):
        yield node
    elif node.type in ("assignment_pattern", "object_assignment_pattern"):
        yield from pattern_names(node.child_by_field_name("left"), tree)
    elif node.type == "pair_pattern":
        yield from pattern_names(node.child_by_field_name("value"), tree)
    elif node.type in _PATTERNS or node.type == "parenthesized_expression":
        for child in node.named_children:
            yield from pattern_names(child, tree)


def targets_of(node: Node, tree: Tree) -> Iterator[Node]:
    """What a node itself binds: of a declaration, an assignment, ``x++`` or a loop's header."""
    if node.type == "variable_declarator":
        yield from pattern_names(node.child_by_field_name("name"), tree)
    elif node.type in ("assignment_expression", "augmented_assignment_expression"):
        yield from pattern_names(node.child_by_field_name("left"), tree)
    elif node.type == "update_expression":
        yield from pattern_names(node.child_by_field_name("argument"), tree)
    elif node.type == "for_in_statement":
        yield from pattern_names(node.child_by_field_name("left"), tree)
    elif node.type == "catch_clause":
        yield from pattern_names(node.child_by_field_name("parameter"), tree)
    elif node.type in (
        "function_declaration",
        "class_declaration",
        "generator_function_declaration",
    ):
        yield from pattern_names(node.child_by_field_name("name"), tree)


def bound_in(node: Node, tree: Tree, *, header: bool = False) -> Iterator[str]:
    """The names that a node binds, functions inside of it left out; ``header``: itself alone."""
    for inner in (node,) if header else own(node):
        for target in targets_of(inner, tree):
            yield tree.of(target)


def read_in(node: Node, tree: Tree) -> Iterator[str]:
    """The names read in a node, in the order they are written."""
    for inner in walk(node):
        if inner.type in _IDENTIFIERS and not _is_target(inner) and not _is_called(inner):
            name = tree.of(inner)
            if name not in _SAID:
                yield name
        elif inner.type == "this":
            yield "this"


def _is_called(node: Node) -> bool:
    """Whether it is the name of a function that is called, and no variable of interest."""
    above = node.parent
    return above is not None and (
        (above.type == "call_expression" and above.child_by_field_name("function") == node)
        or (above.type == "new_expression" and above.child_by_field_name("constructor") == node)
    )


def _is_target(node: Node) -> bool:
    """Whether a plain ``=``, a declaration or a parameter gives it a value: it is not read then."""
    above = node.parent
    if above is None:
        return False
    if above.type == "variable_declarator":
        return bool(above.child_by_field_name("name") == node)
    if above.type == "assignment_expression":
        return bool(above.child_by_field_name("left") == node)
    if above.type in ("for_in_statement", "assignment_pattern"):
        return bool(above.child_by_field_name("left") == node)
    if above.type == "catch_clause":
        return bool(above.child_by_field_name("parameter") == node)
    if above.type in FUNCTIONS or above.type in CLASSES:
        return bool(above.child_by_field_name("body") != node)
    return above.type in ("formal_parameters", "array_pattern", "rest_pattern", "labeled_statement")


def plain_call(node: Node, tree: Tree) -> bool:
    """Whether a node is no call, or one of the language's functions that ask nobody."""
    if node.type == "new_expression" or node.type in FUNCTIONS:
        return False
    if node.type != "call_expression":
        return True
    called = node.child_by_field_name("function")
    if called is None:
        return False
    if called.type == "identifier":
        return tree.of(called) in PURE
    return (
        called.type == "member_expression"
        and tree.of(called.child_by_field_name("object")) in _PURE_ON
    )
