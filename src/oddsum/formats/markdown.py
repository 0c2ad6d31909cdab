"""Texts as Markdown takes them: plain in a sentence, code in a cell, code in a block."""

from __future__ import annotations

import re
from collections.abc import Sequence


def table_row(cells: Sequence[str]) -> str:
    """One row of a table."""
    return "| " + " | ".join(cells) + " |"


def plain(text: str) -> str:
    """Text that Markdown takes as it is, within a line or a cell."""
    for mark in "\\`*_<>|#[]":
        text = text.replace(mark, "\\" + mark)
    return text.replace("\n", " ")


def code_cell(text: str) -> str:
    """Text as code within a cell; its lines one under the other."""
    lines = text.rstrip("\n").split("\n") if text.strip() else []
    return "<br>".join(_quoted(line) for line in lines)


def _quoted(line: str) -> str:
    escaped = line.replace("|", "\\|")
    if not line.strip():
        return ""
    fence = "``" if "`" in line else "`"
    pad = " " if "`" in line else ""
    return f"{fence}{pad}{escaped}{pad}{fence}"


def fenced(text: str, language: str) -> list[str]:
    """A block of code, in a fence longer than any in it."""
    longest = max((len(run) for run in re.findall(r"`{3,}", text)), default=2)
    fence = "`" * (longest + 1)
    return [fence + language, *text.split("\n"), fence]
