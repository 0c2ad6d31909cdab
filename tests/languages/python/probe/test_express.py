"""Expressions are found from values: each gives what is wanted, wherever it is needed."""

from __future__ import annotations

import pytest

from oddsum.languages.python.probe.express import expressions
from oddsum.languages.python.probe.sites import Place
from oddsum.languages.python.probe.solving import Moment
from oddsum.languages.python.probe.would import Hints, candidates, more, numbers_in_rounds, times


def place(text: str) -> Place:
    return Place("ferry.py", 0, len(text), 1, False, text)


def found(text: str, program: str, *moments: tuple[dict, object]) -> list[str]:
    some = [Moment(names, wanted, True) for names, wanted in moments]
    return [e for e, _ in expressions(place(text), program, some, 2.0)]


class Item:
    def __init__(self, price, stock):
        self.price, self.stock = price, stock


WANTED = [
    ("a + b", "", "a * b", [({"a": 3, "b": 7}, 21), ({"a": 2, "b": 5}, 10)]),
    ("a", "", "len(xs) - a", [({"a": 3, "xs": [7, 9, 1, 8, 8]}, 2), ({"a": 1, "xs": [7, 4]}, 1)]),
    ("xs[0]", "", "xs[i]", [({"xs": [4, 9, 2], "i": 1}, 9), ({"xs": [4, 9, 2], "i": 2}, 2)]),
    ("total", "rest = total - paid", "total - paid", [({"total": 9, "paid": 2}, 7)]),
    ("age < 10", "child = age < 10", "age <= 10", [({"age": 10}, True), ({"age": 9}, True), ({"age": 11}, False)]),
    ("name", "", "name.strip()", [({"name": " Ard "}, "Ard"), ({"name": "Holm "}, "Holm")]),
    (
        "sum(i.price for i in items)", "x.stock = 1", "sum(i.price * i.stock for i in items)",
        [({"items": [Item(2, 3), Item(4, 1)]}, 10), ({"items": [Item(5, 2)]}, 10)],
    ),
    ("free", "", "max(free, comes)", [({"free": 0, "comes": 7}, 7), ({"free": 9, "comes": 2}, 9)]),
    ("gap", "day = 24 * 60", "gap % (24 * 60)", [({"gap": -1395}, 45), ({"gap": -1425}, 15)]),
]  # fmt: skip


@pytest.mark.parametrize(("here", "program", "wanted", "moments"), WANTED)
def test_the_one_that_is_meant_is_among_them(here, program, wanted, moments):
    texts = found(here, program, *moments)
    assert wanted in texts or any(wanted == t.replace("(10 * 1)", "10") for t in texts), texts


@pytest.mark.parametrize("other", [str(10**400), "1e999", "-" + "9" * 320, "0"])
def test_numbers_past_all_bounds_are_no_hints_and_no_end(other):
    for hints in (Hints(f"{other} 7", "3 1", True), Hints("3 1", f"{other} 7", True)):
        assert hints.amounts
        for change in (
            *numbers_in_rounds(3, hints),
            times(1e300),
            more(0.5),
            *map(times, hints.factors),
        ):
            for value in (10**400, 1e308, 3, -1):
                assert type(change(value)) in (int, float)


def test_a_value_that_is_due_in_some_rounds_is_one_of_two():
    """Where nothing gives all of them, a condition that parts the rounds does."""
    some = [Moment({"mark": m, "n": n}, 1 if m == "." else 3, m == ".")
            for n, m in enumerate(".-..-")]  # fmt: skip
    told = expressions(place("3"), 'if mark == ".": pass', some, 2.0, known=["mark == '.'"])
    assert told[0][0] == "1 if mark == '.' else 3"
    for text, _ in told:
        assert all(eval(text, dict(m.names)) == m.wanted for m in some if m.needed)


@pytest.mark.parametrize(("here", "program", "wanted", "moments"), WANTED)
def test_each_gives_what_is_wanted_everywhere(here, program, wanted, moments):
    for text in found(here, program, *moments):
        for names, value in moments:
            assert eval(text, dict(names)) == pytest.approx(value)
        assert text != here


def test_values_are_solved_for_from_what_differs():
    hints = Hints("To pay: 36", "To pay: 27", False)
    assert 18 in candidates(9, hints, [], False)  # as much more as the result is off
    assert 12 in candidates(9, hints, [], False)  # a third more, as the result
    assert 36 in candidates(27, hints, [], False)
    assert candidates(True, hints, [], True) == [False]
    hints = Hints("['Ard', 'Bo']", "['Ard']", True)
    assert ["Ard", "Bo"] in candidates(["Ard"], hints, [], False)
    assert "Bo" in candidates("Ard", hints, [], False)
    parts = Hints("[('XLIV', 3), 'IX']", "[('LXIV', 3), 'IX']", True)
    assert candidates("LX", parts, [], False)[0] == "XL"  # what it would be in its place
    assert candidates("", parts, [], False)
    lines = Hints("Total: 12 kg\nEnd\n", "Total: 12 g\nEnd\n", False)
    assert candidates(" g", lines, [], False)[0] == " kg"
