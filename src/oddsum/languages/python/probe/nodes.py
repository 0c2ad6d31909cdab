"""Small pieces of syntax tree that weaving needs."""

from __future__ import annotations

import ast

from .scopes import own_nodes

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


def goes_on_after_return(body: Any) -> bool:
    """Whether a function has a ``return`` after which other code of its own may run."""
    for node in own_nodes(body):
        last = isinstance(node, (ast.With, ast.AsyncWith)) or getattr(node, "finalbody", None)
        if last and any(isinstance(n, ast.Return) for n in own_nodes([node])):
            return True
    return False


def kind_of(node: Any) -> str:
    """Return what a statement is called on the wire."""
    name = type(node).__name__
    return {"FunctionDef": "def", "AsyncFunctionDef": "def", "ClassDef": "class"}.get(
        name, name.lower()
    )


def placed(node: Any, at: Any) -> Any:
    """Put a new node at the place of another; what is in it follows when all is woven."""
    return ast.copy_location(node, at)


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


def noted_condition(test: Any, at: Any, yes: list[Any], no: list[Any], ticks: bool = False) -> Any:
    """Return ``(test and (≠x(yes) or True)) or ≠x(no)``: the outcome, and a note of it.

    Its truth is asked once, as ``if`` itself would. ``ticks``: ``≠w()`` stands for the True.
    """
    held: Any = hook_call("w", at) if ticks else ast.Constant(True)
    if yes:
        held = ast.BoolOp(ast.Or(), [hook_call("x", at, entries(yes)), held])
    over = hook_call("x", at, entries(no)) if no else ast.Constant(False)
    both = ast.BoolOp(ast.And(), [test, held])
    return placed(ast.BoolOp(ast.Or(), [both, over]), at)


def bound(hook: str, slot: int, name: str, at: Any) -> Any:
    """Return ``≠b[≠t(name)]((name, slot))``: what notes a binding depends on the value's type."""
    kind = hook_call("t", at, ast.Name(name, ast.Load()))
    noting = ast.Subscript(ast.Name("≠" + hook, ast.Load()), kind, ast.Load())
    told = entries([ast.Name(name, ast.Load()), slot])
    return placed(ast.Expr(ast.Call(noting, [told], [])), at)


def entries(values: list[Any]) -> Any:
    """A tuple for the log's ``extend``, of constants and nodes."""
    nodes: list[Any] = [v if isinstance(v, ast.AST) else ast.Constant(v) for v in values]
    return ast.Tuple(nodes, ast.Load())


def visit_of(statement: Any) -> int | None:
    """The number of the statement whose visit this is, None where it is no bare visit."""
    hook, call = _hook(statement)
    return call.args[0].value if hook == "v" else None


def joined(first: list[Any], then: list[Any]) -> list[Any]:
    """Two runs of woven statements; what is noted at the seam is noted in one call.

    Nothing of the program's runs between a note and the visit that follows it.
    """
    if not first or not then:
        return first + then
    last, call = _hook(first[-1])
    next_hook, next_call = _hook(then[0])
    if last == "x" and next_hook == "x":
        call.args[0].elts += next_call.args[0].elts
        return joined(first, then[1:])
    if next_hook == "v" and last in ("x", "b", "g"):
        call.args[0].elts.append(next_call.args[0])
        return first + then[1:]
    return first + then


def _hook(statement: Any) -> tuple[str, Any]:
    """The hook that a woven statement calls, with the call; blank for one of the program's own."""
    if isinstance(statement, ast.Expr) and isinstance(statement.value, ast.Call):
        called = statement.value.func
        name = getattr(called, "id", "") or getattr(getattr(called, "value", None), "id", "")
        if name[:1] == "≠":
            return name[1:], statement.value
    return "", None
