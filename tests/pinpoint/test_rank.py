"""Ranking: what settles most and breaks least comes first, then the likelier, then the smaller."""

from __future__ import annotations

import pytest

from oddsum.model.lead import Note, TrialEdit
from oddsum.model.outcome import CaseResult, Outcome, Run
from oddsum.pinpoint.coverage import Coverage
from oddsum.pinpoint.evidence import Gathered
from oddsum.pinpoint.proposal import Confirmed, Proposal
from oddsum.pinpoint.rank import leads, score
from oddsum.pinpoint.words import verdict
from oddsum.source.program import Source

SOURCE = Source("x.py", "a = 1\nb = 2\nc = 3\nd = 4\n")


def edit(line: int, likely: float = 0.5, size: int = 1, new: str = "9") -> TrialEdit:
    start = SOURCE.line_starts[line - 1] + 4
    return TrialEdit("constant", "x.py", line, "", start, start + 1, str(line), new, f"line {line}",
                "what", "how", likely, size)  # fmt: skip


def confirmed(line: int, settles, breaks=(), **more) -> Confirmed:
    one = edit(line, **more)
    whole = len(settles) == 2 and not breaks
    return Confirmed(Proposal((one,)), tuple(settles), tuple(breaks), whole)


def result(number: int, outcome: Outcome) -> CaseResult:
    return CaseResult(
        number=number, name=str(number), kind="normal", outcome=outcome, checked=(),
        expected=None, actual="", difference=None, run=Run(ending="ended"),
    )  # fmt: skip


RESULTS = [result(1, Outcome.DIFFERS), result(2, Outcome.ENDLESS), result(3, Outcome.AGREES)]
COVERAGE = Coverage({n: frozenset({("x.py", 1), ("x.py", n)}) for n in (1, 2, 3)})
EVEN = Coverage({n: frozenset(("x.py", line) for line in (1, 2, 3, 4)) for n in (1, 2, 3)})


def gathered(coverage: Coverage = EVEN, **more: object) -> Gathered:
    return Gathered(sources={"x.py": SOURCE}, results=tuple(RESULTS), coverage=coverage, **more)


ORDER = [
    ((confirmed(1, [1, 2]), confirmed(2, [1])), [1, 2]),
    ((confirmed(1, [1, 2], [3]), confirmed(2, [1, 2])), [2, 1]),
    ((confirmed(1, [1, 2], likely=0.2), confirmed(2, [1, 2], likely=0.9)), [2, 1]),
    ((confirmed(1, [1, 2], size=5), confirmed(2, [1, 2], size=1)), [2, 1]),
    ((confirmed(3, [1, 2]), confirmed(2, [1, 2])), [2, 3]),
]


@pytest.mark.parametrize(("found", "lines"), ORDER)
def test_the_order_of_leads(found, lines):
    made = leads(found, gathered())
    assert [lead.lines[0] for lead in made][:2] == lines
    assert [lead.rank for lead in made][:2] == [1, 2]


def test_where_no_mend_settles_everything_what_settles_other_cases_comes_next():
    found = [
        confirmed(1, [1], likely=0.9), confirmed(2, [1], likely=0.8), confirmed(3, [2], likely=0.1),
    ]  # fmt: skip
    made = leads(found, gathered())
    # Line 4 was named by no mend: a line to look at; line 2 says nothing that line 1 does not.
    assert [(x.lines, x.mend is not None) for x in made] == [
        ((1,), True), ((3,), True), ((4,), False), ((2,), True),
    ]  # fmt: skip
    assert [x.rank for x in made] == [1, 2, 3, 4]


def test_a_change_in_one_place_comes_before_one_in_two_that_is_likelier():
    pair = Proposal((edit(2, likely=0.9), edit(3, likely=0.9)))
    made = leads([Confirmed(pair, (1, 2), (), True), confirmed(4, [1, 2], likely=0.1)], gathered())
    assert [x.lines for x in made] == [(4,), (2,), (3,)]
    assert [x.beside for x in made] == [(), (3,), (2,)]


def test_scores_are_between_0_and_1_and_whole_mends_stand_above_all_others():
    whole = [score(confirmed(1, [1, 2], likely=p), gathered()) for p in (0.0, 0.5, 1.0)]
    part = [score(confirmed(1, [1], likely=p), gathered()) for p in (0.0, 0.5, 1.0)]
    harm = score(confirmed(1, [1, 2], [3, 4], likely=1.0), gathered())
    assert all(0 <= s <= 1 for s in (*whole, *part, harm))
    assert min(whole) > max(part) > harm


def test_equal_explanations_stand_on_one_lead():
    other = confirmed(1, [1, 2], new="8", likely=0.1)
    made = leads([confirmed(1, [1, 2]), other, confirmed(1, [1], new="7")], gathered())
    assert len(made) == 1
    assert made[0].equals == ("`1` → `8`",)
    assert "settled as well by: `1` → `8`" in made[0].how


def told(lead, side: str) -> list[str]:
    return [e.text for e in lead.evidence if e.side == side]


def test_the_account_tells_both_sides():
    whole, part = leads([confirmed(1, [1, 2]), confirmed(2, [1], [3])], gathered(COVERAGE))
    assert told(whole, "for") == [
        "a change here settles both odd cases", "and breaks none", "runs in both odd cases",
    ]  # fmt: skip
    assert told(whole, "against") == ["runs in 1 case that agrees, too"]
    assert told(part, "for") == [
        "a change here settles 1 of 2 odd cases", "runs in 1 of 2 odd cases",
        "does not run in 1 case that agrees",
    ]  # fmt: skip
    assert told(part, "against") == ["and breaks 1 case", "1 case stays odd"]


def test_only_so_many_leads_are_made():
    many = [confirmed(n, [1, 2]) for n in (1, 2, 3, 4)] * 3
    assert len(leads(many, gathered())) == 4


def test_what_else_speaks_for_a_line_decides_between_equal_mends():
    pair = [confirmed(2, [1, 2]), confirmed(3, [1, 2])]
    place = ("x.py", 3)
    note = Note("x.py", 3, "twice", "Is that meant?", ("constant",))
    for more in (
        {"notes": (note,)},
        {"lineage": {1: frozenset({place})}},
        {"claims": (("a == 1 after line 1", frozenset({place})),)},
        {"coverage": Coverage({1: frozenset({("x.py", 2), place}), 2: frozenset({place})})},
    ):
        assert leads(pair, gathered())[0].lines == (2,)
        assert leads(pair, gathered(**more))[0].lines == (3,), more


def test_the_ochiai_coefficient_as_published():
    # two odd cases, three that agree: runs in both odd and in one that agrees: 2 / sqrt(2 * 3)
    ran = Coverage(
        {n: frozenset({("x.py", 1)} if n in (1, 2, 3) else {("x.py", 2)}) for n in range(1, 6)}
    )
    assert ran.suspicion(("x.py", 1), (1, 2), (3, 4, 5)) == pytest.approx(2 / 6**0.5)
    assert ran.suspicion(("x.py", 2), (1, 2), (3, 4, 5)) == 0


@pytest.mark.parametrize(("number", "word"), [(0.95, "strong"), (0.5, "fair"), (0.1, "weak")])
def test_verdicts(number, word):
    assert verdict(number) == word


def test_what_needs_a_change_elsewhere_does_not_fit_as_well():
    pair = Confirmed(Proposal((edit(1, new="8"), edit(3))), (1, 2), (), True)
    alone, beside = leads([confirmed(1, [1, 2]), pair], gathered())
    assert (alone.lines, alone.equals, beside.lines) == ((1,), (), (3,))
