"""What each loop of a program goes over, and what it uses of it: read off the syntax."""

from __future__ import annotations

from collections.abc import Iterator

from tree_sitter import Node

from oddsum.languages.javascript.names import bound_in, plain_call, read_in
from oddsum.languages.javascript.parsing import (
    FUNCTIONS,
    LOOPS,
    Tree,
    end_of,
    header_of,
    is_statement,
    line_of,
    tree_of,
    walk,
)
from oddsum.languages.outline import Loop, Order, Use
from oddsum.source.program import Source

_PLACES = frozenset(
    {"identifier", "member_expression", "subscript_expression", "array", "string", "this"}
)
# What a method gives of what it is called on, an item for each: how these come then.
_AROUND: dict[str, Order] = {
    "toReversed": "backward", "reverse": "backward", "sort": "other", "toSorted": "other",
    "entries": "forward", "slice": "forward",
}  # fmt: skip


def loops(source: Source) -> tuple[Loop, ...]:
    """Every loop of a program, in the order of its lines; ``for (;;)`` is a ``while``."""
    tree = tree_of(source)
    nodes = [n for n in walk(tree.root) if n.type in LOOPS]
    inside = _used_in_functions(tree)
    found = [
        _loop(
            source, tree, n, frozenset().union(*(names for f, names in inside if not _holds(f, n)))
        )
        for n in nodes
    ]
    return tuple(sorted(found, key=lambda loop: loop.line))


def _holds(outer: Node, inner: Node) -> bool:
    return bool(outer.start_byte <= inner.start_byte and inner.end_byte <= outer.end_byte)


def _used_in_functions(tree: Tree) -> list[tuple[Node, frozenset[str]]]:
    """For each function: the names it reads that are not its own."""
    found = []
    for node in walk(tree.root):
        if node.type in FUNCTIONS:
            parameters = node.child_by_field_name("parameters") or node.child_by_field_name(
                "parameter"
            )
            own = {*bound_in(node, tree)} | ({*read_in(parameters, tree)} if parameters else set())
            found.append((node, frozenset(read_in(node, tree)) - own))
    return found


def condition_of(node: Node) -> Node | None:
    """What a loop asks before each round; None where it asks nothing."""
    asked = node.child_by_field_name("condition")
    if asked is None or asked.type == "empty_statement":
        return None
    return (
        asked.named_children[0]
        if asked.type in ("parenthesized_expression", "expression_statement")
        else asked
    )


def _loop(source: Source, tree: Tree, node: Node, elsewhere: frozenset[str]) -> Loop:
    goes_over = node.type == "for_in_statement"
    over, order = _goes_over(node, tree) if goes_over else (None, "forward")
    asked = node.child_by_field_name("right") if goes_over else condition_of(node)
    left = node.child_by_field_name("left")
    targets = tuple(bound_in(node, tree, header=True)) if goes_over and left is not None else ()
    return Loop(
        file=source.name,
        line=line_of(node),
        end=end_of(node),
        kind="for" if goes_over else "while",
        header=source.lines[line_of(node) - 1].strip().rstrip("{").rstrip(),
        targets=targets,
        over=over,
        order=order,
        in_header=tuple(dict.fromkeys(read_in(asked, tree))) if asked is not None else (),
        plain=asked is not None and all(plain_call(n, tree) for n in walk(asked)),
        uses=tuple(_uses(node, tree, elsewhere)),
        names=frozenset((*read_in(node, tree), *bound_in(node, tree))),
    )


def _goes_over(node: Node, tree: Tree) -> tuple[str | None, Order]:
    if tree.of(node.child_by_field_name("operator")) == "in":
        return None, "forward"
    right = node.child_by_field_name("right")
    if right is None:
        return None, "forward"
    if right.type == "call_expression":
        called = right.child_by_field_name("function")
        if called is not None and called.type == "member_expression":
            method = tree.of(called.child_by_field_name("property"))
            on = called.child_by_field_name("object")
            given = right.child_by_field_name("arguments")
            bare = given is not None and not given.named_children
            if (
                method in _AROUND
                and on is not None
                and on.type in _PLACES
                and (bare or method != "slice")
            ):
                return tree.of(on), _AROUND[method]
        return None, "forward"
    return (tree.of(right) if right.type in _PLACES else None), "forward"


def _uses(loop: Node, tree: Tree, elsewhere: frozenset[str]) -> Iterator[Use]:
    """What is used by index in the rounds, where all that uses it is in sight.

    Left out is a sequence that is mentioned in another way, in a function that the loop may call
    (``elsewhere``), or whose index is of something that only exists within one expression.
    """
    found: list[tuple[Use, bool, str]] = []
    mentions: dict[str, int] = {}
    moving = set(bound_in(loop, tree))
    inner = _within_callbacks(loop, tree)
    for statement, node in _expressions(loop):
        if node.type in ("identifier", "member_expression") and not _is_measured(node, tree):
            text = tree.of(node)
            mentions[text] = mentions.get(text, 0) + 1
        if node.type != "subscript_expression":
            continue
        on, index = node.child_by_field_name("object"), node.child_by_field_name("index")
        if on is None or index is None or on.type not in ("identifier", "member_expression"):
            continue
        names = set(read_in(index, tree))
        if not names & inner:
            use = Use(line_of(statement), tree.of(on), tree.of(index))
            found.append((use, bool(moving & names), _root(on, tree)))
    moves = {use.sequence for use, moved, _ in found if moved}
    for use, _, root in found:
        whole = mentions.get(use.sequence) == sum(u.sequence == use.sequence for u, _, _ in found)
        if use.sequence in moves and whole and root not in elsewhere | moving:
            yield use


def _is_measured(node: Node, tree: Tree) -> bool:
    """Whether only its length is asked."""
    above = node.parent
    return (
        above is not None
        and above.type == "member_expression"
        and tree.of(above.child_by_field_name("property")) == "length"
    ) or (node.type == "member_expression" and tree.of(node).endswith(".length"))


def _root(node: Node, tree: Tree) -> str:
    while node.type == "member_expression":
        inner = node.child_by_field_name("object")
        if inner is None:
            break
        node = inner
    return tree.of(node)


def _within_callbacks(loop: Node, tree: Tree) -> set[str]:
    found: set[str] = set()
    for node in walk(loop):
        if node.type in FUNCTIONS:
            given = node.child_by_field_name("parameters") or node.child_by_field_name("parameter")
            found |= {*bound_in(node, tree)} | (
                {*read_in(given, tree)} if given is not None else set()
            )
    return found


def _expressions(loop: Node) -> Iterator[tuple[Node, Node]]:
    """The nodes of a loop's test and body, each with the statement it is worked out in."""
    todo = [loop]
    while todo:
        statement = todo.pop(0)
        skipped = statement.child_by_field_name("right") if statement is loop else None
        for node in header_of(statement):
            if skipped is None or not _holds(skipped, node):
                yield statement, node
        todo += [n for n in _blocks_of(statement)]


def _blocks_of(statement: Node) -> Iterator[Node]:
    for child in statement.named_children:
        if is_statement(child) and child.type != "statement_block":
            yield child
        elif child.type in ("statement_block", "else_clause", "switch_body", "switch_case",
                            "switch_default", "catch_clause", "finally_clause"):  # fmt: skip
            yield from _blocks_of(child)
