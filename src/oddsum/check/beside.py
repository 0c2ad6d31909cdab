"""How many cases run beside each other: as many as there are cores, more where they only wait."""

from __future__ import annotations

from collections.abc import Iterable

from oddsum.model.outcome import Run

MOST = 8  # interpreters at once, for cases that wait
_WAITS = 0.25  # of its time on the processor at most, for a run that waits
_WORTH = 0.4  # seconds of a run, from which on another interpreter is worth its start


def waits(runs: Iterable[Run]) -> bool:
    """Whether these runs spent most of their time asleep: others need not wait for them."""
    some = list(runs)
    seconds = sum(r.seconds for r in some)
    return seconds > _WORTH * max(1, len(some)) and sum(r.cpu for r in some) < _WAITS * seconds
