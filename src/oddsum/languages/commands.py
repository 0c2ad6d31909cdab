"""A language that nobody here reads: its programs are built and run by commands of the plan."""

from __future__ import annotations

from functools import cached_property
from pathlib import Path
from typing import ClassVar

from oddsum.languages.language import Reading, Station, Writing
from oddsum.languages.python.language import Python
from oddsum.languages.tools import tool_of


class Unread(Python):
    """Only Check. What a plan itself holds (values, expressions) is written as in Python."""

    can: ClassVar[frozenset[Station]] = frozenset({"check"})
    grammar = ""

    def __init__(self, name: str, comment: str = "#") -> None:
        self.name, self._comment = name, comment

    @cached_property
    def reading(self) -> Reading:
        """Nothing can be read off its sources."""
        from oddsum.languages.unread import NOTHING

        return NOTHING

    @cached_property
    def writing(self) -> Writing:
        """Lines, and comments."""
        from oddsum.languages.unread import Lines

        return Lines(self._comment)


def unread(file: str | Path) -> Unread | None:
    """The language of a file with an ending of ``tools.py``; None for any other."""
    tool = tool_of(file)
    return Unread(tool.name, tool.comment) if tool is not None else None
