"""Pairs that there was no time for are gone on with later, whatever stage they are of."""

from __future__ import annotations

from types import SimpleNamespace

from oddsum.languages.registry import language_of
from oddsum.model.case import Case
from oddsum.model.lead import TrialEdit
from oddsum.pinpoint.proposal import Proposal, Screening
from oddsum.pinpoint.two_places import TwoPlaces
from oddsum.source.program import Source

CASES = [Case(number=n, name=str(n)) for n in (1, 2, 3)]


def edit(line: int) -> TrialEdit:
    return TrialEdit(
        kind="constant", file="ferry.py", line=line, function="", start=10 * line - 6,
        stop=10 * line - 5, old="1", new="2", where="", what="", how="", likely=0.4, size=1,
    )  # fmt: skip


def places_of(every: list[Proposal]) -> TwoPlaces:
    runner = SimpleNamespace(odd=CASES, agreeing=[])
    coverage = SimpleNamespace(suspicion=lambda *_: 1.0)
    language = language_of("ferry.py")
    source = Source("ferry.py", "x = 12345\n" * (len(every) + 1))
    scene = language.edits.scene(source, {}, frozenset(), {})
    return TwoPlaces(runner, [scene], language, every, coverage, lambda: True)


def test_likely_pairs_come_in_parts_so_that_one_that_is_enough_ends_them():
    every = [Proposal((edit(n),)) for n in range(1, 1_101)]
    places = places_of(every)
    found = [Screening(every[0], settles=(1,), breaks=())]
    parts = [list(pairs) for pairs, _ in places.likely(found)]
    sizes = [len(part) for part in parts if part]
    assert sizes == [1_000, 99]  # beside itself it is not tried
    assert all(pair.edits[0] == edit(1) for part in parts for pair in part)


def test_where_nothing_settles_a_case_the_nearest_half_mends_are_gone_on_from():
    every = [Proposal((edit(n),)) for n in range(1, 10)]
    places = places_of(every)
    found = [
        Screening(one, settles=(), breaks=(), nearer=near)
        for one, near in zip(every, [0.1, 0.2, 2.5, 0.1, 0.9, 0.0, 0.4, 0.1, -1.0], strict=True)
    ]
    list(places.likely(found))
    assert [one.proposal.edits[0].line for one in places.first] == [3, 5, 7]


def test_values_are_looked_for_beside_each_half_mend_once(monkeypatch):
    looked: list[int] = []

    def right(trials, sources, go_on, left):
        looked.append(len(left))
        return []

    monkeypatch.setattr("oddsum.pinpoint.two_places.right_values", right)
    monkeypatch.setattr("oddsum.pinpoint.two_places.edits_for", lambda *_: iter(()))
    every = [Proposal((edit(n),)) for n in range(1, 6)]
    places = places_of(every)
    places.runner.value_trials = lambda: None
    found = [
        Screening(every[0], settles=(1, 2), breaks=()),
        Screening(every[3], settles=(1,), breaks=()),
    ]
    for _ in range(2):
        for pairs, _ in places.worked_out(found):
            assert list(pairs) == []
    assert looked == [1, 2]  # the cases that each of them leaves


def test_a_pair_of_no_half_mend_is_tried_on_every_odd_case():
    every = [Proposal((edit(n),)) for n in range(1, 6)]
    places = places_of(every)
    half = Screening(every[0], settles=(1,), breaks=())
    covering = Proposal((edit(8), edit(9)))
    beside = Proposal((edit(1), edit(4)))
    places.first.append(half)
    places.left_out.extend([covering, beside])
    ((pairs, ahead),) = places.rest()
    assert pairs == [covering, beside]
    assert ahead(covering) == CASES
    assert [c.number for c in ahead(beside)] == [2]  # the first that the half mend leaves
