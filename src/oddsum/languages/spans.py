"""The numbers for which a comparison with a number holds: a stretch of the line of numbers."""

from __future__ import annotations

import math
from dataclasses import dataclass


@dataclass(frozen=True)
class Span:
    """From ``low`` to ``high``; ``with_low`` and ``with_high``: whether these belong to it."""

    low: float
    high: float
    with_low: bool = False
    with_high: bool = False

    def covers(self, other: Span) -> bool:
        """Whether all of another lies in this one."""
        from_low = self.low < other.low or (
            self.low == other.low and (self.with_low or not other.with_low)
        )
        to_high = self.high > other.high or (
            self.high == other.high and (self.with_high or not other.with_high)
        )
        return from_low and to_high

    def both(self, other: Span) -> Span:
        """What lies in both."""
        low, with_low = max((self.low, not self.with_low), (other.low, not other.with_low))
        high, with_high = min((self.high, self.with_high), (other.high, other.with_high))
        return Span(low, high, not with_low, with_high)


def span_of(sign: str, value: float) -> Span | None:
    """Where ``subject sign value`` holds; None for what is no single stretch."""
    made = {
        "<": Span(-math.inf, value),
        "<=": Span(-math.inf, value, with_high=True),
        ">": Span(value, math.inf),
        ">=": Span(value, math.inf, with_low=True),
        "==": Span(value, value, with_low=True, with_high=True),
    }
    return None if math.isnan(value) else made.get(sign)
