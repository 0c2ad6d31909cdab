"""The account of a lead: what speaks for it, and what against.

Each line of evidence is found by a function of its own, in the order they are shown.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from typing import TYPE_CHECKING

from oddsum.model.lead import Evidence, Slip
from oddsum.pinpoint.coverage import place_of
from oddsum.trace.words import counted

if TYPE_CHECKING:
    from oddsum.pinpoint.rank import Confirmed, Grounds


def account(one: Confirmed, slip: Slip, equals: int, grounds: Grounds) -> Iterator[Evidence]:
    """All that speaks for and against a lead with a mend; ``equals`` other mends fit as well."""
    for find in _FINDERS:
        yield from find(one, slip, grounds)
    if equals:
        text = f"{counted(equals, 'other change')} here would fit as well"
        yield Evidence("trial", "against", text)


def _trial(one: Confirmed, _slip: Slip, grounds: Grounds) -> Iterator[Evidence]:
    odd = grounds.odd
    both = " together with one elsewhere" if len(one.proposal.slips) > 1 else ""
    yield Evidence("trial", "for", f"a change here{both} settles {of(len(one.settles), len(odd))}")
    if one.breaks:
        yield Evidence("trial", "against", f"and breaks {counted(len(one.breaks), 'case')}")
    else:
        yield Evidence("trial", "for", "and breaks none")
    left = len(odd) - len(one.settles)
    if left:
        verb = "stays" if left == 1 else "stay"
        yield Evidence("trial", "against", f"{counted(left, 'case')} {verb} odd")


def _coverage(_one: Confirmed, slip: Slip, grounds: Grounds) -> Iterator[Evidence]:
    yield from coverage_evidence(grounds, slip.file, slip.line)


def coverage_evidence(grounds: Grounds, file: str, line: int) -> Iterator[Evidence]:
    """What it says of a line in which cases it ran."""
    coverage, odd = grounds.coverage, grounds.odd
    place = place_of(grounds.sources[file], line)
    in_odd = coverage.cases_at(place, coverage.known(odd))
    known = coverage.known(grounds.agreeing)
    in_agreeing = coverage.cases_at(place, known)
    if in_odd:
        yield Evidence("coverage", "for", f"runs in {of(len(in_odd), len(odd))}")
    if known and len(in_agreeing) < len(known):
        rest = len(known) - len(in_agreeing)
        text = f"does not run in {counted(rest, 'case')} that {_agree(rest)}"
        yield Evidence("coverage", "for", text)
    count = len(in_agreeing)
    if count:
        text = f"runs in {counted(count, 'case')} that {_agree(count)}, too"
        yield Evidence("coverage", "against", text)


_FINDERS: tuple[Callable[[Confirmed, Slip, Grounds], Iterator[Evidence]], ...] = (
    _trial,
    _coverage,
)


def of(count: int, total: int) -> str:
    """``the only odd case``, ``both odd cases``, ``3 of 5 odd cases``."""
    if count < total:
        return f"{count} of {total} odd cases"
    return {1: "the only odd case", 2: "both odd cases"}.get(total, f"all {total} odd cases")


def _agree(count: int) -> str:
    return "agrees" if count == 1 else "agree"
