"""Faults in two places: from half a mend, search again for the other half."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence

from oddsum.model.lead import TrialEdit
from oddsum.pinpoint.proposal import Proposal, Screening

MOST_HALVES = 8  # half mends that are searched on from
_PER_PLACE = 2  # of one line, so that other lines have their turn


def halves(found: Sequence[Screening]) -> list[Screening]:
    """The best half mends: they settle something or come nearer, and break nothing."""
    good = [s for s in found if not s.breaks and (s.settles or s.nearer > 0)]
    good.sort(key=lambda s: (-len(s.settles), -s.proposal.likely, -s.nearer))
    chosen: list[Screening] = []
    lines: dict[tuple[str, int], int] = {}
    for one in good:
        edit = one.proposal.edits[0]
        place = (edit.file, edit.line)
        if lines.get(place, 0) < _PER_PLACE:
            lines[place] = lines.get(place, 0) + 1
            chosen.append(one)
        if len(chosen) == MOST_HALVES:
            break
    return chosen


def second_halves(half: Screening, every: Iterable[Proposal]) -> Iterator[Proposal]:
    """Each edit of another place of the program, together with half a mend."""
    first = half.proposal.edits[0]
    for one in every:
        second = one.edits[0]
        if not _touches(first, second):
            yield Proposal((first, second))


def _touches(first: TrialEdit, second: TrialEdit) -> bool:
    """Whether the edits lie in one place: one would be a mend of the other."""
    if first.file != second.file:
        return False
    return second.start <= first.stop and first.start <= second.stop
