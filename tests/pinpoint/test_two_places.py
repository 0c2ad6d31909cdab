"""Pairs that there was no time for are gone on with later, whatever stage they are of."""

from __future__ import annotations

from types import SimpleNamespace

from oddsum.languages.registry import language_of
from oddsum.model.case import Case
from oddsum.model.lead import TrialEdit
from oddsum.pinpoint.proposal import Proposal, Screening
from oddsum.pinpoint.two_places import TwoPlaces

CASES = [Case(number=n, name=str(n)) for n in (1, 2, 3)]


def edit(line: int) -> TrialEdit:
    return TrialEdit(
        kind="constant", file="ferry.py", line=line, function="", start=10 * line,
        stop=10 * line + 1, old="1", new="2", where="", what="", how="", likely=0.4, size=1,
    )  # fmt: skip


def test_a_pair_of_no_half_mend_is_tried_on_every_odd_case():
    runner = SimpleNamespace(odd=CASES, agreeing=[])
    coverage = SimpleNamespace(suspicion=lambda *_: 1.0)
    every = [Proposal((edit(n),)) for n in range(1, 6)]
    language = language_of("ferry.py")
    places = TwoPlaces(runner, [], language, every, coverage, lambda: True)
    half = Screening(every[0], settles=(1,), breaks=())
    covering = Proposal((edit(8), edit(9)))
    beside = Proposal((edit(1), edit(4)))
    places.first.append(half)
    places.left_out.extend([covering, beside])
    ((pairs, ahead),) = places.rest()
    assert pairs == [covering, beside]
    assert ahead(covering) == CASES
    assert [c.number for c in ahead(beside)] == [2]  # the first that the half mend leaves
