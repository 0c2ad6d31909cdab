"""How much each kind of evidence weighs, in one table, and where the numbers come from.

Evidence beside a mend that was found changes the mend's rank a little: that it settles the cases is
the better evidence. Where no mend was found, the same evidence is all there is, and weighs more.

The numbers were set by hand while the leads on the tuned two thirds of ``benchmarks/pinpoint`` were
looked at, one kind of evidence after the other; none is fitted, and ``make accuracy`` tells what a
change of one does. Coverage itself is the Ochiai coefficient (see ``coverage.py``).
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

Evidence = Literal["coverage", "lineage", "note", "loop", "claim", "values"]


@dataclass(frozen=True)
class Weights:
    """``shares``: how much of a factor a share from 0 to 1 decides; ``factors`` where it speaks."""

    shares: dict[Evidence, float]
    factors: dict[Evidence, float]

    def shared(self, kind: Evidence, share: float) -> float:
        """The factor for evidence that speaks for a line as far as ``share``, from 0 to 1."""
        part = self.shares[kind]
        return (1 - part) + part * share


BESIDE_A_MEND = Weights(
    shares={"coverage": 0.45, "lineage": 0.15},
    factors={"note": 1.25, "loop": 1.1, "claim": 1.15},
)
ALONE = Weights(
    shares={"coverage": 1.0, "lineage": 0.6},
    factors={"note": 1.5, "loop": 1.4, "claim": 1.5, "values": 3.0},
)
PUT_IN = 0.75  # of its weight is left to an edit that puts something in and changes nothing there:
# of all that could be put in, something nearly always fits
LEANING = 0.1  # off a mend's weight, for the share of odd cases without which it was not found
SIZE = 120.0  # characters that an edit writes, at which its weight is halved
UNMENDED = 0.3  # the best score of a lead without a mend
UNSURE = 0.69  # the best score while several mends fit, or a single odd case speaks for one
PARTLY = 0.5  # of its score is left to a mend that settles only some cases
SETTLED, LIKELY = 0.5, 0.45  # a mend's score: for what it settles, and for how likely it is
