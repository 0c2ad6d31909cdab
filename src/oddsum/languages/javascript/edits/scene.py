"""A JavaScript source as edits see it, and an edit made of a place in it."""

from __future__ import annotations

from collections.abc import Iterator
from functools import cached_property
from typing import ClassVar

from tree_sitter import Node

from oddsum.languages.javascript.names import pattern_names
from oddsum.languages.javascript.outline import function_at
from oddsum.languages.javascript.parsing import FUNCTIONS, Tree, line_of, tree_of, walk
from oddsum.languages.javascript.rows import declared
from oddsum.languages.language import Invents
from oddsum.languages.scene import NOTHING_SEEN, Numbers, Types
from oddsum.model.lead import TrialEdit
from oddsum.source.program import Source
from oddsum.source.quoting import quoted


class Scene:
    """A source with its tree, the types and numbers that were seen, and what is expected."""

    def __init__(
        self,
        source: Source,
        types: Types,
        wanted: frozenset[str],
        numbers: Numbers = NOTHING_SEEN,
    ) -> None:
        self.source, self.types, self.wanted, self.numbers = source, types, wanted, numbers
        self.tree: Tree = tree_of(source)

    @cached_property
    def nodes(self) -> tuple[Node, ...]:
        """Every node that has a name in the grammar, in the order of the text."""
        return tuple(walk(self.tree.root))

    def of_type(self, *types: str) -> Iterator[Node]:
        """The nodes of some types."""
        return (n for n in self.nodes if n.type in types)

    def text(self, node: Node | None) -> str:
        """The text of a node; blank for none."""
        return self.tree.of(node)

    def field(self, node: Node, name: str) -> Node:
        """A part of a node that the grammar says is there."""
        found = node.child_by_field_name(name)
        assert found is not None
        return found

    def operator(self, node: Node) -> Node:
        """The sign of an operation."""
        return self.field(node, "operator")

    def types_of(self, name: str, node: Node) -> frozenset[str]:
        """The types that a name was seen with, where it stands; empty where nothing was."""
        function = function_at(self.source, line_of(node))
        return self.types.get(f"{function}.{name}") or self.types.get(name) or frozenset()

    def numbers_of(self, name: str, node: Node) -> frozenset[int | float]:
        """Numbers that a name had, where it stands; empty where nothing was seen."""
        function = function_at(self.source, line_of(node))
        return self.numbers.get(f"{function}.{name}") or self.numbers.get(name) or frozenset()

    def names_at(self, node: Node) -> frozenset[str]:
        """The names that can be used where a node stands, functions left out."""
        found = set(declared(self.tree.root, self.tree)) - self._functions
        above: Node | None = node
        while above is not None:
            if above.type in FUNCTIONS:
                body = above.child_by_field_name("body")
                given = above.child_by_field_name("parameters") or above.child_by_field_name(
                    "parameter"
                )
                found |= declared(body, self.tree) if body is not None else set()
                children = (
                    given.named_children if given is not None and given.named_children else [given]
                )
                for child in children:
                    found |= {self.text(n) for n in pattern_names(child, self.tree)}
            above = above.parent
        return frozenset(found - self._functions)

    @cached_property
    def _functions(self) -> frozenset[str]:
        named = (
            n.child_by_field_name("name")
            for n in self.nodes
            if n.type in (*FUNCTIONS, "class_declaration")
        )
        given = (
            n.child_by_field_name("name")
            for n in self.of_type("variable_declarator")
            if n.child_by_field_name("value") is not None
            and self.field(n, "value").type in FUNCTIONS
        )
        return frozenset(self.text(n) for n in (*named, *given) if n is not None)


class EditRule:
    """One kind of mistake that beginners make, and the edits that undo it; see Python's."""

    name: ClassVar[str]
    title: ClassVar[str]
    explanation: ClassVar[str]
    invents: ClassVar[Invents] = ""

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """Each place of a program where it could have been made, as an edit that undoes it."""
        raise NotImplementedError


def make_edit(
    scene: Scene,
    kind: str,
    at: Node | tuple[int, int],
    new: str,
    *,
    what: str,
    likely: float,
    how: str = "",
    within: Node | None = None,
    line: int = 0,
    runs_at: int = 0,
) -> TrialEdit:
    """An edit that replaces a node, or a stretch of the text; see Python's ``make_edit``."""
    source, tree = scene.source, scene.tree
    start, stop = at if isinstance(at, tuple) else (tree.start(at), tree.stop(at))
    old = source.text[start:stop]
    shown = line or source.text.count("\n", 0, start) + 1
    asks = would = ""
    if within is not None:
        first, last = tree.start(within), tree.stop(within)
        asks = source.text[first:last]
        would = source.text[first:start] + new + source.text[stop:last]
    function = function_at(source, shown)
    inside = f", in {function}" if function else ""
    told = (
        f"Write {quoted(new)} instead of {quoted(old)}."
        if new.strip()
        else f"Take {quoted(old)} out."
    )
    return TrialEdit(
        kind=kind,
        file=source.name,
        line=shown,
        function=function,
        start=start,
        stop=stop,
        old=old,
        new=new,
        where=f"Look at line {shown}{inside}.",
        what=what,
        how=how or told,
        likely=likely,
        size=abs(len(new) - len(old)) + 1,
        asks=asks,
        would=would,
        runs_at=runs_at,
    )
