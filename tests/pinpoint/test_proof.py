"""What a lead says of the program's own values: the first case and step that show it."""

from __future__ import annotations

import pytest

from asked import told
from oddsum.model.case import Case
from oddsum.model.lead import TrialEdit
from oddsum.pinpoint.proof import prove, running_at

FERRY = """def fare(age):
    if age <= 16:
        return 3
    return 6
total = 0
for age in [2, 34, 16]:
    total = total + fare(age)
print(total)
if total > 100:
    print("full")
"""


def edit(line: int, asks: str = "", would: str = "") -> TrialEdit:
    return TrialEdit("comparison", "ferry.py", line, "fare", 0, 1, "<=", "<", "where", "what", "how", 0.5,
                1, asks=asks, would=would)  # fmt: skip


@pytest.fixture
def stories(tmp_path):
    story, source = told(tmp_path, FERRY)
    return source, {4: (Case(number=4, name="four", stdin=""), story)}


PROOFS = [  # a line, what it asks, what it would ask; the sentence, its line's visit, what then
    (2, "age <= 16", "age < 16", "In case 4, line 2, the 3rd time, has `age <= 16` where age is 16: "
     "that gives True.", 3, "There it would give False."),
    (7, "total + fare(age)", "", "In case 4, line 7 runs 3 times.", 1, ""),
    (8, "total", "total + 1", "In case 4, line 8 has `total`, which is 12.", 1,
     "There it would give 13."),
    (2, "age <= 16", "age <= 20", "In case 4, line 2 runs 3 times.", 1, ""),  # never another answer
    (2, "age <= 16", "age <=", "In case 4, line 2 runs 3 times.", 1, ""),  # no expression
    (2, "nobody <= 16", "nobody < 16", "In case 4, line 2 runs 3 times.", 1, ""),
]  # fmt: skip


@pytest.mark.parametrize(("line", "asks", "would", "text", "visit", "then"), PROOFS)
def test_a_slip_is_shown_at_the_first_step_at_which_it_matters(
    stories, line, asks, would, text, visit, then
):
    source, known = stories
    found = prove(edit(line, asks, would), source, known)
    story = known[4][1]
    assert found.text.startswith(text)
    assert (found.case, found.then) == (4, then)
    assert found.step == story.visits({("ferry.py", line)})[visit - 1]


def test_where_a_line_runs_its_names_are_told_as_they_were_just_before(stories):
    source, known = stories
    found = running_at(source, 7, known)
    assert found.text == (
        "In case 4, line 7 runs 3 times. The first time, total is 0 and age is 2 just before it."
    )


def test_a_line_that_never_ran_has_nothing_to_show(stories):
    source, known = stories
    assert prove(edit(10, "total", "total + 1"), source, known).case is None
    assert running_at(source, 10, known).text == ""


def test_a_later_case_shows_what_an_earlier_one_does_not(tmp_path):
    (tmp_path / "one").mkdir()
    (tmp_path / "two").mkdir()
    first, source = told(tmp_path / "one", "age = int(input())\nprint(age <= 16)\n", "15\n")
    second, _ = told(tmp_path / "two", "age = int(input())\nprint(age <= 16)\n", "16\n")
    cases = {n: (Case(number=n, name=str(n), stdin=""), s) for n, s in ((1, first), (2, second))}
    found = prove(edit(2, "age <= 16", "age < 16"), source, cases)
    assert (found.case, found.then) == (2, "There it would give False.")


def test_objects_that_only_their_class_could_compare_are_told_by_content(tmp_path):
    text = (
        "class Boat:\n    def __init__(self, n):\n        self.n = n\n"
        "    def __eq__(self, other):\n        return self.n == other.n\n"
        "one, two, three = Boat(1), Boat(2), Boat(1)\nbest = one\n"
    )
    story, source = told(tmp_path, text)
    stories = {1: (Case(number=1, name="a", stdin=""), story)}
    other = prove(edit(7, "one", "two"), source, stories)
    assert "which is Boat(n=1)" in other.text and "Boat(n=2)" in other.then
    assert prove(edit(7, "one", "three"), source, stories).text.startswith(
        "In case 1, just before line 7 runs"
    )
