"""How near a wrong result is: what counts is in its place, a wrong line by its words."""

from __future__ import annotations

import pytest

from oddsum.model.case import Case
from oddsum.model.outcome import Returned, Run
from oddsum.pinpoint.nearness import nearness

EXPECTED = "Cabin 1 Ada 2\nTakings: 36\n"


@pytest.mark.parametrize(
    ("output", "near"),
    [
        (EXPECTED, 1.0),
        ("Cabin 1 Ada 2\nTakings: 40\n", (1 + 0.25) / 2),
        ("Cabin 0 Ada 2\nTakings: 40\n", (0.5 * 3 / 4 + 0.25) / 2),
        ("Takings: 36\n", 0.0),  # at another place
        ("Cabin 1 Ada 2\nTakings: 36\nRefused: 0\n", 2 / 3),
        ("Takings:  36\n\n\n", 0.0),
        ("", 0.0),
    ],
)
def test_printed_lines_count_by_their_words(output, near):
    case = Case(number=1, name="", stdin="", stdout=EXPECTED)
    assert nearness(case, Run(ending="ended", output=output)) == pytest.approx(near)


def test_a_wrong_line_never_counts_as_much_as_half_a_right_one():
    case = Case(number=1, name="", stdin="", stdout=" ".join(["word"] * 99) + " end")
    run = Run(ending="ended", output=" ".join(["word"] * 99) + " odd")
    assert 0.45 < nearness(case, run) < 0.5


def test_what_did_not_end_is_not_near_at_all():
    case = Case(number=1, name="", stdin="", stdout=EXPECTED)
    assert nearness(case, Run(ending="raised", output=EXPECTED)) == 0


@pytest.mark.parametrize(
    ("expected", "actual", "near"),
    [
        ("[1, 2, 3]", "[1, 0, 3]", 2 / 3),
        ("[1, 2, 3]", "[1, 2]", 2 / 3),
        ("{'a': 1, 'b': 2}", "{'a': 1, 'c': 2}", 1 / 3),
        ("'quay'", "'quai'", 3 / 4),
        ("7", "8", 0.0),
        ("7", "<Ferry object>", 0.0),
    ],
)
def test_values_count_by_their_items(expected, actual, near):
    case = Case(number=1, name="", call="f()", returns=expected)
    returned = Returned(actual=actual, expected=expected)
    assert nearness(case, Run(ending="ended", returned=returned)) == pytest.approx(near)
