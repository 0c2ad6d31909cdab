"""Finds the bracket or text that was opened and never closed, in a program that cannot start."""

from __future__ import annotations

import re

_PAIRS = {")": "(", "]": "[", "}": "{"}
# A comment, a text of several lines, a text of one line (closed or not), or a bracket.
_PARTS = re.compile(
    r"#[^\n]*|'''[\s\S]*?(?:'''|\Z)|\"\"\"[\s\S]*?(?:\"\"\"|\Z)"
    r"|'(?:\\.|[^'\\\n])*'?|\"(?:\\.|[^\"\\\n])*\"?|[()\[\]{}]"
)
Place = tuple[int, int]  # line and column, both from 1


def unclosed(text: str) -> tuple[str, Place] | None:
    """The innermost bracket, or the text over several lines, that is never closed; None for none.

    Stops at the first closing bracket that fits none: what it should have closed is the fault.
    """
    opened: list[tuple[str, int]] = []
    for match in _PARTS.finditer(text):
        part = match.group()
        if part in _PAIRS.values():
            opened.append((part, match.start()))
        elif part in _PAIRS:
            if not opened or opened[-1][0] != _PAIRS[part]:
                break
            opened.pop()
        elif part[:3] in ("'''", '"""') and not (len(part) >= 6 and part.endswith(part[:3])):
            return part[:3], _place(text, match.start())
    if not opened:
        return None
    bracket, at = opened[-1]
    return bracket, _place(text, at)


def _place(text: str, at: int) -> Place:
    return text.count("\n", 0, at) + 1, at - (text.rfind("\n", 0, at) + 1) + 1
