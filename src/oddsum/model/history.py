"""What the record keeps: checks of a program, its versions, what was tried, what was learned."""

from __future__ import annotations

import msgspec

from oddsum.model.lead import Edit
from oddsum.model.outcome import Outcome


class Version(msgspec.Struct, frozen=True, kw_only=True):
    """A program as it was: every file of its own, name within its folder to text.

    ``number`` is 0 before it is recorded.
    """

    number: int = 0
    files: dict[str, str]


class PastRun(msgspec.Struct, frozen=True, kw_only=True):
    """One check of a whole plan. ``at`` is in seconds since 1970, ``version`` a version's number.

    ``outcomes`` are by the cases' names, in the plan's order.
    """

    number: int = 0
    at: float
    seconds: float
    version: int = 0
    plan: str = ""
    interpreter: str = ""
    outcomes: dict[str, Outcome]

    @property
    def agreeing(self) -> int:
        """How many cases agreed."""
        return sum(o is Outcome.AGREES for o in self.outcomes.values())


class Try(msgspec.Struct, frozen=True, kw_only=True):
    """A change of the program that was tried on a copy; ``settled`` and ``broke`` name cases.

    ``key`` is the same for the same change of the same text; ``times`` counts how often it was
    tried. ``kept`` says whether it was written into the program. ``agreeing`` of ``cases`` agreed.
    """

    number: int = 0
    at: float
    key: str
    edits: tuple[Edit, ...]
    settled: tuple[str, ...] = ()
    broke: tuple[str, ...] = ()
    agreeing: int = 0
    cases: int = 0
    kept: bool = False
    times: int = 1
    words: str = ""  # what is said of it in a line, where it is no edit of the learner's own


class Autosaved(msgspec.Struct, frozen=True, kw_only=True):
    """A change that is in hand and in no file yet: a file's text, and what the file had then.

    ``window`` is the process that has it in hand; ``cursor`` a row and a column, from 0.
    """

    at: float
    window: int
    file: str
    before: str
    text: str
    cursor: tuple[int, int] = (0, 0)


class Entry(msgspec.Struct, frozen=True, kw_only=True):
    """A page of the notebook: one fault, where it was, what it was, how it was mended.

    ``known`` are facts the tool filled in, each a title and a sentence; ``own`` are the learner's
    own words.
    """

    number: int = 0
    at: float
    where: str = ""
    what: str = ""
    how: str = ""
    own: str = ""
    known: tuple[tuple[str, str], ...] = ()
