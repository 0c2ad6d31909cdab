"""Small pieces of syntax tree that weaving needs."""

from __future__ import annotations

import ast

TYPE_CHECKING = False  # importing typing would cost every run some milliseconds
if TYPE_CHECKING:
    from typing import Any


def split_head(body: Any) -> tuple[list[Any], list[Any]]:
    """Split off what must stay first: the docstring and ``from __future__`` imports."""
    count = 0
    for statement in body:
        text = isinstance(statement, ast.Expr) and isinstance(statement.value, ast.Constant)
        docstring = count == 0 and text and isinstance(statement.value.value, str)
        future = isinstance(statement, ast.ImportFrom) and statement.module == "__future__"
        if not (docstring or future):
            break
        count += 1
    return body[:count], body[count:]


def always_leaves(body: Any) -> bool:
    """Whether a body cannot come to its end."""
    return bool(body) and isinstance(body[-1], (ast.Return, ast.Raise))


def kind_of(node: Any) -> str:
    """Return what a statement is called on the wire."""
    name = type(node).__name__
    return {"FunctionDef": "def", "AsyncFunctionDef": "def", "ClassDef": "class"}.get(
        name, name.lower()
    )


def placed(node: Any, at: Any) -> Any:
    """Put a new node, and all in it, at the place of another."""
    ast.copy_location(node, at)
    for inner in ast.walk(node):
        if "lineno" in inner._attributes and not hasattr(inner, "lineno"):
            ast.copy_location(inner, at)
    return node


def at_def(node: Any) -> Any:
    """Return a stand-in at the ``def`` line: that is where a call begins, not a decorator."""
    place = ast.Pass()
    place.lineno, place.end_lineno = node.lineno, node.lineno
    place.col_offset = place.end_col_offset = 0
    return place


def hook_call(hook: str, at: Any, *args: Any) -> Any:
    """Return a call of a hook, placed at a node; plain values become constants."""
    nodes: list[Any] = [a if isinstance(a, ast.AST) else ast.Constant(a) for a in args]
    return placed(ast.Call(ast.Name("≠" + hook, ast.Load()), nodes, []), at)


def noted_condition(test: Any, at: Any) -> Any:
    """Return ``(test and (≠v(True) or True)) or ≠v(False)``: the outcome, and a note of it.

    Its truth is asked once, as ``if`` itself would, and no function of Python is called.
    """
    yes = ast.BoolOp(ast.Or(), [hook_call("v", at, True), ast.Constant(True)])
    no = hook_call("v", at, False)
    return ast.BoolOp(ast.Or(), [ast.BoolOp(ast.And(), [test, yes]), no])
