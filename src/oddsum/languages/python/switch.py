"""Which lines a statement goes with, when it is switched off: ``pass  # off: total = 0``."""

from __future__ import annotations

import ast

from oddsum.languages.python.parsing import tree_of
from oddsum.languages.switching import Switch, SwitchError
from oddsum.source.program import Source


def _statement(source: Source, line: int) -> tuple[int, int]:
    """The lines of the statement on a line, as indices from 0: its first, and past its last."""
    tree = tree_of(source)
    if tree is None:
        raise SwitchError("A line can be switched off once the program can be read again.")
    found = [s for s in ast.walk(tree) if isinstance(s, ast.stmt)]
    here = [s for s in found if _first(s) == line]
    if not here:
        around = [s for s in found if _first(s) <= line <= (s.end_lineno or 0)]
        inner = max(around, key=_first, default=None)
        if inner is None or not source.lines[line - 1 : line] or not source.lines[line - 1].strip():
            raise SwitchError(f"Line {line} has no statement to switch off.")
        if hasattr(inner, "body") and source.lines[line - 1].lstrip().startswith("#"):
            raise SwitchError(f"Line {line} is a comment; it does nothing as it is.")
        if hasattr(inner, "body"):
            raise SwitchError(
                f"Line {line} belongs to the statement that begins in line {_first(inner)}.",
                hint="Switch that one off, or change this line.",
            )
        here = [inner]
    start = min(_first(s) for s in here)
    stop = max(s.end_lineno or line for s in here)
    if any(_first(s) < start <= (s.end_lineno or 0) and not hasattr(s, "body") for s in found):
        raise SwitchError(f"Line {line} shares its line with another statement.")
    return start - 1, stop


def _first(statement: ast.stmt) -> int:
    decorators: list[ast.expr] = getattr(statement, "decorator_list", [])
    return min([statement.lineno, *(d.lineno for d in decorators)])


_SWITCH = Switch("pass", "#", _statement)
switched, off_lines = _SWITCH.switched, _SWITCH.off_lines
