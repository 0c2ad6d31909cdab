"""Which mends are worth a full check, and when what stands is enough."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass

from oddsum.languages.language import Language
from oddsum.pinpoint.confirming import MOST_ALIKE, MOST_MADE, MOST_PARTS, MOST_WHOLE
from oddsum.pinpoint.evidence import Gathered
from oddsum.pinpoint.proposal import Confirmed, Proposal, Screening
from oddsum.pinpoint.proposing import made_to_fit
from oddsum.pinpoint.rank import order


@dataclass(frozen=True)
class Worth:
    """What a search makes of the mends that it found; ``odd``: how many cases are odd."""

    language: Language
    odd: int

    def have_a_plain(self, confirmed: Sequence[Confirmed]) -> bool:
        """Whether a mend that settles everything changes what is there: none has to be made up."""
        return any(
            c.whole and not self.language.edits.invents(c.proposal.edits[0].kind) for c in confirmed
        )

    def have_a_known(self, confirmed: Sequence[Confirmed]) -> bool:
        """Whether a mend that settles everything begins with a change of a known kind."""
        return any(c.whole and not self._begins_made(c.proposal) for c in confirmed)

    def are_enough(self, confirmed: Sequence[Confirmed]) -> bool:
        """Whether a mend settles everything of which nothing was made to fit what is expected."""
        return any(
            c.whole and not any(made_to_fit(self.language, e) for e in c.proposal.edits)
            for c in confirmed
        )

    def wholes(self, found: Sequence[Screening], gathered: Gathered) -> Sequence[Screening]:
        """Of these the mends that settle everything and are worth a full check."""
        whole = [s for s in found if s.whole(self.odd)]
        ranked = _spread(_ranked(whole, gathered), MOST_ALIKE)
        made = [s for s in ranked if self._begins_made(s.proposal)][MOST_MADE:]
        return [s for s in ranked if s not in made][:MOST_WHOLE]

    def parts(self, found: Sequence[Screening], gathered: Gathered) -> Sequence[Screening]:
        """Of these the mends that settle something and no more: for where none is enough."""
        ranked = [  # what was made to fit has to fit everything
            s
            for s in _ranked(found, gathered)
            if len(s.settles) > len(s.breaks)
            and not s.whole(self.odd)
            and not self._begins_made(s.proposal)
        ]
        return [s for s in ranked if not s.breaks][:MOST_PARTS] or ranked[:MOST_PARTS]

    def _begins_made(self, proposal: Proposal) -> bool:
        return made_to_fit(self.language, proposal.edits[0])


def _ranked(found: Sequence[Screening], gathered: Gathered) -> list[Screening]:
    """Mends in the order in which they would be told."""
    return sorted(
        (s for s in found if s.settles),
        key=lambda s: order(Confirmed(s.proposal, s.settles, s.breaks, False), gathered),
    )


def _spread(ranked: list[Screening], most: int) -> list[Screening]:
    """The best of each line first, so that no line takes all the places; then ``most`` of each."""
    counts: Counter[tuple[tuple[str, int], ...]] = Counter()
    first: list[Screening] = []
    rest: list[Screening] = []
    for one in ranked:
        places = tuple((s.file, s.line) for s in one.proposal.edits)
        if counts[places] < most:
            (rest if places in counts else first).append(one)
        counts[places] += 1
    return first + rest
