"""What a kind of edit may know of a program: its tree, its scopes, and what was seen in a run."""

from __future__ import annotations

import ast
from collections.abc import Iterator
from dataclasses import dataclass, field
from functools import cached_property

from oddsum.languages.python.parsing import expression_of, tree_of
from oddsum.languages.scene import Numbers, Types
from oddsum.source.program import Source

Function = ast.FunctionDef | ast.AsyncFunctionDef
_SCOPES = (ast.FunctionDef, ast.AsyncFunctionDef)
_COMPREHENSIONS = (ast.ListComp, ast.SetComp, ast.DictComp, ast.GeneratorExp)


@dataclass(frozen=True, eq=False)  # what is made of one is kept beside it
class Scene:
    """A source file with what recordings and the plan tell of it.

    ``types``: for each variable, by its column's name (``total``, ``fare.age``), the types it was
    seen with; empty where nothing was recorded. ``numbers``: some of those that it had. ``wanted``:
    numbers and texts that stand in expected results.
    """

    source: Source
    types: Types = field(default_factory=dict)
    wanted: frozenset[str] = frozenset()
    numbers: Numbers = field(default_factory=dict)

    @cached_property
    def tree(self) -> ast.Module:
        """The syntax tree, an empty one where it cannot be read."""
        return tree_of(self.source) or ast.Module([], [])

    @cached_property
    def parents(self) -> dict[int, ast.AST]:
        """Each node's parent, by the identity of the node."""
        return {id(c): node for node in self._every for c in ast.iter_child_nodes(node)}

    @cached_property
    def _every(self) -> tuple[ast.AST, ...]:
        """All nodes: going over the tree takes longer than over a list."""
        return tuple(ast.walk(self.tree))

    @cached_property
    def set_attributes(self) -> list[str]:
        """Names that are set on some object of the program, each once."""
        found = (n for n in self._every if isinstance(n, ast.Attribute))
        return list(dict.fromkeys(n.attr for n in found if isinstance(n.ctx, ast.Store)))

    @cached_property
    def has_none(self) -> bool:
        """Whether ``None`` stands anywhere in the program."""
        return any(isinstance(n, ast.Constant) and n.value is None for n in self._every)

    @cached_property
    def tops(self) -> list[int]:
        """The offsets of the lines at which statements of the module begin."""
        lines = [min([n.lineno, *(d.lineno for d in getattr(n, "decorator_list", ()))])
                 for n in self.tree.body]  # fmt: skip
        return sorted({self.source.offset(line, 0) for line in lines})

    @cached_property
    def _nodes(self) -> list[ast.expr]:
        found = []
        for node in self._every:
            if isinstance(node, ast.expr) and (not self._in_text(node) or self._is_placed(node)):
                found.append(node)
        return sorted(found, key=lambda n: (n.lineno, n.col_offset))

    @cached_property
    def _inside_texts(self) -> set[int]:
        """Nodes inside f-strings, whose places are not always told right before Python 3.12."""
        texts = [n for n in self._every if isinstance(n, ast.JoinedStr)]
        return {id(inner) for text in texts for inner in ast.walk(text)}

    @cached_property
    def texts(self) -> list[tuple[int, int]]:
        """The offsets of the f-strings."""
        return [self.place(n) for n in self._every if isinstance(n, ast.JoinedStr)]

    def _in_text(self, node: ast.expr) -> bool:
        return id(node) in self._inside_texts

    def _is_placed(self, node: ast.expr) -> bool:
        """Whether the text at a node's place is the node indeed."""
        if isinstance(node, (ast.JoinedStr, ast.FormattedValue)):
            return False
        start, stop = self.place(node)
        try:
            read = expression_of(self.source.text[start:stop])
        except (SyntaxError, ValueError):
            return False
        return ast.dump(read) == ast.dump(node)

    def place(self, node: ast.expr | ast.stmt) -> tuple[int, int]:
        """Offsets in characters of a node's start and end."""
        source = self.source
        return (
            source.offset(node.lineno, node.col_offset),
            source.offset(node.end_lineno or node.lineno, node.end_col_offset or 0),
        )

    def expressions(self, *kinds: type[ast.expr]) -> Iterator[ast.expr]:
        """Every expression of these kinds in the order of the text, where its place is sure."""
        return (n for n in self._nodes if isinstance(n, kinds))

    def statements(self, *kinds: type[ast.stmt]) -> Iterator[ast.stmt]:
        """Every statement of these kinds."""
        return (n for n in self._every if isinstance(n, kinds))

    def function_of(self, node: ast.AST) -> Function | None:
        """The innermost function a node stands in; of a ``def`` the one around it."""
        above = self.parents.get(id(node))
        while above is not None and not isinstance(above, _SCOPES):
            above = self.parents.get(id(above))
        return above if isinstance(above, _SCOPES) else None

    def statement_of(self, node: ast.AST) -> ast.stmt | None:
        """The statement that an expression belongs to."""
        above: ast.AST | None = node
        while above is not None and not isinstance(above, ast.stmt):
            above = self.parents.get(id(above))
        return above if isinstance(above, ast.stmt) else None

    def has_own_names(self, node: ast.AST) -> bool:
        """Whether an expression stands in a comprehension or lambda, whose names are its own."""
        above: ast.AST | None = node
        while above is not None and not isinstance(above, ast.stmt):
            if isinstance(above, (*_COMPREHENSIONS, ast.Lambda)):
                return True
            above = self.parents.get(id(above))
        return False

    def loop_of(self, node: ast.AST) -> ast.For | ast.While | None:
        """The innermost loop around a node, in its own function."""
        above = self.parents.get(id(node))
        while above is not None and not isinstance(above, _SCOPES):
            if isinstance(above, (ast.For, ast.While)):
                return above
            above = self.parents.get(id(above))
        return None

    # -- names ---------------------------------------------------------------------------------

    @cached_property
    def functions(self) -> dict[str, Function]:
        """The program's functions and methods by their plain names."""
        return {n.name: n for n in self._every if isinstance(n, _SCOPES)}

    def title_of(self, function: Function | None) -> str:
        """A function's name as columns carry it (``Sailing.book``); blank for the module."""
        names: list[str] = []
        node: ast.AST | None = function
        while node is not None:
            if isinstance(node, (*_SCOPES, ast.ClassDef)):
                names.insert(0, node.name)
            node = self.parents.get(id(node))
        return ".".join(names)

    def own_names(self, function: Function | None) -> list[str]:
        """The variables of a function (or of the module), in the order they first stand there."""
        key = id(function)
        if key not in self._names:
            self._names[key] = list(dict.fromkeys(_bound(function or self.tree)))
        return self._names[key]

    @cached_property
    def _names(self) -> dict[int, list[str]]:
        return {}

    def names_at(self, node: ast.AST) -> list[str]:
        """The variables that can be read at a node: the function's own, then the module's."""
        function = self.function_of(node)
        own = self.own_names(function)
        return (
            own if function is None else [*own, *(n for n in self.own_names(None) if n not in own)]
        )

    def types_of(self, name: str, node: ast.AST) -> frozenset[str]:
        """The types a variable was seen with; empty where nothing is known."""
        return self.types.get(self._column_of(name, node), frozenset())

    def numbers_of(self, name: str, node: ast.AST) -> frozenset[int | float]:
        """Numbers that a variable had; empty where nothing is known."""
        return self.numbers.get(self._column_of(name, node), frozenset())

    def _column_of(self, name: str, node: ast.AST) -> str:
        function = self.function_of(node)
        if function is not None and name in self.own_names(function):
            return f"{self.title_of(function)}.{name}"
        return name

    def alike(self, name: str, node: ast.AST) -> list[str]:
        """Other variables that can be read at a node and were seen with the same types."""
        mine = _families(self.types_of(name, node))
        return [
            other
            for other in self.names_at(node)
            if other != name and (not mine or _families(self.types_of(other, node)) & mine)
        ]

    def names_of(self, family: str, node: ast.AST) -> list[str]:
        """The variables at a node of one family of types: ``number``, ``list``, ``str`` ..."""
        return [n for n in self.names_at(node) if family in _families(self.types_of(n, node))]


_NUMBERS = frozenset({"int", "float", "bool", "complex", "Decimal", "Fraction"})


def parameters(function: Function | None) -> list[str]:
    """The names that a function is given, the object of a method aside."""
    given = [a.arg for a in function.args.args] if function is not None else []
    return [name for name in given if name not in ("self", "cls")]


def _families(types: frozenset[str]) -> frozenset[str]:
    """Types with all numbers taken as one; None says nothing."""
    return frozenset("number" if t in _NUMBERS else t for t in types if t != "NoneType")


def _bound(scope: ast.AST) -> Iterator[str]:
    """Names bound in a scope itself: parameters, targets, imports are left out."""
    if isinstance(scope, _SCOPES):
        arguments = scope.args
        for one in (*arguments.posonlyargs, *arguments.args, *arguments.kwonlyargs):
            yield one.arg
    todo = list(ast.iter_child_nodes(scope))
    while todo:
        node = todo.pop(0)
        if isinstance(node, (*_SCOPES, ast.ClassDef, ast.Lambda)):
            continue
        if isinstance(node, ast.Name) and isinstance(node.ctx, ast.Store):
            yield node.id
        todo = [*ast.iter_child_nodes(node), *todo]
