"""Time from starting `oddsum demo` to the first picture, and to the last case's result."""

from __future__ import annotations

import statistics

from figures import Figure

from terminal import Terminal

ROUNDS = 7


def measure() -> list[Figure]:
    times = [_start() for _ in range(ROUNDS)]
    paint = statistics.median(t[0] for t in times)
    whole = statistics.median(t[1] for t in times)
    how = f"median of {ROUNDS}, 160x47, in a terminal of our own"
    return [
        Figure("first paint", paint, "s", "under 1", how),
        Figure("the demo's 9 cases shown", whole, "s", "", how),
    ]


def _start() -> tuple[float, float]:
    """Seconds to the first paint and to the totals."""
    with Terminal("demo") as terminal:
        return terminal.until(b"Odd Sum", b"CASES"), terminal.until(b"2 differ")
