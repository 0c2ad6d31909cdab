"""Would a mend have been found had one of the odd cases not been there?

A mend that merely fits the cases is seldom the best without one of them: another edit, elsewhere,
fits the rest as well or better. Each odd case is held out in turn, and what the trials showed is
ranked anew on those that are left.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence

from oddsum.pinpoint.proposal import Proposal, Screening


def held(
    proposal: Proposal,
    found: Sequence[Screening],
    odd: Sequence[int],
    weight: Callable[[Proposal], float],
) -> tuple[int, ...]:
    """The odd cases without which an edit elsewhere would have come first; empty is best.

    With a single odd case nothing can be held out, and the answer is empty.
    """
    if len(odd) < 2:
        return ()
    mine, own = weight(proposal), _lines(proposal)
    return tuple(
        left_out
        for left_out in odd
        if any(
            left_out not in other.settles
            and set(odd) - {left_out} <= set(other.settles)
            and not other.breaks
            and not own & _lines(other.proposal)
            and weight(other.proposal) > mine
            for other in found
        )
    )


def _lines(proposal: Proposal) -> set[tuple[str, int]]:
    return {(edit.file, edit.line) for edit in proposal.edits}
