"""Lines to look at where no edit helps: what ran, what wrong values are made of, what loops missed."""

from __future__ import annotations

import pytest

from asked import told
from oddsum.model.case import Case
from oddsum.model.claim import Claim
from oddsum.model.lead import Note
from oddsum.model.outcome import CaseResult, Outcome, Run
from oddsum.pinpoint.coverage import Coverage
from oddsum.pinpoint.evidence import Gathered, gather
from oddsum.pinpoint.suspects import MOST, suspects, weights
from oddsum.source.program import Source

TEXT = """import math
ages = [2, 34, 16]
seats = 0
total = 0
for i in range(len(ages) - 1):
    total = total + ages[i]
    seats = seats + 1
if total > 30:
    total = total * 2
print(total)
"""
NAME = "ferry.py"


def result(number: int, outcome: Outcome, expected: str = "", actual: str = "") -> CaseResult:
    return CaseResult(
        number=number, name=str(number), kind="normal", outcome=outcome, checked=("stdout",),
        expected=expected, actual=actual, difference=None, run=Run(ending="ended", output=actual),
    )  # fmt: skip


def ran(*lines: int) -> frozenset[tuple[str, int]]:
    return frozenset((NAME, line) for line in lines)


RESULTS = (result(1, Outcome.DIFFERS), result(2, Outcome.AGREES))
COVERAGE = Coverage({1: ran(1, 2, 3, 4, 5, 6, 7, 8, 9, 10), 2: ran(1, 2, 3, 4, 5, 8, 10)})


def gathered(**more: object) -> Gathered:
    given = {"coverage": COVERAGE, "results": RESULTS, **more}
    return Gathered(sources={NAME: Source(NAME, TEXT)}, **given)


def order(known: Gathered) -> list[int]:
    by_weight = sorted(weights(known), key=lambda w: (-w.weight, w.line))
    return [w.line for w in by_weight]


def test_what_ran_in_odd_cases_alone_comes_first_and_definitions_not_at_all():
    assert order(gathered())[:3] == [6, 7, 9]
    assert 1 not in order(gathered())  # an import is no suspect


EVIDENCE = [  # what is known besides; the line that comes first with it
    ({"lineage": {1: frozenset(ran(7))}}, 7),
    ({"notes": (Note(line=9, rule="r", text="Twice?", file=NAME),)}, 9),
    ({"loops": {(NAME, 7): (1, "It never reached the last item.")}}, 7),
    ({"claims": (("total is 52", ran(9)),)}, 9),
]


@pytest.mark.parametrize(("more", "line"), EVIDENCE)
def test_each_kind_of_evidence_moves_its_line_to_the_front(more, line):
    weak = Coverage({1: ran(2, 5, 6, 7, 9), 2: ran(2, 5, 6, 7, 9)})  # nothing stands out by itself
    assert order(gathered(coverage=weak))[0] == 2
    assert order(gathered(coverage=weak, **more))[0] == line


def test_lines_that_a_lead_names_are_passed_over():
    made = suspects(gathered(), frozenset(ran(6)), frozenset())
    assert [lead.lines for lead in made][:2] == [(7,), (9,)]
    assert len(made) == MOST
    assert all(lead.mend is None and 0 < lead.score <= 0.3 for lead in made)


def test_a_suspect_says_what_speaks_for_it_and_that_no_change_was_found():
    note = Note(line=9, rule="r", text="Is it to be doubled?", file=NAME)
    (lead, *_) = suspects(gathered(notes=(note,)), frozenset(ran(6, 7)), frozenset())
    assert lead.where == "Look at line 9." and "Is it to be doubled?" in lead.what
    sides = {(e.kind, e.side) for e in lead.evidence}
    assert (
        ("trial", "against") in sides and ("coverage", "for") in sides and ("note", "for") in sides
    )


def test_the_lines_of_the_cases_that_a_mend_leaves_come_first_and_of_them_the_richer():
    """Cases 1 and 3 are odd; a mend of line 6 settles case 1."""
    coverage = Coverage({1: ran(2, 6, 7), 2: ran(2, 6), 3: ran(2, 9, 10)})
    odd = (result(1, Outcome.DIFFERS), result(2, Outcome.AGREES), result(3, Outcome.DIFFERS))
    ways = {(NAME, 10): 8, (NAME, 9): 2}
    known = gathered(coverage=coverage, results=odd, ways=ways)
    made = suspects(known, frozenset(ran(6)), frozenset({1}))
    assert [lead.lines for lead in made][:2] == [(10,), (9,)]
    texts = [e.text for e in made[0].evidence]
    assert texts[0] == (
        "runs in the only case that the changes above leave odd, and in 0 of 1 that they settle"
    )
    # A mend that settles every odd case leaves none to go by: all of them count then.
    every = suspects(known, frozenset(ran(6)), frozenset({1, 3}))
    assert not any("changes above" in e.text for lead in every for e in lead.evidence)


def test_where_nothing_ran_in_an_odd_case_nobody_is_suspected():
    empty = gathered(coverage=Coverage({2: ran(2, 5, 6)}))
    assert suspects(empty, frozenset(), frozenset()) == () and weights(empty) == ()


# -- what is dug up from a recording ---------------------------------------------------------------


@pytest.fixture
def dug(tmp_path):
    """Gathered of a program that leaves out the last age, with a claim that does not hold."""
    story, source = told(tmp_path, TEXT)
    claims = (Claim(holds="seats == 0", file=NAME, line=7, text="    seats = seats + 1"),)
    case = Case(number=1, name="1", stdin="", stdout="104\n")
    found = (result(1, Outcome.DIFFERS, "104\n", "72\n"), RESULTS[1])
    return gather({NAME: source}, found, COVERAGE, (), {1: (case, story)}, claims)


def test_a_wrong_output_goes_back_to_the_lines_that_made_it_and_no_other(dug):
    assert {line for _, line in dug.lineage[1]} >= {2, 4, 6, 9, 10}
    assert dug.in_lineage(NAME, 6) == 1.0
    assert dug.in_lineage(NAME, 7) == 0.0  # seats are counted, and printed nowhere


def test_what_a_loop_never_used_stands_at_its_header(dug):
    assert dug.loops == {(NAME, 5): (1, "ages has 3 items; ages[2] is never used.")}


def test_a_broken_claim_points_behind_itself(dug):
    ((words, places),) = dug.claims
    assert "seats == 0" in words and "line 7" in words
    assert (NAME, 7) in places and (NAME, 6) not in places
