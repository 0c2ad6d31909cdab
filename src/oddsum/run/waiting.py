"""How long one has waited, without the time in which oneself was held up."""

from __future__ import annotations

import time
from collections.abc import Callable

_AT_ONCE = 0.5  # seconds between two looks that count: who looks ten times as often was held up


class Waiting:
    """Seconds of waiting, for who looks again and again, at least every tenth of a second.

    A machine that stands still for a while (a lid that was closed, a neighbour that took it all)
    stands still for a program as well: its time is not over because the clock went on.
    """

    def __init__(self, clock: Callable[[], float] = time.monotonic) -> None:
        self._clock, self._looked, self._seconds = clock, clock(), 0.0

    def so_far(self) -> float:
        """Seconds since the beginning, as far as they count."""
        now = self._clock()
        self._seconds += min(now - self._looked, _AT_ONCE)
        self._looked = now
        return self._seconds
