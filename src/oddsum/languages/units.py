"""How many of one unit are in another: what a formula turns minutes, cents or grams with."""

from __future__ import annotations

from collections.abc import Iterator

# What each such number is taken for, the likelier first: of time, and of what is counted by tens.
_TAKEN_FOR: dict[float, tuple[int, ...]] = {
    60: (100, 3600, 24), 100: (60, 10, 1000), 3600: (60, 1000, 86_400), 24: (12, 60, 7),
    12: (10, 24, 52), 7: (5, 30, 24), 1440: (24, 60, 3600), 86_400: (3600, 1440), 365: (52, 12),
    52: (12, 365), 30: (7, 31, 12), 10: (100, 12, 1000), 1000: (100, 1024, 1_000_000),
    1024: (1000,),
}  # fmt: skip
_LIKELY, _LESS = 0.32, 0.2
LEFT_OUT = ((60, 0.3), (100, 0.25), (1000, 0.2), (24, 0.18), (12, 0.18))  # where no number stands
LACKING = "Two units meet on this line. Is one turned into the other, as hours into minutes?"
TITLE = "one unit turned into another by the wrong number"
EXPLANATION = (
    "An hour has 60 minutes and not 100, a day 24 hours, a kilo 1000 grams. Write the unit beside "
    "each number of the line, and see that they come out right."
)


def asked(factor: str) -> str:
    """What is asked of a factor that may be another one."""
    return f"{factor} stands here. How many of the one are in the other, as minutes in an hour?"


def other_factors(factor: float) -> Iterator[tuple[int, float]]:
    """What else a factor between two units could be, with how likely that is; none for others."""
    for place, other in enumerate(_TAKEN_FOR.get(factor, ())):
        yield other, _LESS if place else _LIKELY
