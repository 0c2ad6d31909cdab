"""A program compiled statement by statement, so that a trial compiles only what its edit touches.

Compiling the whole of a short program takes longer than running it. Run one after the other in one
namespace, its top-level statements do what the whole does; ``from __future__`` imports are the
exception, and programs with one are compiled whole.
"""

from __future__ import annotations

import ast
from importlib.util import decode_source

TYPE_CHECKING = False  # importing typing would cost every run some milliseconds
if TYPE_CHECKING:
    from collections.abc import Callable
    from typing import Any

_FIELDS = ("body", "orelse", "finalbody", "handlers", "cases")


class Pieces:
    """The top-level statements of one file. ``select`` leaves some out, where it is given."""

    def __init__(self, data: bytes, path: str, select: Callable[[Any], Any] | None) -> None:
        self.path, self.select = path, select
        self.lines = decode_source(data).split("\n")
        tree: Any = ast.parse(data, path)
        self.whole = any(isinstance(s, ast.ImportFrom) and s.module == "__future__"
                         for s in tree.body)  # fmt: skip
        self.spans = [(_first_line(s), s.end_lineno) for s in tree.body]
        before = list(tree.body)
        kept = before if select is None else select(tree).body
        self.kept = [n for n, statement in enumerate(before) if statement in kept]
        self.codes = {n: self._compiled([before[n]]) for n in self.kept}
        self.last: tuple[str, list[Any]] = ("", [])  # one edit is tried on several cases in a row

    def plain(self) -> list[Any]:
        """Return the codes of the file as it is."""
        return [self.codes[n] for n in self.kept]

    def edited(self, text: str) -> list[Any]:
        """Return the codes of the file with another text; raises SyntaxError."""
        if self.last[0] != text:
            self.last = text, self._edited(text)
        return self.last[1]

    def _edited(self, text: str) -> list[Any]:
        lines = text.split("\n")
        number = self._touched(lines)
        if number is None:
            return self._whole(text)
        if number not in self.codes:
            return self.plain()  # it is left out: the edit changes nothing
        first, last = self.spans[number]
        last += len(lines) - len(self.lines)
        segment = "\n" * (first - 1) + "\n".join(lines[first - 1 : last])
        try:
            changed = self._compiled(ast.parse(segment, self.path).body)
        except SyntaxError:  # an `elif`, a line set in: it belongs to the statement before it now
            return self._whole(text)
        return [changed if n == number else self.codes[n] for n in self.kept]

    def _whole(self, text: str) -> list[Any]:
        tree: Any = ast.parse(text, self.path)
        if self.select is not None:
            tree = self.select(tree)
        return [self._compiled(tree.body)]

    def _touched(self, lines: list[str]) -> int | None:
        """Return the one statement that the edit lies in; None where it is not just one.

        The edit may make the file longer or shorter: what counts is the first and the last of the
        old lines that are not there any more, or between which lines were put in.
        """
        if self.whole:
            return None
        old, room = self.lines, min(len(lines), len(self.lines))
        start = next((n for n in range(room) if old[n] != lines[n]), room)
        tail = next((n for n in range(room - start) if old[-1 - n] != lines[-1 - n]), room - start)
        first, last = start + 1, len(old) - tail  # lines from 1; an insertion has last = first - 1
        if first > last:
            first, last = last, first  # between these two
        around = [n for n, (a, b) in enumerate(self.spans) if a <= last and first <= b]
        if len(around) != 1 or not lines:
            return None
        a, b = self.spans[around[0]]
        return around[0] if a <= first and last <= b else None

    def _compiled(self, statements: list[Any]) -> Any:
        tree = ast.Module(statements, [])
        return compile(_with_ticks(tree), self.path, "exec", dont_inherit=True)


def _first_line(statement: Any) -> int:
    decorators = getattr(statement, "decorator_list", None)
    return int(decorators[0].lineno if decorators else statement.lineno)


def _with_ticks(tree: Any) -> Any:
    """Put a tick at the start of every loop's body and every function's.

    Only statements are walked: a visitor of every node takes longer than the compiler.
    """
    todo = [tree]
    while todo:
        node = todo.pop()
        for field in _FIELDS:
            todo.extend(getattr(node, field, ()))
        if isinstance(node, (ast.While, ast.For, ast.AsyncFor)):
            node.body.insert(0, _tick(node))
        elif isinstance(node, (ast.FunctionDef, ast.AsyncFunctionDef)):
            first: Any = node.body[0]
            text = isinstance(first, ast.Expr) and isinstance(first.value, ast.Constant)
            node.body.insert(1 if text and isinstance(first.value.value, str) else 0, _tick(node))
    return tree


def _tick(node: Any) -> Any:
    place: Any = {"lineno": node.lineno, "end_lineno": node.lineno, "col_offset": 0,
                  "end_col_offset": 0}  # fmt: skip
    name = ast.Name("≠g", ast.Load(), **place)
    return ast.Expr(ast.Call(name, [], [], **place), **place)
