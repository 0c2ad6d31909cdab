"""What the rules for a reader's notes need."""

from __future__ import annotations

import ast
from collections.abc import Iterator

from oddsum.languages import noting
from oddsum.languages.python.edits.scene import Scene

Found = noting.Found
Rule = noting.Rule[Scene]
_SCOPES = (ast.FunctionDef, ast.AsyncFunctionDef, ast.Lambda, ast.ClassDef)


def code(node: ast.AST) -> str:
    """A node as text in a sentence; a long one is cut."""
    text = " ".join(ast.unparse(node).split())
    return f"`{text}`" if len(text) <= 50 else f"`{text[:47]}...`"


def functions_of(scene: Scene) -> Iterator[ast.FunctionDef | ast.AsyncFunctionDef]:
    """Every function and method."""
    for node in ast.walk(scene.tree):
        if isinstance(node, (ast.FunctionDef, ast.AsyncFunctionDef)):
            yield node


def bodies(scene: Scene) -> Iterator[list[ast.stmt]]:
    """Every list of statements of a program."""
    for node in ast.walk(scene.tree):
        for field in ("body", "orelse", "finalbody"):
            body = getattr(node, field, None)
            if isinstance(body, list) and body and isinstance(body[0], ast.stmt):
                yield body


def own(node: ast.AST) -> Iterator[ast.AST]:
    """The nodes under one, without those of functions and classes inside it."""
    todo = list(ast.iter_child_nodes(node))
    while todo:
        inner = todo.pop(0)
        yield inner
        if not isinstance(inner, _SCOPES):
            todo.extend(ast.iter_child_nodes(inner))


def loads(node: ast.AST) -> Iterator[str]:
    """The names read anywhere under a node, functions inside it included."""
    return (n.id for n in ast.walk(node) if isinstance(n, ast.Name) and isinstance(n.ctx, ast.Load))


def stores(node: ast.AST) -> Iterator[str]:
    """The names set anywhere under a node, functions inside it included."""
    return (
        n.id for n in ast.walk(node) if isinstance(n, ast.Name) and not isinstance(n.ctx, ast.Load)
    )


def called(node: ast.AST) -> str:
    """The name of the function or method that a call calls; blank for anything else."""
    if not isinstance(node, ast.Call):
        return ""
    return str(getattr(node.func, "id", "") or getattr(node.func, "attr", ""))


def is_number(node: ast.AST) -> bool:
    """Whether it is a number written out."""
    if isinstance(node, ast.UnaryOp):
        return is_number(node.operand)
    return isinstance(node, ast.Constant) and type(node.value) in (int, float)
