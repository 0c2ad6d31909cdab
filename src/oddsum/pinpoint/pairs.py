"""Faults in two places: from half a mend, search again for the other half."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence

import msgspec

from oddsum.model.lead import TrialEdit
from oddsum.pinpoint.proposal import Proposal, Screening

MOST_HALVES = 8  # half mends that are searched on from
_MOST_BESIDE = 200  # edits that settle something, of which each is tried beside each
_MOST_PAIRS = 3_000
_MOST_NEARER, _PER_LINE = 30, 4  # that come nearer: so many, and of one line, beside each other
_PER_PLACE = 2  # of one line, so that other lines have their turn


def halves(found: Sequence[Screening]) -> list[Screening]:
    """The best half mends: they settle something or come nearer, and break nothing.

    Of those that settle nothing it counts how much nearer they come, too.
    """
    good = [s for s in found if not s.breaks and (s.settles or s.nearer > 0)]
    good.sort(key=lambda s: (-len(s.settles), -s.proposal.likely * (1 if s.settles else s.nearer)))
    return list(_by_line(good, _PER_PLACE))[:MOST_HALVES]


def covering(found: Sequence[Screening], odd: Sequence[int]) -> Iterator[Proposal]:
    """Two edits of which each settles what the other leaves: each case names its own place.

    The likelier first, and not more than some thousand.
    """
    good = [s for s in found if s.settles and len(s.breaks) < len(s.settles)]
    good.sort(key=lambda s: -s.proposal.likely)
    pairs = [
        (one.proposal.likely * other.proposal.likely, n, m)
        for n, one in enumerate(good[:_MOST_BESIDE])
        for m, other in enumerate(good[:_MOST_BESIDE])
        if n < m
        and set(odd) <= {*one.settles, *other.settles}
        and not _touches(one.proposal.edits[0], other.proposal.edits[0])
    ]
    for _, n, m in sorted(pairs, key=lambda pair: -pair[0])[:_MOST_PAIRS]:
        yield Proposal((good[n].proposal.edits[0], good[m].proposal.edits[0]))


def both_nearer(found: Sequence[Screening]) -> Iterator[Proposal]:
    """Two edits of which each brings the odd cases nearer to what is expected: where both faults
    show in every case, neither settles any by itself."""
    good = [s for s in found if s.nearer > 0 and not s.breaks]
    good.sort(key=lambda s: (-s.nearer, -s.proposal.likely))
    chosen = list(_by_line(good, _PER_LINE))[:_MOST_NEARER]
    for n, one in enumerate(chosen):
        for other in chosen[:n]:
            if not _touches(other.proposal.edits[0], one.proposal.edits[0]):
                yield Proposal((other.proposal.edits[0], one.proposal.edits[0]))


def _by_line(found: Iterable[Screening], most: int) -> Iterator[Screening]:
    """These, and of one line not more than so many."""
    lines: dict[tuple[str, int], int] = {}
    for one in found:
        place = one.proposal.edits[0].file, one.proposal.edits[0].line
        if lines.get(place, 0) < most:
            lines[place] = lines.get(place, 0) + 1
            yield one


def second_halves(some: Sequence[Screening], every: Iterable[Proposal]) -> Iterator[Proposal]:
    """Each edit of another place of the program together with each half mend.

    Half mends change from one to the next, so that few edits have to be put together for many
    trials.
    """
    firsts = [half.proposal.edits[0] for half in some]
    for one in every:
        for first in firsts:
            if not _touches(first, one.edits[0]):
                yield Proposal((first, one.edits[0]))


def placed_before(first: TrialEdit, second: TrialEdit) -> TrialEdit | None:
    """An edit of the program as the first one leaves it, with its place in the program as it was.

    None where it lies in what the first one wrote: it would be a mend of the mend.
    """
    if first.file != second.file or second.stop < first.start:
        return second
    if second.start <= first.start + len(first.new):
        return None
    by = len(first.old) - len(first.new)
    lines = first.old.count("\n") - first.new.count("\n")
    line = second.line + lines
    return msgspec.structs.replace(
        second,
        start=second.start + by,
        stop=second.stop + by,
        line=line,
        where=second.where.replace(f"line {second.line}", f"line {line}"),
    )


def _touches(first: TrialEdit, second: TrialEdit) -> bool:
    """Whether the edits lie in one place: one would be a mend of the other."""
    if first.file != second.file:
        return False
    return second.start <= first.stop and first.start <= second.stop
