"""Everything that can go wrong on the way to an answer, as one small tree of sentences."""

from __future__ import annotations

from enum import IntEnum


class Status(IntEnum):
    """Exit status of the commands, as the contract numbers them."""

    FINE = 0
    ODD = 1
    USAGE = 2
    CANNOT_START = 3


class OddSumError(Exception):
    """A sentence for the user: what is wrong, where, and what to do about it.

    ``line`` and ``column`` count from 1; ``file`` is the name to show. ``hint`` is the second
    sentence, what to do.
    """

    status = Status.USAGE

    def __init__(
        self,
        text: str,
        *,
        hint: str = "",
        file: str | None = None,
        line: int | None = None,
        column: int | None = None,
    ) -> None:
        super().__init__(text)
        self.text, self.hint = text, hint
        self.file, self.line, self.column = file, line, column

    def __str__(self) -> str:
        return f"{self.text} {self.hint}".strip()


class PlanError(OddSumError):
    """The plan is missing, or says something that cannot be meant."""


class ProgramError(OddSumError):
    """The program cannot be found or read as text."""


class StartError(OddSumError):
    """The program cannot start in the learner's interpreter, or cannot be built.

    ``shown`` are the line at fault and the one before it, with their numbers from 1.
    """

    status = Status.CANNOT_START
    shown: tuple[tuple[int, str], ...] = ()


class InterpreterError(OddSumError):
    """The interpreter that should run the program cannot be used."""


class RunError(OddSumError):
    """A run could not be carried out: not the program's doing, but the machine's or ours."""
