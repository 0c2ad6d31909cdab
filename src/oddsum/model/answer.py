"""What the learner said of values: right, wrong, or not sure."""

from __future__ import annotations

from typing import Literal

import msgspec

Said = Literal["right", "wrong", "unsure"]
AT_LINE = "Line "  # how a sentence about a line begins: it holds for this text of the program


class Judged(msgspec.Struct, frozen=True):
    """A value to be judged: ``text`` is a whole sentence (``fare(age = 16) gave 3``).

    The same sentence has the same answer, in whatever case it comes up; ``case`` and ``step`` say
    where it can be seen, ``line`` the line that made it.
    """

    text: str
    case: int
    step: int
    line: int
    function: str = ""


class Ends(msgspec.Struct, frozen=True):
    """Where the answers lead: a line (or a call and its line), and why, in a sentence."""

    line: int
    function: str
    case: int
    step: int
    text: str
