"""From one run to the next: what was settled and broke, since when; and a page about it."""

from __future__ import annotations

import pytest

from oddsum.model.history import PastRun, Try
from oddsum.model.lead import Evidence, Lead
from oddsum.model.outcome import Outcome
from oddsum.record.changes import Step, between, names_of, odd_since
from oddsum.record.notebook import page_for
from oddsum.source.edits import edits_of
from oddsum.source.program import Source

A, D, S, O = Outcome.AGREES, Outcome.DIFFERS, Outcome.STOPPED, Outcome.OPEN  # noqa: E741


def runs(*marks: str) -> list[PastRun]:
    """Runs a minute apart; each is a mark a case, named a, b, c."""
    kinds = {"=": A, "≠": D, "!": S, "?": O}
    return [PastRun(at=n * 60.0, seconds=1,
                    outcomes={c: kinds[m] for c, m in zip("abc", row, strict=False) if m in kinds})
            for n, row in enumerate(marks)]  # fmt: skip


def test_a_step_between_runs_names_what_turned():
    before, after = runs("=≠", "≠=≠")
    assert between(before, after) == Step(("b",), ("a",), ("c",))
    assert between(None, after) == Step()
    assert between(*runs("?≠", "=!")) == Step()  # from open, or from odd to odd


def test_cases_stand_in_the_last_run_s_order_then_those_that_are_gone():
    assert names_of(runs("=≠=", "==")) == ("a", "b", "c")


@pytest.mark.parametrize(
    ("marks", "since"),
    [
        (("≠", "≠", "="), 0), (("=", "≠", "!", "="), 60), (("≠", "=", "≠", "="), 120),
        (("=", "="), None), ((), None), (("=", "≠"), 60),
    ],
)  # fmt: skip
def test_since_when_a_case_was_odd(marks, since):
    assert odd_since(runs(*marks), ["a"]) == since


SOURCE = Source("fares.py", "def fare(age):\n    if age <= 16:\n        return 3\n    return 6\n")
EDITS = edits_of(SOURCE, SOURCE.text.replace("<=", "<"))
LEAD = Lead(rank=1, lines=(2,), file="fares.py", function="fare", kind="comparison", where="",
            what="", how="", mend=None, score=0.9,
            evidence=(Evidence("trial", "against", "no"), Evidence("trial", "for", "settles both")))  # fmt: skip


def test_a_page_begins_with_what_is_known():
    tries = [Try(at=30.0, key="k", edits=()), Try(at=70.0, key="l", edits=())]
    page = page_for(EDITS, ["a"], SOURCE, leads=[(LEAD, 1)],
                    runs=runs("≠", "≠", "="), tries=tries, now=150.0)  # fmt: skip
    facts = dict(page.known)
    assert page.where == "fares.py, line 2, in fare" and "slightly other question" in page.what
    assert page.how == "line 2: if age <= 16: → if age < 16:"
    assert facts["lead"] == "A named the place; where and what was uncovered"
    assert facts["proof"] == "settles both" and facts["settled"] == "a"
    assert facts["took"] == "2 minutes from the first odd run to this change"
    assert facts["tries"] == "2, with the one that was kept" and page.own == ""


def test_without_a_lead_nothing_is_claimed_of_one():
    page = page_for(EDITS, ["a"], SOURCE, now=0.0)
    assert page.what == "" and dict(page.known) == {"settled": "a", "lead": "none named this place"}
