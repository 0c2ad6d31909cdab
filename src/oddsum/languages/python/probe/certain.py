"""Names that can only ever hold plain numbers, read off the syntax.

What such a name is bound to goes into the log as it is, with one call of C: no look at its type, no
search for containers it held before. That is most of the work of most loops. A name is certain when
every place that binds it in its scope gives a number for sure: a number written out, ``range``,
``len`` or ``int``, or arithmetic of certain numbers.
"""

from __future__ import annotations

import ast

from .scopes import FUNCTIONS, own_nodes, parameters

TYPE_CHECKING = False  # importing typing would cost every run some milliseconds
if TYPE_CHECKING:
    from typing import Any

_OPERATORS = (ast.Add, ast.Sub, ast.Mult, ast.Div, ast.FloorDiv, ast.Mod)
_INT_CALLS = ("len", "int", "ord")
_PLAIN_BINDERS = (ast.Assign, ast.AnnAssign, ast.AugAssign, ast.For)


def certain_names(scope: Any, elsewhere: set[str], trusted: set[str]) -> frozenset[str]:
    """Return the certain names of a module or function.

    ``elsewhere`` are names that other scopes may bind here (``global``, ``nonlocal``); ``trusted``
    the built-ins that the program has not given another meaning.
    """
    bindings, doubtful = _bindings(scope, trusted)
    names = set(bindings) - doubtful - elsewhere
    shrinking = True
    while shrinking:
        kept = {n for n in names if all(_is_number(v, names, trusted) for v in bindings[n])}
        shrinking, names = kept != names, kept
    return frozenset(names)


def declared_elsewhere(tree: Any) -> set[str]:
    """Return names that any scope of the module declares ``global`` or ``nonlocal``."""
    return {
        name
        for node in ast.walk(tree)
        if isinstance(node, (ast.Global, ast.Nonlocal))
        for name in node.names
    }


def _bindings(scope: Any, trusted: set[str]) -> tuple[dict[str, list[Any]], set[str]]:
    """Return the values each name is bound to, and names bound in any other way."""
    bindings: dict[str, list[Any]] = {}
    seen: set[int] = set()
    for node in own_nodes(scope.body):
        if isinstance(node, _PLAIN_BINDERS):
            for target, value in _pairs(node, trusted):
                if isinstance(target, ast.Name):
                    bindings.setdefault(target.id, []).append(value)
                    seen.add(id(target))
    doubtful = set(parameters(scope.args)) if isinstance(scope, FUNCTIONS) else set()
    for node in own_nodes(scope.body):
        if isinstance(node, ast.Name) and not isinstance(node.ctx, ast.Load):
            if id(node) not in seen:
                doubtful.add(node.id)
        elif isinstance(node, ast.alias):
            doubtful.add((node.asname or node.name).split(".")[0])
        elif isinstance(node, (*FUNCTIONS, ast.ClassDef)):
            doubtful.add(node.name)
        elif isinstance(node, ast.ExceptHandler) and node.name:
            doubtful.add(node.name)
        elif hasattr(node, "rest") or type(node).__name__ in ("MatchAs", "MatchStar"):
            doubtful.add(getattr(node, "rest", None) or getattr(node, "name", None) or "")
    return bindings, doubtful


def _pairs(node: Any, trusted: set[str]) -> list[tuple[Any, Any]]:
    """Return (target, value) of a binding; the value of a ``for`` over ``range`` is a number."""
    if isinstance(node, ast.Assign):
        return [(target, node.value) for target in node.targets]
    if isinstance(node, ast.AnnAssign):
        return [(node.target, node.value)] if node.value is not None else []
    if isinstance(node, ast.AugAssign):
        left = ast.Name(getattr(node.target, "id", ""), ast.Load())
        return [(node.target, ast.BinOp(left, node.op, node.value))]
    walked = node.iter
    if isinstance(walked, ast.Call) and getattr(walked.func, "id", "") == "range":
        if "range" in trusted:
            return [(node.target, ast.Constant(0))]
    return []


def _is_number(value: Any, names: set[str], trusted: set[str]) -> bool:
    if isinstance(value, ast.Constant):
        return type(value.value) in (int, float, bool)
    if isinstance(value, ast.Name):
        return value.id in names
    if isinstance(value, ast.UnaryOp):
        return isinstance(value.op, ast.Not) or _is_number(value.operand, names, trusted)
    if isinstance(value, ast.BinOp):
        return (
            isinstance(value.op, _OPERATORS)
            and _is_number(value.left, names, trusted)
            and _is_number(value.right, names, trusted)
        )
    if isinstance(value, ast.Call):
        name = getattr(value.func, "id", "")
        return name in _INT_CALLS and name in trusted
    return False
