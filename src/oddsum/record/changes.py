"""What changed from one check to the next, and since when a case has been odd."""

from __future__ import annotations

from collections.abc import Iterable, Sequence

import msgspec

from oddsum.model.history import PastRun
from oddsum.model.outcome import Outcome


class Step(msgspec.Struct, frozen=True):
    """From one check to a later one: the names of the cases that it settled and broke."""

    settled: tuple[str, ...] = ()
    broke: tuple[str, ...] = ()
    new: tuple[str, ...] = ()  # cases that the earlier one did not have


def between(before: PastRun | None, after: PastRun) -> Step:
    """What changed from a check to another."""
    if before is None:
        return Step()
    was, now = before.outcomes, after.outcomes
    return Step(
        tuple(n for n, o in now.items() if o is Outcome.AGREES and n in was and was[n].odd),
        tuple(n for n, o in now.items() if o.odd and was.get(n) is Outcome.AGREES),
        tuple(n for n in now if n not in was),
    )


def names_of(runs: Iterable[PastRun]) -> tuple[str, ...]:
    """The cases of some checks: those of the last one in its order, then the ones that are gone."""
    found: dict[str, None] = {}
    for run in reversed(list(runs)):
        found |= dict.fromkeys(run.outcomes)
    return tuple(found)


def odd_since(runs: Sequence[PastRun], names: Iterable[str]) -> float | None:
    """When the last stretch of checks began in which one of these cases was odd.

    In seconds since 1970; None where none of them was. The last check, which settled them, is
    passed over where none of them is odd in it.
    """
    wanted, since = set(names), None
    rest = list(runs)
    while rest and not _any_odd(rest[-1], wanted):
        rest.pop()
    while rest and _any_odd(rest[-1], wanted):
        since = rest.pop().at
    return since


def _any_odd(run: PastRun, names: set[str]) -> bool:
    return any(run.outcomes[n].odd for n in names if n in run.outcomes)
