"""The parts of one statement, each of which is told as it is worked out."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from typing import Any

from tree_sitter import Node

from oddsum.languages.javascript.names import targets_of
from oddsum.languages.javascript.outline import statement_nodes
from oddsum.languages.javascript.parsing import header_of, line_of, tree_of, walk
from oddsum.source.program import Source

_PARTS = frozenset({
    "identifier", "member_expression", "subscript_expression", "call_expression", "this",
    "binary_expression", "unary_expression", "ternary_expression", "template_string", "array",
    "object", "new_expression", "await_expression",
})  # fmt: skip


class Parts:
    """The parts of the statement that begins on a line.

    ``rows``: ``[kind, line, column, end line, end column, parent]`` of each, columns in bytes from
    0, the parent -1 for what stands in no other; they are made while the statement is woven.
    """

    def __init__(self, source: Source, line: int) -> None:
        self._tree = tree_of(source)
        self.rows: list[list[Any]] = []
        self._outer = -1
        found = (n for n in statement_nodes(source) if line_of(n) == line)
        self.statement: Node | None = next(found, None)
        self._ids = {n.id for n in self._worth()} if self.statement is not None else set()

    def _worth(self) -> Iterator[Node]:
        assert self.statement is not None
        nodes = list(header_of(self.statement))
        targets = {t.id for n in (self.statement, *nodes) for t in targets_of(n, self._tree)}
        for node in nodes:
            if node.type in _PARTS and node.id not in targets and not _is_place(node):
                yield node

    def has(self, node: Node) -> bool:
        """Whether a node is one of them."""
        return node.id in self._ids

    @contextmanager
    def part(self, node: Node) -> Iterator[int]:
        """The number of a part; what is woven meanwhile stands in it."""
        number, outer = len(self.rows), self._outer
        kind = "Name" if node.type in ("identifier", "this") else node.type
        (line, column), (end, stop) = node.start_point, node.end_point
        self.rows.append([kind, line + 1, column, end + 1, stop, outer])
        self._outer = number
        yield number
        self._outer = outer


def _is_place(node: Node) -> bool:
    """Whether it is what a call calls, is given a value, or is cut short by ``?.``: no value of
    its own."""
    above = node.parent
    if above is None:
        return False
    function = above.child_by_field_name("function")
    if above.type == "call_expression" and function == node:
        return True
    if above.type in ("assignment_expression", "augmented_assignment_expression"):
        return bool(above.child_by_field_name("left") == node)
    if above.type == "update_expression" or any(c.type == "optional_chain" for c in walk(node)):
        return True
    if above.type == "unary_expression" and above.children[0].type in ("delete", "typeof"):
        return True
    return above.type in ("pair_pattern", "array_pattern", "shorthand_property_identifier")
