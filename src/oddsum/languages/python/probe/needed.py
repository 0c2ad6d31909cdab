"""Which top-level statements a ``call`` needs: those that neither talk nor depend on such.

By the contract, statements that read input or print, themselves or through functions they call, are
left out, and so are those that depend on what these would have set.
"""

from __future__ import annotations

import ast

from .effects import MUTATORS, root_name

TYPE_CHECKING = False  # importing typing would cost every run some milliseconds
if TYPE_CHECKING:
    from collections.abc import Iterator
    from typing import Any

    Request = dict[str, Any]

_TALKING = frozenset({"input", "print"})
_DEFINITIONS = (ast.FunctionDef, ast.AsyncFunctionDef, ast.ClassDef)
_FUNCTIONS = (ast.FunctionDef, ast.AsyncFunctionDef, ast.Lambda)


def select(tree: Any) -> tuple[list[Any], list[int]]:
    """Split a module's statements; returns ``(kept statements, lines left out)``."""
    talking = _talking_names(tree)
    kept: list[Any] = []
    left_out: list[int] = []
    unset: set[str] = set()
    for statement in tree.body:
        if _is_main_guard(statement):
            continue  # the module's name is never __main__ here: it would not run anyway
        reads = _names_read(statement)
        if _talks(statement, talking) or reads & unset:
            left_out.append(statement.lineno)
            unset |= _names_set(statement)
        else:
            kept.append(statement)
            unset -= _names_set(statement)
    return kept, left_out


def _is_main_guard(statement: Any) -> bool:
    return (
        isinstance(statement, ast.If)
        and isinstance(statement.test, ast.Compare)
        and isinstance(statement.test.left, ast.Name)
        and statement.test.left.id == "__name__"
        and not statement.orelse
    )


def _talking_names(tree: Any) -> set[str]:
    """Return names of functions, methods and classes whose call reads input or prints."""
    bodies: dict[str, list[Any]] = {}
    for node in ast.walk(tree):
        if isinstance(node, (ast.FunctionDef, ast.AsyncFunctionDef)):
            bodies.setdefault(node.name, []).append(node)
        elif isinstance(node, ast.ClassDef):
            made = [n for n in node.body if getattr(n, "name", "") == "__init__"]
            bodies.setdefault(node.name, []).extend(made)
    said = {name: _calls_in(nodes) for name, nodes in bodies.items()}
    talking = {name for name, (_, streams) in said.items() if streams} | _TALKING
    grown = True
    while grown:
        new = {name for name, (calls, _) in said.items() if calls & talking} - talking
        grown = bool(new)
        talking |= new
    return talking


def _calls_in(nodes: list[Any]) -> tuple[set[str], bool]:
    """The names that are called, and whether the streams of ``sys`` are named."""
    names, streams = set(), False
    for inner in (n for node in nodes for n in ast.walk(node)):
        if isinstance(inner, ast.Call):
            if isinstance(inner.func, ast.Name):
                names.add(inner.func.id)
            elif isinstance(inner.func, ast.Attribute):
                names.add(inner.func.attr)
        elif isinstance(inner, ast.Attribute):
            streams = streams or _is_stream(inner)
    return names, streams


def _is_stream(node: Any) -> bool:
    of_sys = isinstance(node.value, ast.Name) and node.value.id == "sys"
    return of_sys and node.attr in ("stdin", "stdout")


def _outside_functions(statement: Any) -> Iterator[Any]:
    """Yield the nodes that run when the statement runs; bodies of functions do not."""
    todo = [statement]
    while todo:
        node = todo.pop()
        yield node
        for child in ast.iter_child_nodes(node):
            if isinstance(node, _FUNCTIONS) and child in _body_of(node):
                continue
            todo.append(child)


def _body_of(function: Any) -> list[Any]:
    return function.body if isinstance(function.body, list) else [function.body]


def _talks(statement: Any, talking: set[str]) -> bool:
    if any(getattr(d, "id", None) in talking for d in getattr(statement, "decorator_list", ())):
        return True
    for node in _outside_functions(statement):
        if isinstance(node, ast.Call):
            name = getattr(node.func, "id", getattr(node.func, "attr", None))
            if name in talking:
                return True
        elif isinstance(node, ast.Attribute) and _is_stream(node):
            return True
    return False


def _names_read(statement: Any) -> set[str]:
    return {
        n.id
        for n in _outside_functions(statement)
        if isinstance(n, ast.Name) and isinstance(n.ctx, ast.Load)
    }


def _names_set(statement: Any) -> set[str]:
    """Return names the statement binds or changes in place."""
    names = set()
    if isinstance(statement, _DEFINITIONS):
        return {statement.name}
    for node in _outside_functions(statement):
        if isinstance(node, ast.Name) and not isinstance(node.ctx, ast.Load):
            names.add(node.id)
        elif isinstance(node, (ast.Attribute, ast.Subscript)):
            if not isinstance(node.ctx, ast.Load):
                names.add(root_name(node))
        elif isinstance(node, ast.Call) and getattr(node.func, "attr", "") in MUTATORS:
            names.add(root_name(node.func))
        elif isinstance(node, ast.alias):
            names.add((node.asname or node.name).split(".")[0])
        elif isinstance(node, _DEFINITIONS):
            names.add(node.name)
    return names
