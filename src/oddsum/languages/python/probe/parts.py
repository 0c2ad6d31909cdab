"""Notes the parts of one statement as they are worked out: for one line, when asked for it.

Every expression in the statement is put into a call of ``≠q``, which notes its value and gives it
back, so that the order is the interpreter's own and what it never looks at stays unnoted.
"""

from __future__ import annotations

import ast
import builtins
import sys

from .hooks import plain_value
from .nodes import hook_call, placed

TYPE_CHECKING = False  # importing typing would cost every run some milliseconds
if TYPE_CHECKING:
    from typing import Any


class Parts(ast.NodeTransformer):
    """Puts the hooks into one statement. ``rows``: ``[kind, line, column, end line, end column,
    parent]`` of each part, columns in bytes from 0, the parent -1 for what stands in no other."""

    def __init__(self) -> None:
        self.rows: list[list[Any]] = []
        self._outer = -1

    def into(self, tree: Any, line: int) -> bool:
        """Change the statement that begins at a line; False where there is none."""
        for node in ast.walk(tree):
            for field in ("body", "orelse", "finalbody"):
                block = getattr(node, field, None)
                for at, statement in enumerate(block if isinstance(block, list) else []):
                    if getattr(statement, "lineno", 0) == line and isinstance(statement, ast.stmt):
                        self._into(statement, block, at)
                        return True
        return False

    def _into(self, statement: Any, block: Any, at: int) -> None:
        fields = {ast.If: "test", ast.While: "test", ast.For: "iter"}
        field = fields.get(type(statement))
        begin = hook_call("qb", statement)
        if field is None:
            self.generic_visit(statement)
            first = placed(ast.Expr(begin), statement)
            first.woven = True
            block.insert(at, first)
            return
        woven = self.visit(getattr(statement, field))
        begun = placed(ast.BoolOp(ast.Or(), [begin, woven]), statement)
        setattr(statement, field, begun)

    def visit(self, node: Any) -> Any:
        if isinstance(node, (ast.stmt, ast.Lambda)) and not isinstance(node, ast.Expr):
            if isinstance(node, ast.Lambda) or self.rows or not self._is_plain(node):
                return node
        if not isinstance(node, ast.expr) or isinstance(
            node, (ast.Constant, ast.Slice, ast.Starred, ast.GeneratorExp)
        ):
            return self.generic_visit(node)
        if isinstance(node, ast.FormattedValue):  # what it is formatted by is no part
            node.value = self.visit(node.value)
            return node
        if not isinstance(getattr(node, "ctx", ast.Load()), ast.Load):
            return self.generic_visit(node)
        return self._part(node)

    @staticmethod
    def _is_plain(node: Any) -> bool:
        return not hasattr(node, "body")

    def _part(self, node: Any) -> Any:
        number, outer = len(self.rows), self._outer
        self.rows.append([type(node).__name__, node.lineno, node.col_offset, node.end_lineno,
                          node.end_col_offset, outer])  # fmt: skip
        self._outer = number
        if isinstance(node, ast.Call):
            node.func = self._called(node.func)
            node.args = [self.visit(a) for a in node.args]
            for keyword in node.keywords:
                keyword.value = self.visit(keyword.value)
        else:
            self.generic_visit(node)
        self._outer = outer
        return hook_call("q", node, number, node)

    def _called(self, node: Any) -> Any:
        """What is called is no part worth showing, only what its method belongs to."""
        if isinstance(node, ast.Attribute):
            if not (
                isinstance(node.value, ast.Call) and getattr(node.value.func, "id", "") == "super"
            ):
                node.value = self.visit(node.value)
            return node
        return node if isinstance(node, ast.Name) else self.visit(node)


class PartNotes:
    """The hooks: note the parts of one visit of the statement."""

    def __init__(self, recorder: Any, wanted: int) -> None:
        self.recorder, self.wanted = recorder, wanted
        self.visits = 0
        self.frame: Any = None

    def install(self) -> None:
        """Put the hooks among the built-ins."""
        setattr(builtins, "≠q", self.note)
        setattr(builtins, "≠qb", self.begin)

    def begin(self) -> None:
        """The statement is visited."""
        self.visits += 1
        frame = sys._getframe(1)
        if self.visits == self.wanted:
            self.frame = frame
        elif frame is self.frame:
            self.frame = None

    def note(self, number: int, value: Any) -> Any:
        """A part came to a value."""
        frame: Any = sys._getframe(1)
        while frame is not None and frame is not self.frame and frame.f_code.co_name[:1] == "<":
            frame = frame.f_back  # a comprehension has a frame of its own before 3.12
        if frame is not None and frame is self.frame:
            self.recorder.log.extend((number, plain_value(value), "part"))
        return value
