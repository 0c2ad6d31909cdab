"""An expression with the parentheses that JavaScript puts there in its mind."""

from __future__ import annotations

from tree_sitter import Node

from oddsum.languages.javascript.parsing import Tree, walk

_GROUPS = frozenset({"binary_expression", "unary_expression", "ternary_expression"})
# How a line can be made whole that begins or ends a block.
_WHOLE = ("{}", "{} }}", "{} {{}}", "if (0) {{ {}", "if (0) {{ {} }}", "{} while (0)")
# Where the expression of a statement stands.
_FIELDS = ("value", "right", "condition", "argument")


def grouped(line: str) -> str:
    """A line's expression with every operation in parentheses; blank where it has fewer than two.

    ``2 + 2 / 2`` becomes ``2 + (2 / 2)``. The outermost operation needs none.
    """
    for form in _WHOLE:
        tree = Tree(form.format(line.strip()))
        node = _expression_of(tree) if tree.fault is None else None
        if node is not None:
            inner = [n for n in walk(node) if n.type in _GROUPS]
            return _written(node, tree) if len(inner) > 1 else ""
    return ""


def _expression_of(tree: Tree) -> Node | None:
    """What the last statement that has an expression works out."""
    found = None
    for node in walk(tree.root):
        part = next((p for f in _FIELDS if (p := node.child_by_field_name(f)) is not None), None)
        if node.type == "expression_statement" and node.named_children:
            first = node.named_children[0]
            part = None if first.child_by_field_name("right") is not None else first
        elif node.type == "return_statement" and node.named_children:
            part = node.named_children[0]
        elif node.type not in _STATEMENTS:
            part = None
        if part is not None and tree.of(part) not in ("0", "(0)"):
            found = part
    return _bare(found) if found is not None else None


_STATEMENTS = frozenset({"variable_declarator", "assignment_expression", "if_statement",
                         "augmented_assignment_expression", "while_statement", "for_in_statement",
                         "return_statement", "expression_statement", "do_statement",
                         "for_statement"})  # fmt: skip


def _bare(node: Node) -> Node:
    """What stands in brackets, without them."""
    while node.type == "parenthesized_expression" and node.named_children:
        node = node.named_children[0]
    return node


def _written(node: Node, tree: Tree) -> str:
    """The expression, its parts in parentheses where they are operations themselves."""
    if not node.named_children:
        return tree.of(node)
    made, at = [], tree.start(node)
    for child in node.children:
        inner = _bare(child)
        text = _written(inner, tree)
        if _has_brackets(node, child, inner):
            text = f"({text})"
        made += [tree.text[at : tree.start(child)], text]
        at = tree.stop(child)
    return "".join([*made, tree.text[at : tree.stop(node)]])


def _has_brackets(node: Node, child: Node, inner: Node) -> bool:
    """Whether a part is written in brackets: an operation in another; elsewhere, as it was."""
    if node.type in _GROUPS:
        return inner.type in _GROUPS
    return inner is not child and node.type != "arguments"
