"""A language that nobody here knows: its programs are built and run by commands of the plan."""

from __future__ import annotations

from typing import ClassVar

from oddsum.languages.language import Station
from oddsum.languages.python.language import Python


class Commands(Python):
    """Only Check. What a plan itself holds (values, expressions) is written as in Python."""

    can: ClassVar[frozenset[Station]] = frozenset({"check"})
    grammar = ""

    def __init__(self, command: tuple[str, ...]) -> None:
        self.name = " ".join(command)
