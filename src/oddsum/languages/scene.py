"""What edits and notes may know of a source file."""

from __future__ import annotations

from collections.abc import Mapping
from types import MappingProxyType
from typing import Protocol

from oddsum.source.program import Source

Types = Mapping[str, frozenset[str]]  # of variables, as their columns are called
Numbers = Mapping[str, frozenset[int | float]]  # that variables had, called in the same way
NOTHING_SEEN: Numbers = MappingProxyType({})


class Scene(Protocol):
    """A source file with what recordings and the plan tell of it.

    ``types``: for each variable, by its column's name (``total``, ``fare.age``), the types it was
    seen with; empty where nothing was recorded. ``numbers``: some of those that it had. ``wanted``:
    numbers and texts that stand in expected results.
    """

    @property
    def source(self) -> Source:
        """The file."""

    @property
    def types(self) -> Types:
        """The types that were seen."""

    @property
    def numbers(self) -> Numbers:
        """Numbers that were seen."""

    @property
    def wanted(self) -> frozenset[str]:
        """What is expected somewhere."""
