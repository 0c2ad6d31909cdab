"""What a run did, and what that means for its case."""

from __future__ import annotations

from collections.abc import Iterable
from enum import StrEnum
from typing import Literal

import msgspec

from oddsum.model.case import Case
from oddsum.model.picture import Picture


class Outcome(StrEnum):
    """The five ways a case can come out, with the contract's words."""

    AGREES = "agrees"
    DIFFERS = "differs"
    STOPPED = "stopped"
    ENDLESS = "endless"
    OPEN = "open"

    @property
    def plural(self) -> str:
        """The word with a count above one before it: ``5 agree``, ``2 differ``."""
        return {"agrees": "agree", "differs": "differ"}.get(self.value, self.value)

    @property
    def odd(self) -> bool:
        """Whether something is wrong: differs, stopped and endless together."""
        return self in (Outcome.DIFFERS, Outcome.STOPPED, Outcome.ENDLESS)


Ending = Literal["ended", "raised", "crashed", "time", "output", "cancelled"]


LIMIT = "limit"  # the type of what stopped a run that took more than every run may


class ErrorInfo(msgspec.Struct, frozen=True, kw_only=True):
    """What stopped a case. ``file`` and ``line`` are the innermost of the learner's own.

    ``bases`` names the exception's ancestors, nearest first, its own class included; that is how
    ``raises = "LookupError"`` can accept a KeyError. ``values`` are the variables at that line, as
    texts; ``loop`` is given for what does not end. ``part`` is the key of the case whose own text
    raised it, blank for the program's lines. ``elsewhere``: ``file`` is not the program's own, but
    one that it imports. ``calls_itself``: the function of which many calls were under way.
    """

    type: str
    message: str
    file: str | None = None
    line: int | None = None
    bases: tuple[str, ...] = ()
    part: str = ""
    values: tuple[tuple[str, str], ...] = ()
    loop: LoopInfo | None = None
    elsewhere: bool = False
    calls_itself: str = ""

    @property
    def place(self) -> str:
        """Where it is, in words; the file is named where it is not the program's own."""
        return f"line {self.line} of {self.file}" if self.elsewhere else f"line {self.line}"


class LoopInfo(msgspec.Struct, frozen=True, kw_only=True):
    """The loop an endless case goes round in, from watching it for a moment.

    ``asked`` are the variables of its condition, ``unchanged`` those of them that never changed
    while it was watched; ``whole``: its condition depends on nothing but these. ``rounds`` has the
    values, as texts, at its last rounds, oldest first.
    """

    header: str
    asked: tuple[str, ...] = ()
    unchanged: tuple[str, ...] = ()
    whole: bool = False
    rounds: tuple[tuple[tuple[str, str], ...], ...] = ()


class Returned(msgspec.Struct, frozen=True, kw_only=True):
    """What a ``call`` gave, and how it stands to what it should give; texts are reprs.

    ``equal`` is None where nothing was expected. ``own_names`` lists names that the expected
    expression had to take from the program itself (a wrong constant would agree with itself).
    ``language``: the one the texts are written in.
    """

    actual: str
    type: str = ""
    expected: str | None = None
    expected_type: str = ""
    equal: bool | None = None
    own_names: tuple[str, ...] = ()
    language: str = "Python"


class Run(msgspec.Struct, frozen=True, kw_only=True):
    """What happened when a case was run, before anything is compared.

    ``output`` is the standard output as text, prompts included; ``asked`` gives, for each input
    the program read through ``input()``: (position in ``output`` before the prompt, position after
    it, what was read), positions counting characters from 0.
    """

    ending: Ending
    exit_status: int = 0
    output: str = ""
    errors: str = ""
    asked: tuple[tuple[int, int, str], ...] = ()
    error: ErrorInfo | None = None
    starved: bool = False  # stopped because it asked for more input than the case gives
    unread: str = ""  # input that was left
    returned: Returned | None = None
    checked: bool | None = None  # whether the case's `check` expression held
    check_error: str = ""
    written: dict[str, str | None] = {}  # content of the files that the plan expects
    drawn: Picture | None = None  # what a program that draws has drawn
    remarks: tuple[str, ...] = ()  # sentences worth telling: bytes that are no UTF-8, and the like
    skipped: tuple[int, ...] = ()  # top-level lines left out for a `call`
    watched: bool = True  # whether it was seen what it read: not so where a command runs it
    seconds: float = 0.0  # wall clock
    cpu: float = 0.0  # processor seconds the program took

    @property
    def unread_lines(self) -> int:
        """How many lines of input were left, a last one without its line end included."""
        return self.unread.count("\n") + (bool(self.unread) and not self.unread.endswith("\n"))


class Difference(msgspec.Struct, frozen=True, kw_only=True):
    """How actual departs from expected. ``line`` and ``column`` count from 1, of the expected."""

    summary: str
    line: int | None = None
    column: int | None = None


class CaseResult(msgspec.Struct, frozen=True, kw_only=True):
    """How one case came out. ``expected`` and ``actual`` are the texts to show side by side."""

    number: int
    name: str
    kind: str
    outcome: Outcome
    checked: tuple[str, ...]
    expected: str | None
    actual: str
    difference: Difference | None
    run: Run
    stale: bool = False

    @property
    def returned_value(self) -> bool:
        """Whether what is shown is the value of a call, and not text."""
        return self.run.returned is not None and self.actual == self.run.returned.actual


def shortest_odd(cases: Iterable[Case], results: Iterable[CaseResult]) -> CaseResult | None:
    """The odd result with the least to follow: the shortest input, endless ones last."""
    size = {c.number: len(c.stdin or "") + len(c.call or "") for c in cases}

    def order(result: CaseResult) -> tuple[bool, int, int]:
        return result.outcome is Outcome.ENDLESS, size.get(result.number, 0), result.number

    return min((r for r in results if r.outcome.odd), key=order, default=None)


def tally(results: tuple[CaseResult, ...]) -> dict[Outcome, int]:
    """How many cases came out each way, every outcome present, in the contract's order."""
    counts = dict.fromkeys(Outcome, 0)
    for result in results:
        counts[result.outcome] += 1
    return counts
