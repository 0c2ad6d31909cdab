"""Switches a statement off and on again, to see what it does.

What is off stands in the program as a comment, behind a ``pass`` that keeps its block from being
empty: ``pass  # off: total = 0``. Switching it on gives back every character.
"""

from __future__ import annotations

import ast
import re

from oddsum.languages.python.parsing import tree_of
from oddsum.model.errors import OddSumError
from oddsum.source.program import Source

_FIRST, _MORE, _RAW = "pass  # off: ", "# off: ", "# off:|"
_OFF = re.compile(r"^(?P<indent>[ \t]*)(?P<kind>pass  # off: |# off: )(?P<text>.*)$")


class SwitchError(OddSumError):
    """A line that cannot be switched off on its own."""


def switched(source: Source, line: int) -> tuple[str, bool]:
    """The text with the statement on a line off, or on again; and whether it is off now.

    A statement of several lines, or one with a block, goes as a whole. Lines count from 1. Raises
    SwitchError.
    """
    lines = source.text.split("\n")
    if 1 <= line <= len(lines) and _is_off(lines[line - 1]):
        start, stop = _off_lines(lines, line - 1)
        lines[start:stop] = [_on(text) for text in lines[start:stop]]
        return "\n".join(lines), False
    start, stop = _statement(source, line)
    lines[start:stop] = _off(lines[start:stop])
    return "\n".join(lines), True


def off_lines(text: str) -> tuple[int, ...]:
    """The lines, from 1, at which something is switched off."""
    return tuple(n for n, line in enumerate(text.split("\n"), 1) if line.strip().startswith(_FIRST))


def _is_off(line: str) -> bool:
    return _OFF.match(line) is not None or line.startswith(_RAW)


def _off_lines(lines: list[str], at: int) -> tuple[int, int]:
    """The lines that were switched off together with the one at an index."""
    start = at
    while start > 0 and _FIRST not in lines[start] and _is_off(lines[start - 1]):
        start -= 1
    stop = at + 1
    while stop < len(lines) and _is_off(lines[stop]) and _FIRST not in lines[stop]:
        stop += 1
    return start, stop


def _off(lines: list[str]) -> list[str]:
    indent = lines[0][: len(lines[0]) - len(lines[0].lstrip())]
    made = [indent + _FIRST + lines[0][len(indent) :]]
    for line in lines[1:]:
        inside = line.startswith(indent)
        made.append(indent + _MORE + line[len(indent) :] if inside else _RAW + line)
    return made


def _on(line: str) -> str:
    if line.startswith(_RAW):
        return line[len(_RAW) :]
    found = _OFF.match(line)
    return found["indent"] + found["text"] if found else line


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
