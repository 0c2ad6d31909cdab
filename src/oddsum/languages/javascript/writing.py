"""What an editor and an importer ask of JavaScript."""

from __future__ import annotations

import re

from oddsum.languages import switching
from oddsum.languages.javascript.outline import statement_nodes
from oddsum.languages.javascript.parsing import end_of, line_of, tree_of
from oddsum.languages.switching import Switch, SwitchError
from oddsum.model.case import Case
from oddsum.source.program import Source

__all__ = ["commented", "examples", "next_indent", "off_lines", "switched"]

WIDTH = 2  # columns of a level, where the text before does not say
_TEXTS = re.compile(r"'(?:\\.|[^'\\])*'?|\"(?:\\.|[^\"\\])*\"?|`(?:\\.|[^`\\])*`?")
_CASE = re.compile(r"\s*(case\b.*|default\s*):$")


def examples(_source: Source) -> tuple[tuple[Case, ...], tuple[str, ...]]:
    """Programs in this language hold none."""
    return (), ()


def next_indent(before: str) -> str:
    """The blanks that a line after this one begins with: further in after an open bracket."""
    indent = before[: len(before) - len(before.lstrip())]
    code = _TEXTS.sub("''", before).split("//")[0].rstrip()
    opened = sum(code.count(c) for c in "([{") - sum(code.count(c) for c in ")]}")
    if opened > 0 or _CASE.match(code):
        return indent + ("\t" if indent.startswith("\t") else " " * _width(indent))
    return indent


def _width(indent: str) -> int:
    return 4 if len(indent) % 4 == 0 and indent else WIDTH


def commented(rows: list[str]) -> list[str]:
    """Lines made comments, or back."""
    return switching.commented(rows, "//")


def _statement(source: Source, line: int) -> tuple[int, int]:
    """The lines of the statement on a line, as indices from 0: its first, and past its last."""
    if tree_of(source).fault is not None:
        raise SwitchError("A line can be switched off once the program can be read again.")
    every = list(statement_nodes(source))
    here = [n for n in every if line_of(n) == line]
    if not here:
        around = [n for n in every if line_of(n) <= line <= end_of(n)]
        inner = max(around, key=line_of, default=None)
        text = source.lines[line - 1].strip() if line <= len(source.lines) else ""
        if inner is None or not text or text.startswith("//"):
            raise SwitchError(f"Line {line} has no statement to switch off.")
        raise SwitchError(
            f"Line {line} belongs to the statement that begins in line {line_of(inner)}.",
            hint="Switch that one off, or change this line.",
        )
    start, stop = line_of(here[0]), max(end_of(n) for n in here)
    first, last = source.lines[start - 1], source.lines[stop - 1]
    alone = first[: here[0].start_point[1]].strip() == ""
    if not alone or (last.rstrip()[-1:] not in (";", "}", ")") and stop > start):
        raise SwitchError(f"Line {line} shares its line with another statement.")
    return start - 1, stop


_SWITCH = Switch(";", "//", _statement)
switched, off_lines = _SWITCH.switched, _SWITCH.off_lines
