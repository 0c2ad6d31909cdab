"""A program in inks: the same grammar and the same inks in every view of a source.

The grammars are tree-sitter's; a language names its own (``grammar``), and one that names none is
shown plainly.
"""

from __future__ import annotations

from collections.abc import Iterator
from functools import lru_cache
from importlib import import_module
from typing import TYPE_CHECKING

from oddsum.tui.writing import Cell, Piece

if TYPE_CHECKING:
    from tree_sitter import Node, Parser, Query

# What a grammar calls a part of a program, in our inks; the rest is plain. Of ``keyword.return``
# the first word counts where the whole is not here.
INKS = {
    "keyword": "keyword", "conditional": "keyword", "repeat": "keyword", "include": "keyword",
    "exception": "keyword", "string": "text", "escape": "text", "number": "number",
    "float": "number", "boolean": "number", "constant.builtin": "number", "comment": "quiet",
    "embedded": "ink",
}  # fmt: skip
_Run = tuple[int, int, str]  # bytes from, up to, and the ink


def ink_of(part: str) -> str:
    """The ink of a part by the grammar's name for it; blank for none of its own."""
    return INKS.get(part) or INKS.get(part.partition(".")[0], "")


@lru_cache(maxsize=8)
def inked(text: str, grammar: str) -> tuple[Cell, ...]:
    """The lines of a program, each as pieces inked by what they are."""
    lines: list[list[Piece]] = [[]]
    data = text.encode()
    for start, stop, ink in _runs(data, grammar):
        part = data[start:stop].decode("utf-8", "replace")
        for n, row in enumerate(part.split("\n")):
            if n:
                lines.append([])
            if row:
                bold, italic = ink == "keyword", ink == "quiet"
                lines[-1].append(Piece(row.expandtabs(4), ink, bold, italic))
    return tuple(tuple(line) for line in lines)


def _runs(data: bytes, grammar: str) -> Iterator[_Run]:
    """The text cut into stretches of one ink each."""
    inks = [""] * len(data)
    if grammar:
        # The larger first: what lies inside of something is drawn over it.
        for node, ink in sorted(
            _parts(data, grammar), key=lambda p: p[0].start_byte - p[0].end_byte
        ):
            inks[node.start_byte : node.end_byte] = [ink] * (node.end_byte - node.start_byte)
    start = 0
    for at in range(1, len(data) + 1):
        if at == len(data) or inks[at] != inks[start]:
            yield start, at, inks[start] or "ink"
            start = at


def _parts(data: bytes, grammar: str) -> Iterator[tuple[Node, str]]:
    from tree_sitter import QueryCursor

    parser, query = _grammar(grammar)
    for name, nodes in QueryCursor(query).captures(parser.parse(data).root_node).items():
        ink = ink_of(name)
        for node in nodes:
            word = node.type.isalpha() and name == "operator"  # ``and``, ``in``, ``not``
            if ink or word:
                yield node, ink or "keyword"


@lru_cache(maxsize=8)
def _grammar(name: str) -> tuple[Parser, Query]:
    from tree_sitter import Language, Parser, Query

    package = import_module(f"tree_sitter_{name}")
    language = Language(package.language())
    return Parser(language), Query(language, package.HIGHLIGHTS_QUERY)
