"""What the learner says must hold: a claim, pinned after a line or at a function's return."""

from __future__ import annotations

import msgspec


class Claim(msgspec.Struct, frozen=True, kw_only=True):
    """``holds`` must be true after every visit of ``line`` (from 1), or whenever ``function``
    returns; in every case, or in the one named.

    ``text`` is the line as it was when the claim was made: the line is found again by it.
    """

    holds: str
    file: str = ""
    line: int | None = None
    text: str = ""
    function: str | None = None
    case: str | None = None

    @property
    def place(self) -> str:
        """Where it must hold, in words."""
        return f"after line {self.line}" if self.line else f"when {self.function} returns"


class Broken(msgspec.Struct, frozen=True, kw_only=True):
    """A claim that did not hold, at the first step where it did not.

    ``why``: what the names in it were. ``unasked``: it had no answer there, and ``why`` says so.
    """

    claim: Claim
    step: int
    line: int
    why: str
    unasked: bool = False
