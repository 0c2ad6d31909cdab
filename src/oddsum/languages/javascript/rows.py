"""The rows of a recording: a number for each statement and for each name, and whose a name is."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass, field
from typing import Any

from tree_sitter import Node

from oddsum.languages.javascript.names import pattern_names
from oddsum.languages.javascript.parsing import LOOPS, Tree, end_of, line_of, own, tree_of, walk
from oddsum.source.program import Source

_KINDS = {
    "for_in_statement": "for", "for_statement": "while", "while_statement": "while",
    "do_statement": "while", "if_statement": "if", "break_statement": "break",
    "return_statement": "return", "switch_statement": "match", "class_declaration": "class",
}  # fmt: skip
# Where the names stand in what declares some.
_DECLARING = {
    "variable_declarator": "name", "function_declaration": "name", "class_declaration": "name",
    "generator_function_declaration": "name", "for_in_statement": "left",
    "catch_clause": "parameter",
}  # fmt: skip
_IMPORTING = ("import_specifier", "namespace_import", "import_clause")


@dataclass
class Scope:
    """A function, or the module: its title in the trace, the names that are its own."""

    title: str
    depth: int
    above: Scope | None
    names: set[str] = field(default_factory=set)
    used_inside: bool = False  # whether a function inside of it uses its names
    waits: bool = False  # whether it is a generator, or asynchronous
    slow: bool = False  # whether it is asynchronous
    anew: set[str] = field(default_factory=set)  # names that each round of a loop has for itself

    def home(self, name: str) -> Scope | None:
        """The scope that a name is of; None for a global of the language."""
        scope: Scope | None = self
        while scope is not None and name not in scope.names:
            scope = scope.above
        return scope


class Rows:
    """Rows of ``statements`` ``[file, line, end, function, kind]`` and ``slots`` ``[function, name,
    in the module, whether functions see that of their own round]``; ``base``: how many of each
    other files have ahead of them."""

    def __init__(self, source: Source, base: tuple[int, int], prefix: str) -> None:
        tree = tree_of(source)
        self.scope = Scope("", 0, None, declared(tree.root, tree), anew=made_anew(tree.root, tree))
        self.statements: list[list[Any]] = []
        self.slots: list[list[Any]] = []
        self._file, self._base, self._prefix = source.name, base, prefix
        self._known: dict[tuple[str, str], int] = {}

    @contextmanager
    def inside(self, scope: Scope) -> Iterator[None]:
        """What is numbered meanwhile is in a function."""
        above, self.scope = self.scope, scope
        yield
        self.scope = above

    def statement(self, node: Node, kind: str = "") -> int:
        """The number of a new statement."""
        row = [self._file, line_of(node), end_of(node), self.scope.title,
               kind or _KINDS.get(node.type, "expr")]  # fmt: skip
        self.statements.append(row)
        return self._base[0] + len(self.statements) - 1

    def slot(self, name: str) -> int | None:
        """The number of a name's slot; None for what is no name of the program's."""
        home = self.scope.home(name)
        if home is None:
            return None
        key = home.title, name
        if key not in self._known:
            in_module = home.above is None
            title = f"{self._prefix}.{name}" if in_module and self._prefix else name
            self._known[key] = self._base[1] + len(self.slots)
            self.slots.append([home.title, title, in_module, False])
        return self._known[key]

    def seen_from_rounds(self, name: str) -> int | None:
        """The slot of a name, of which functions see that of the round they were made in."""
        slot = self.slot(name)
        if slot is not None:
            self.slots[slot - self._base[1]][3] = True
        return slot


def declared(node: Node, tree: Tree) -> set[str]:
    """The names that are a function's own, or the module's: declared in any block of it."""
    found: set[str] = set()
    for inner in own(node):
        place = _DECLARING.get(inner.type)
        declares = inner.type != "for_in_statement" or inner.child_by_field_name("kind") is not None
        if place is not None and declares:
            found |= _texts(pattern_names(inner.child_by_field_name(place), tree), tree)
        elif inner.type in _IMPORTING:
            found |= _texts((n for n in walk(inner) if n.type == "identifier"), tree)
    if node.type == "program":
        # A name that nobody declares and somebody sets is a global: the module's, for a learner.
        for inner in walk(node):
            if inner.type in ("assignment_expression", "augmented_assignment_expression"):
                left = inner.child_by_field_name("left")
                found |= (
                    {tree.of(left)} if left is not None and left.type == "identifier" else set()
                )
    return found


def made_anew(node: Node, tree: Tree) -> set[str]:
    """The names of a function, or the module, of which each round of a loop makes another one: a
    function that is made in a round goes on to see that round's."""
    found: set[str] = set()
    for loop in (n for n in own(node) if n.type in LOOPS):
        for inner in own(loop):
            if inner.type == "lexical_declaration":
                found |= _texts(declared_here(inner, tree), tree)
            elif inner.type == "for_in_statement":
                kind = inner.child_by_field_name("kind")
                if kind is not None and tree.of(kind) != "var":
                    found |= _texts(pattern_names(inner.child_by_field_name("left"), tree), tree)
    return found


def _texts(nodes: Iterable[Node], tree: Tree) -> set[str]:
    return {tree.of(node) for node in nodes}


def declared_here(node: Node | None, tree: Tree) -> list[Node]:
    """The names of a declaration, as nodes; none for what is no declaration."""
    if node is None or node.type not in ("lexical_declaration", "variable_declaration"):
        return []
    places = (d.child_by_field_name("name") for d in node.named_children)
    return [name for place in places for name in pattern_names(place, tree)]


def parameter_names(node: Node | None, tree: Tree) -> Iterator[Node]:
    """The names of a function's parameters, as nodes."""
    if node is None:
        return
    for child in node.named_children if node.type == "formal_parameters" else [node]:
        yield from pattern_names(child, tree)
