"""Time that a program sleeps away is skipped: it is told by the clocks, and nobody waits for it.

For runs of which only the outcome matters. A program that counts down with a second's sleep would
else take minutes for what is tried on it in half a second. Where other threads are at work it
sleeps as ever: what they do meanwhile may depend on it.
"""

from __future__ import annotations

import _thread
import sys
import time

TYPE_CHECKING = False  # importing typing would cost every run some milliseconds
if TYPE_CHECKING:
    from typing import Any

_CLOCKS = ("time", "monotonic", "perf_counter")
_LONGEST = 1e9  # seconds: what is longer is refused by the real one, in its own words
_sleep = time.sleep


class Skipping:
    """Stands for the clocks that the program reads, and for what lets it sleep."""

    def __init__(self) -> None:
        self.skipped = 0.0

    def install(self) -> None:
        """Take their places in the program's module ``time``: ours is a copy, see start.py."""
        module: Any = sys.modules["time"]
        for name in _CLOCKS:
            setattr(module, name, self._ahead(getattr(time, name), 1))
            setattr(module, f"{name}_ns", self._ahead(getattr(time, f"{name}_ns"), 10**9))
        module.sleep = self.sleep

    def begin(self) -> None:
        """A run begins: nothing has been skipped in it yet. Loops of ``asyncio`` skip as well."""
        self.skipped = 0.0
        selectors = sys.modules.get("selectors")
        kind = getattr(selectors, "DefaultSelector", None)
        if kind is not None and not hasattr(kind, "waits"):
            kind.waits, kind.select = kind.select, self._selecting(kind.select)

    def sleep(self, *given: Any, **named: Any) -> None:
        """Stand for ``time.sleep``."""
        seconds: Any = given[0] if len(given) == 1 and not named else None
        # Numbers alone: a class of the program's may have comparisons of its own.
        if type(seconds) in (int, float) and 0 < seconds < _LONGEST and not _thread._count():
            self.skipped += seconds
        else:
            _sleep(*given, **named)

    def _ahead(self, real: Any, units: int) -> Any:
        """A clock that is ahead by what was skipped; ``units`` of it make a second."""

        def clock() -> Any:
            now = real()
            return now + type(now)(self.skipped * units) if self.skipped else now

        clock.__name__ = clock.__qualname__ = real.__name__
        return clock

    def _selecting(self, real: Any) -> Any:
        def select(selector: Any, timeout: Any = None) -> Any:
            if timeout is None or timeout <= 0 or _thread._count():
                return real(selector, timeout)
            ready = real(selector, 0)
            if not ready:
                self.skipped += timeout
            return ready

        return select
