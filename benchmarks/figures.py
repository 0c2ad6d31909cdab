"""A measured figure, and how times are taken."""

from __future__ import annotations

import statistics
import time
from collections.abc import Callable
from dataclasses import asdict, dataclass
from typing import Any


@dataclass(frozen=True)
class Figure:
    """What was measured: a number with its unit, what is wanted, and how it was measured."""

    what: str
    number: float
    unit: str
    wanted: str
    how: str

    def shown(self) -> str:
        number = f"{self.number:,.0f}" if self.number >= 100 else f"{self.number:.3g}"
        return f"{number} {self.unit}"

    def fields(self) -> dict[str, Any]:
        return asdict(self)


def seconds(work: Callable[[], object]) -> float:
    """Wall clock seconds of one run."""
    start = time.perf_counter()
    work()
    return time.perf_counter() - start


def in_turn(rounds: int, *works: Callable[[], object]) -> list[list[float]]:
    """Seconds of each work in each round, taken A B C A B C ...: drift falls on all alike."""
    taken: list[list[float]] = [[] for _ in works]
    for _ in range(rounds):
        for times, work in zip(taken, works, strict=True):
            times.append(seconds(work))
    return taken


def ratio(over: list[float], under: list[float]) -> float:
    """The median of the ratios of each round."""
    return statistics.median(a / b for a, b in zip(over, under, strict=True))


def middle(times: list[float]) -> float:
    """The median."""
    return statistics.median(times)
