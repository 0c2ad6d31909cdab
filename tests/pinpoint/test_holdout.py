"""Each odd case is held out in turn: would the mend have come first without it?"""

from __future__ import annotations

from test_rank import edit

from oddsum.pinpoint.holdout import held
from oddsum.pinpoint.proposal import Proposal, Screening


def screening(line: int, settles, breaks=()) -> Screening:
    return Screening(Proposal((edit(line),)), tuple(settles), tuple(breaks))


def test_a_mend_leans_on_the_cases_without_which_another_comes_first():
    mine = screening(1, [1, 2, 3])
    rivals = [mine, screening(2, [2, 3]), screening(3, [1, 3], [9]), screening(1, [1, 2])]
    weights = {1: 0.4, 2: 0.6, 3: 0.9}

    def weight(proposal: Proposal) -> float:
        return weights[proposal.edits[0].line]

    assert held(mine.proposal, rivals, (1, 2, 3), weight) == (1,)
    weights[2] = 0.3  # less likely: it would not have come first
    assert held(mine.proposal, rivals, (1, 2, 3), weight) == ()
    assert held(mine.proposal, rivals, (1,), weight) == ()
