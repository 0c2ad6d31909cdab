"""Questions asked of recorded values, in the program's own language."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any, Protocol

from oddsum.model.errors import OddSumError


class QuestionError(OddSumError):
    """A question that cannot be asked; ``column`` from 1 says where in it."""


class Unanswered(Exception):
    """A question has no answer at a step: a name unknown there, or an error; the text says it."""


class Question(Protocol):
    """An expression over the variables of a moment. It cannot change the program, and it ends."""

    @property
    def text(self) -> str:
        """The expression as it was typed."""

    @property
    def names(self) -> tuple[str, ...]:
        """The variables in it, each once."""

    def ask(self, values: Mapping[str, Any]) -> Any:
        """The answer for these values of its names; raises Unanswered where there is none."""
