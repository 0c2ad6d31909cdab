"""The limits a program's conditions set: ``age < 16``, ``n % 2 === 0``, ``cars.length > 3``."""

from __future__ import annotations

from collections.abc import Iterator

from tree_sitter import Node

from oddsum.languages.javascript.literals import number_of
from oddsum.languages.javascript.loops import condition_of
from oddsum.languages.javascript.outline import function_at, statement_nodes
from oddsum.languages.javascript.parsing import FUNCTIONS, LOOPS, Tree, header_of, line_of, tree_of
from oddsum.languages.outline import Fork, Limit, Number
from oddsum.source.program import Source

_SIGNS = {
    "<": "<",
    "<=": "<=",
    ">": ">",
    ">=": ">=",
    "==": "==",
    "===": "==",
    "!=": "!=",
    "!==": "!=",
}
_CHAINING = frozenset({"binary_expression", "parenthesized_expression", "unary_expression"})
_TURNED = {"<": ">", "<=": ">=", ">": "<", ">=": "<=", "==": "==", "!=": "!="}


def limits(source: Source) -> tuple[Limit, ...]:
    """Every limit of a program, in the order of its lines, each once."""
    tree = tree_of(source)
    constants = _constants(tree)
    found: list[Limit] = []
    for statement in statement_nodes(source):
        for node in header_of(statement):
            if node.type == "binary_expression":
                found += _of_comparison(source, tree, statement, node, constants)
    return tuple(dict.fromkeys(sorted(found, key=lambda x: (x.line, x.place))))


def _constants(tree: Tree) -> dict[str, Number]:
    """Names that ``const`` gives a number, at the top of the program."""
    found: dict[str, Number] = {}
    for statement in tree.root.named_children:
        if statement.type == "lexical_declaration" and tree.of(statement).startswith("const"):
            for declared in statement.named_children:
                name, value = (declared.child_by_field_name(f) for f in ("name", "value"))
                number = number_of(value, tree) if value is not None else None
                if number is not None and name is not None and name.type == "identifier":
                    found[tree.of(name)] = number
    return found


def _of_comparison(
    source: Source, tree: Tree, statement: Node, node: Node, constants: dict[str, Number]
) -> Iterator[Limit]:
    sign = _SIGNS.get(tree.of(node.child_by_field_name("operator")))
    left, right = node.child_by_field_name("left"), node.child_by_field_name("right")
    if sign is None or left is None or right is None:
        return
    for subject, other, turned in ((left, right, sign), (right, left, _TURNED[sign])):
        value = constants.get(tree.of(other), number_of(other, tree))
        if value is not None and _is_subject(subject, tree, constants):
            line = line_of(statement)
            function = function_at(source, line)
            text = tree.of(subject)
            length = text.removesuffix(".length") if text.endswith(".length") else ""
            yield Limit(
                source.name, line, line_of(subject), function, text, turned, value,
                length_of=length, others=_others(node, tree),
            )  # fmt: skip


def _others(node: Node, tree: Tree) -> tuple[str, ...]:
    """What has to hold for a comparison in a ``&&`` or ``||`` to decide anything."""
    found: list[str] = []
    inner, above = node, node.parent
    while above is not None and above.type in _CHAINING:
        sign = tree.of(above.child_by_field_name("operator"))
        if above.type == "binary_expression" and sign not in ("&&", "||"):
            break
        for side in ("left", "right"):
            part = above.child_by_field_name(side)
            if part is not None and part != inner:
                found.append(tree.of(part) if sign == "&&" else f"!({tree.of(part)})")
        inner, above = above, above.parent
    return tuple(found)


def _is_subject(node: Node, tree: Tree, constants: dict[str, Number]) -> bool:
    """Whether it is something whose value a recording can tell: names, lengths, remainders."""
    if node.type == "identifier":
        return tree.of(node) not in constants
    if node.type == "member_expression":
        on = node.child_by_field_name("object")
        length = tree.of(node.child_by_field_name("property")) == "length"
        return length and on is not None and on.type == "identifier"
    if node.type == "binary_expression":
        left, right = node.child_by_field_name("left"), node.child_by_field_name("right")
        rest = tree.of(node.child_by_field_name("operator")) == "%"
        return (
            rest and left is not None and left.type == "identifier" and right is not None
            and constants.get(tree.of(right), number_of(right, tree)) is not None
        )  # fmt: skip
    return False


def forks(source: Source) -> tuple[Fork, ...]:
    """Every ``if`` and loop, in the order of their lines."""
    tree = tree_of(source)
    found: list[Fork] = []

    def visit(node: Node, around: int | None) -> None:
        for child in node.named_children:
            inner = around
            if child.type in LOOPS or child.type == "if_statement":
                kind = {"if_statement": "if", "for_in_statement": "for"}.get(child.type, "while")
                header = source.lines[line_of(child) - 1].strip().rstrip("{").rstrip()
                fixed = _is_fixed(child, tree)
                found.append(Fork(source.name, line_of(child), kind, header, around, fixed))
                inner = line_of(child)
            elif child.type in FUNCTIONS:
                inner = None
            visit(child, inner)

    visit(tree.root, None)
    return tuple(sorted(found, key=lambda f: f.line))


def _is_fixed(node: Node, tree: Tree) -> bool:
    """Whether a loop makes as many rounds in every case: over fixed numbers, or for ever."""
    if node.type == "if_statement":
        return False
    if node.type == "for_in_statement":
        right = node.child_by_field_name("right")
        return right is not None and right.type in ("array", "string")
    asked = condition_of(node)
    if asked is None or asked.type == "true":
        return True
    left, right = asked.child_by_field_name("left"), asked.child_by_field_name("right")
    return (
        node.type == "for_statement" and left is not None and left.type == "identifier"
        and right is not None and number_of(right, tree) is not None
    )  # fmt: skip
