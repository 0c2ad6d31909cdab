"""How far in the next line stands, and lines made comments and back: what an editor asks."""

from __future__ import annotations

import re

from oddsum.languages import switching

WIDTH = 4  # columns of a level
_TEXTS = re.compile(r"'(?:\\.|[^'\\])*'?|\"(?:\\.|[^\"\\])*\"?")
_ENDS = re.compile(r"\s*(return|break|continue|pass|raise)\b")


def next_indent(line: str) -> str:
    """The blanks with which the line after this one begins; ``line`` ends where the cursor is.

    One level further in after a colon or an open bracket, one out after what leaves a block.
    """
    indent = line[: len(line) - len(line.lstrip())]
    code = _TEXTS.sub("''", line).split("#")[0].rstrip()
    opened = sum(code.count(c) for c in "([{") - sum(code.count(c) for c in ")]}")
    if code.endswith(":") or opened > 0:
        return indent + ("\t" if indent.startswith("\t") else " " * WIDTH)
    if _ENDS.match(code):
        return indent[:-1] if indent.endswith("\t") else indent[:-WIDTH]
    return indent


def commented(rows: list[str]) -> list[str]:
    """Lines made comments, or back."""
    return switching.commented(rows, "#")
