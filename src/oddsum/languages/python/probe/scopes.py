"""Which scope a name of a program lives in."""

from __future__ import annotations

import ast

TYPE_CHECKING = False  # importing typing would cost every run some milliseconds
if TYPE_CHECKING:
    from collections.abc import Iterator
    from typing import Any

FUNCTIONS = (ast.FunctionDef, ast.AsyncFunctionDef)


class Scope:
    """Where names live: the module, a function or a class body."""

    def __init__(
        self,
        title: str,
        outer: Any,
        bound: set[str],
        declared: Any = None,
        in_module: bool = False,
        is_class: bool = False,
    ) -> None:
        self.title, self.outer, self.bound = title, outer, bound
        self.declared = declared or {}
        self.in_module, self.is_class = in_module, is_class
        self.captured: set[str] = set()  # names that functions made inside use
        self.goes_on = False  # whether lines of it can run after its return
        self.certain: frozenset[str] = frozenset()  # names that hold nothing but numbers

    @classmethod
    def of_function(cls, node: Any, outer: Any) -> Scope:
        name = getattr(node, "name", "lambda")
        title = f"{outer.title}.{name}" if outer.title else name
        declared = {}
        body = node.body if isinstance(node.body, list) else []
        for inner in own_nodes(body):
            if isinstance(inner, ast.Global):
                declared.update(dict.fromkeys(inner.names, "global"))
            elif isinstance(inner, ast.Nonlocal):
                declared.update(dict.fromkeys(inner.names, "nonlocal"))
        bound = set(parameters(node.args))
        for inner in own_nodes(body):
            bound |= set(names_in(inner)) if isinstance(inner, ast.Name) else set()
        return cls(title, outer, bound - set(declared), declared)

    @classmethod
    def of_class(cls, node: Any, outer: Any) -> Scope:
        title = f"{outer.title}.{node.name}" if outer.title else node.name
        return cls(title, outer, set(), in_module=True, is_class=True)

    def home(self, name: str) -> Any:
        """Return the scope a name assigned here lives in."""
        how = self.declared.get(name)
        if how == "global":
            scope = self
            while scope.outer is not None:
                scope = scope.outer
            return scope
        if how == "nonlocal":
            scope = self.outer
            while scope.outer is not None and (scope.is_class or name not in scope.bound):
                scope = scope.outer
            return scope
        return self


def free_names(node: Any) -> set[str]:
    """The names that a function, or one made in it, uses and does not bind."""
    scope = Scope.of_function(node, _NOWHERE)
    body = node.body if isinstance(node.body, list) else [node.body]
    used: set[str] = set()
    todo = list(body)
    while todo:
        inner = todo.pop()
        if isinstance(inner, (*FUNCTIONS, ast.Lambda)):
            used |= free_names(inner)
            todo += [*inner.args.defaults, *filter(None, inner.args.kw_defaults)]
            todo += getattr(inner, "decorator_list", [])
            continue
        if isinstance(inner, ast.Name):
            used.add(inner.id)
        todo.extend(ast.iter_child_nodes(inner))
    bound = scope.bound - {n for n, how in scope.declared.items() if how == "nonlocal"}
    return used - bound - {n for n, how in scope.declared.items() if how == "global"}


def captured_names(node: Any, scope: Scope) -> set[str]:
    """Of the names that a function binds: those that functions made inside of it use."""
    body = node.body if isinstance(node.body, list) else [node.body]
    inner = [n for top in body for n in ast.walk(top) if isinstance(n, (*FUNCTIONS, ast.Lambda))]
    used: set[str] = set().union(*(free_names(n) for n in inner))
    return used & scope.bound


def own_nodes(body: Any) -> Iterator[Any]:
    """Yield nodes of a function's body, not those of functions and classes inside it."""
    todo = list(body)
    while todo:
        node = todo.pop()
        yield node
        if not isinstance(node, (*FUNCTIONS, ast.ClassDef, ast.Lambda)):
            todo.extend(ast.iter_child_nodes(node))


def names_in(target: Any) -> list[str]:
    """Return the plain names a target binds, in order."""
    if isinstance(target, ast.Name):
        return [] if isinstance(target.ctx, ast.Load) else [target.id]
    if isinstance(target, (ast.Tuple, ast.List)):
        return [n for t in target.elts for n in names_in(t)]
    if isinstance(target, ast.Starred):
        return names_in(target.value)
    return []


def parameters(args: Any) -> list[str]:
    """Return the names of all parameters, in the order they are written."""
    every = [*args.posonlyargs, *args.args, args.vararg, *args.kwonlyargs, args.kwarg]
    return [a.arg for a in every if a is not None]


_NOWHERE = Scope("", None, set())
