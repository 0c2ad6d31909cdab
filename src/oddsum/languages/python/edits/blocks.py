"""Statements as whole lines: what it takes to move, copy, take out and put in one."""

from __future__ import annotations

import ast
from collections.abc import Iterator
from dataclasses import dataclass
from functools import lru_cache

from oddsum.languages.python.edits.scene import Scene

_FIELDS = ("body", "orelse", "finalbody", "finalbody")
SIMPLE = (
    ast.Assign,
    ast.AugAssign,
    ast.AnnAssign,
    ast.Expr,
    ast.Return,
    ast.Break,
    ast.Continue,
    ast.Delete,
    ast.Pass,
    ast.Raise,
)


@dataclass(frozen=True)
class Block:
    """The statements under one header, or at the top: ``owner`` is the header's statement."""

    owner: ast.AST
    field: str
    body: list[ast.stmt]
    depth: int

    @property
    def is_loop(self) -> bool:
        """Whether it is the body of a loop."""
        return self.field == "body" and isinstance(self.owner, (ast.For, ast.While))

    @property
    def is_function(self) -> bool:
        """Whether it is the body of a function."""
        return isinstance(self.owner, (ast.FunctionDef, ast.AsyncFunctionDef))


@lru_cache(maxsize=8)  # every rule that moves lines asks for them
def blocks(scene: Scene) -> tuple[Block, ...]:
    """Every block whose statements stand on lines of their own, outermost first."""
    found: list[Block] = []
    _collect(scene, scene.tree, 0, found)
    return tuple(found)


def _collect(scene: Scene, node: ast.AST, depth: int, found: list[Block]) -> None:
    for name in ("body", "orelse", "finalbody"):
        body = getattr(node, name, None)
        if not isinstance(body, list) or not body or not isinstance(body[0], ast.stmt):
            continue
        if name == "orelse" and _is_elif(scene, node, body):
            _collect(scene, body[0], depth, found)
            continue
        if all(_alone(scene, s) for s in body) and (
            isinstance(node, ast.Module) or body[0].lineno > getattr(node, "lineno", 0)
        ):
            found.append(Block(node, name, body, depth))
        for statement in body:
            _collect(scene, statement, depth + 1, found)
    for handler in getattr(node, "handlers", ()):
        _collect(scene, handler, depth, found)
    for case in getattr(node, "cases", ()):
        _collect(scene, case, depth + 1, found)


def _is_elif(scene: Scene, node: ast.AST, body: list[ast.stmt]) -> bool:
    return (
        isinstance(node, ast.If)
        and len(body) == 1
        and isinstance(body[0], ast.If)
        and line_text(scene, body[0].lineno).lstrip().startswith("elif")
    )


def _alone(scene: Scene, node: ast.stmt) -> bool:
    """Whether nothing else stands on a statement's lines."""
    lines = scene.source.lines
    before = lines[first_line(node) - 1][: node.col_offset] if node.col_offset else ""
    end = node.end_lineno or node.lineno
    after = lines[end - 1].encode()[node.end_col_offset or 0 :].decode("utf-8", "ignore").strip()
    return not before.strip() and (not after or after.startswith("#"))


def first_line(node: ast.stmt) -> int:
    """A statement's first line; that of its first decorator, if it has any."""
    decorators: list[ast.expr] = getattr(node, "decorator_list", [])
    return min([node.lineno, *(d.lineno for d in decorators)])


def last_line(node: ast.stmt) -> int:
    """A statement's last line."""
    return node.end_lineno or node.lineno


def line_text(scene: Scene, line: int) -> str:
    """One line, without its end."""
    return scene.source.lines[line - 1]


def indent_of(scene: Scene, node: ast.stmt) -> str:
    """The blanks before a statement."""
    text = line_text(scene, first_line(node))
    return text[: len(text) - len(text.lstrip())]


def lines_of(scene: Scene, first: ast.stmt, last: ast.stmt | None = None) -> list[str]:
    """The lines from one statement to the end of another."""
    return list(scene.source.lines[first_line(first) - 1 : last_line(last or first)])


def indented(lines: list[str], old: str, new: str) -> list[str]:
    """Lines with one indentation in place of another."""
    return [new + x[len(old) :] if x.startswith(old) and x.strip() else x for x in lines]


def unit(scene: Scene) -> str:
    """What one level of indentation is in this program: four blanks where nothing is indented."""
    for block in blocks(scene):
        if block.depth == 1:
            return indent_of(scene, block.body[0]) or "    "
    return "    "


def replaced(scene: Scene, *changes: tuple[int, int, list[str]]) -> str:
    """The program's text with lines ``first`` to ``last`` replaced, for each change.

    Lines count from 1; ``last`` = ``first`` - 1 inserts ahead of ``first``. Changes may not
    overlap.
    """
    lines = list(scene.source.lines)
    for first, last, new in sorted(changes, key=lambda c: (c[0], c[1]), reverse=True):
        lines[first - 1 : last] = new
    return "\n".join(lines) + ("\n" if scene.source.text.endswith("\n") else "")


def without(scene: Scene, block: Block, node: ast.stmt) -> tuple[int, int, list[str]]:
    """The change that takes a statement out; where it is the only one, ``pass`` stays."""
    left = [indent_of(scene, node) + "pass"] if len(block.body) == 1 else []
    return first_line(node), last_line(node), left


def simple_statements(scene: Scene) -> Iterator[tuple[Block, int, ast.stmt]]:
    """Every statement that has none inside it, with its block and its place there."""
    for block in blocks(scene):
        for number, node in enumerate(block.body):
            if isinstance(node, SIMPLE) and not is_text(node):
                yield block, number, node


def is_text(node: ast.stmt) -> bool:
    """Whether a statement is a mere text, such as a docstring."""
    return isinstance(node, ast.Expr) and isinstance(node.value, ast.Constant)


def begin_of(function: ast.FunctionDef | ast.AsyncFunctionDef) -> int:
    """The line ahead of which a function's first statement is put in: behind its docstring."""
    first = function.body[0]
    return last_line(first) + 1 if is_text(first) else first_line(first)


def top_of_chain(scene: Scene, node: ast.stmt) -> ast.stmt:
    """The ``if`` at the head of the chain that an ``elif`` belongs to."""
    above = scene.parents.get(id(node))
    while (
        isinstance(node, ast.If)
        and isinstance(above, ast.If)
        and above.orelse == [node]
        and line_text(scene, node.lineno).lstrip().startswith("elif")
    ):
        node, above = above, scene.parents.get(id(above))
    return node
