"""The one door to the grammar: a source becomes a tree, and its nodes places in the text.

The grammar counts bytes; everything of ours counts characters from 0 and lines from 1.
"""

from __future__ import annotations

from collections.abc import Iterator
from functools import cached_property
from threading import Lock

import tree_sitter_javascript
from tree_sitter import Language, Node, Parser
from tree_sitter import Tree as _Syntax

from oddsum.source.program import Source

_GRAMMAR = Language(tree_sitter_javascript.language())
_one_at_a_time = Lock()

FUNCTIONS = frozenset({
    "function_declaration", "function_expression", "generator_function",
    "generator_function_declaration", "arrow_function", "method_definition",
})  # fmt: skip
CLASSES = frozenset({"class_declaration", "class"})
LOOPS = frozenset({"for_statement", "for_in_statement", "while_statement", "do_statement"})
BLOCKS = frozenset({"program", "statement_block", "switch_case", "switch_default",
                    "class_static_block"})  # fmt: skip
_STATEMENTS = frozenset({
    "expression_statement", "lexical_declaration", "variable_declaration", "return_statement",
    "throw_statement", "break_statement", "continue_statement", "debugger_statement",
    "if_statement", "switch_statement", "try_statement", "with_statement", "labeled_statement",
    "import_statement", "export_statement", "function_declaration", "class_declaration",
    "generator_function_declaration", "empty_statement", "statement_block", *LOOPS,
})  # fmt: skip


class Tree:
    """A text with its syntax tree. ``fault``: the first place that the grammar cannot read."""

    def __init__(self, text: str, before: _Syntax | None = None) -> None:
        self.text = text
        self._data = text.encode("utf-8", "replace")
        with _one_at_a_time:
            parser = Parser(_GRAMMAR)
            self._tree = (
                parser.parse(self._data) if before is None else parser.parse(self._data, before)
            )
        self.root = self._tree.root_node

    def edited(self, start: int, stop: int, new: str) -> Tree:
        """The tree of the same text with another piece, read anew only where that matters."""
        ahead = self.text[:start].encode("utf-8", "replace")
        old, now = (t.encode("utf-8", "replace") for t in (self.text[start:stop], new))
        before = self._tree.copy()
        before.edit(
            start_byte=len(ahead),
            old_end_byte=len(ahead) + len(old),
            new_end_byte=len(ahead) + len(now),
            start_point=_point(ahead),
            old_end_point=_point(ahead + old),
            new_end_point=_point(ahead + now),
        )
        return Tree(self.text[:start] + new + self.text[stop:], before)

    @cached_property
    def fault(self) -> Node | None:
        """The first node that the grammar cannot make sense of; None where all is well."""
        if not self.root.has_error:
            return None
        return next((n for n in walk(self.root) if n.is_error or n.is_missing), self.root)

    @cached_property
    def _characters(self) -> list[int] | None:
        """By byte: how many characters are ahead of it; None where each is one byte."""
        if len(self._data) == len(self.text):
            return None
        found, count = [], 0
        for letter in self.text:
            found += [count] * len(letter.encode("utf-8", "replace"))
            count += 1
        return [*found, count]

    def start(self, node: Node) -> int:
        """Where a node begins, in characters from 0."""
        return node.start_byte if self._characters is None else self._characters[node.start_byte]

    def stop(self, node: Node) -> int:
        """Where it ends."""
        return node.end_byte if self._characters is None else self._characters[node.end_byte]

    def says(self, node: Node, *words: str) -> bool:
        """Whether one of a node's own words and signs is one of these: `async`, `*`."""
        return any(self.of(child) in words for child in node.children)

    def of(self, node: Node | None) -> str:
        """The text of a node; blank for none."""
        return "" if node is None else self.text[self.start(node) : self.stop(node)]


def _point(ahead: bytes) -> tuple[int, int]:
    """The row and the column, in bytes from 0, behind a piece of a text."""
    row = ahead.count(b"\n")
    return row, len(ahead) - (ahead.rfind(b"\n") + 1)


def tree_of(source: Source) -> Tree:
    """The tree of a source, made once."""
    kept = source.kept
    if "javascript" not in kept:
        kept["javascript"] = Tree(source.text)
    tree = kept["javascript"]
    assert isinstance(tree, Tree)
    return tree


def line_of(node: Node) -> int:
    """The line on which a node begins, from 1."""
    return int(node.start_point[0]) + 1


def end_of(node: Node) -> int:
    """The line on which it ends, from 1."""
    return int(node.end_point[0]) + 1


def walk(node: Node) -> Iterator[Node]:
    """A node and all named ones below it, in the order of the text."""
    todo = [node]
    while todo:
        one = todo.pop()
        yield one
        todo += reversed(one.children if one.has_error else one.named_children)


def around(node: Node, types: frozenset[str], until: frozenset[str] = frozenset()) -> Node | None:
    """The nearest node of some types that another stands in, no further out than ``until``."""
    above = node.parent
    while above is not None and above.type not in types:
        if above.type in until:
            return None
        above = above.parent
    return above


def own(node: Node) -> Iterator[Node]:
    """A node and what is below it, without what stands in functions and classes inside of it."""
    todo = [node]
    while todo:
        one = todo.pop()
        yield one
        if one is node or (one.type not in FUNCTIONS and one.type not in CLASSES):
            todo += reversed(one.named_children)


def is_statement(node: Node) -> bool:
    """Whether it is a statement, and not an expression or a part of one."""
    if node.type == "class_declaration":
        return True
    return node.type in _STATEMENTS


def header_of(node: Node) -> Iterator[Node]:
    """What of a statement is worked out in it itself: all but the statements inside of it."""
    if node.type in FUNCTIONS or node.type in CLASSES:
        return
    for child in node.named_children:
        if is_statement(child) or child.type in ("else_clause", "switch_body", "catch_clause",
                                                 "finally_clause"):  # fmt: skip
            continue
        yield from own(child)
