"""Moments, holds, claims, forecasts, two runs, watches, series: asked of real recordings."""

from __future__ import annotations

import threading

import pytest

from asked import told
from oddsum.languages.python import PYTHON
from oddsum.languages.python.asking import Question, QuestionError
from oddsum.languages.python.loops import loops
from oddsum.model.claim import Claim
from oddsum.plan.claims import moved, read_claims, write_claims
from oddsum.source.program import Source
from oddsum.trace.breakpoints import breakpoint_from, hits
from oddsum.trace.claims import first_broken
from oddsum.trace.diff import first_difference, lines_between, parting
from oddsum.trace.filter import FilterError, Shown, lines_from
from oddsum.trace.forecast import cells, judged
from oddsum.trace.search import Asking, first_true, steps_with
from oddsum.trace.series import SeriesError, bars, series

COUNT = """def step(n):
    twice = n * 2
    return twice
total = 0
for i in range(6):
    total = total + step(i)
print(total)
"""


@pytest.fixture
def count(tmp_path):
    return told(tmp_path, COUNT)


def line_and_value(story, number):
    return story.step(number).line, story.values_at(number)["total"].text


def test_the_first_moment_at_which_something_becomes_true(count):
    story, _ = count
    found = first_true(story, Question("total > 10"), 0)
    assert line_and_value(story, found) == (6, "12")
    inside = first_true(story, Question("twice == 6"), 0)
    assert (story.step(inside).line, story.step(inside).function) == (2, "step")
    assert first_true(story, Question("total > 99"), 0) is None
    assert first_true(story, Question("total > 10"), found) is None  # it has to become untrue first


def test_a_value_is_found_wherever_it_turns_up(count):
    story, _ = count
    found = [steps_with(story, "6", 0)]
    found.append(steps_with(story, "6", found[0]))
    assert [story.step(n).line for n in found] == [6, 2]  # total became 6, then twice
    assert story.step(steps_with(story, "30", story.last - 1)).output == "30\n"
    assert steps_with(story, "'6'", 0) is None


def test_a_search_that_is_stopped_finds_nothing(tmp_path):
    story, _ = told(tmp_path, "n = 0\nwhile n < 30000:\n    n = n + 1\n")
    stop = threading.Event()
    seen: list[int] = []

    def on_progress(step: int) -> None:
        seen.append(step)
        stop.set()

    assert first_true(story, Question("n == 29999"), 0, stop=stop, on_progress=on_progress) is None
    assert len(seen) == 1
    assert first_true(story, Question("n == 29999"), 0) == 59_999


HOLDS = [("", 6), ("i == 3", 1), ("round 4", 1), ("total > 5 and i > 1", 3), ("nothing > 3", 0)]


@pytest.mark.parametrize(("typed", "times"), HOLDS)
def test_a_hold_stops_under_its_condition(count, typed, times):
    story, source = count
    found = hits(story, breakpoint_from("ferry.py", 6, typed), loops(source))
    assert len(found) == times
    if typed == "round 4":
        assert story.values_at(found[0])["i"].text == "3"


def test_a_hold_that_is_no_condition_is_refused():
    for typed in ("i = 3", "round 0", "print(i)"):
        with pytest.raises(QuestionError):
            breakpoint_from("ferry.py", 6, typed)


CLAIMS = [
    (Claim(holds="total < 10", file="ferry.py", line=6), ("total is 12", False)),
    (Claim(holds="total >= 0", file="ferry.py", line=6), None),
    (Claim(holds="result < 8", function="step"), ("result is 8", False)),
    (Claim(holds="result == n * 2", function="step"), None),
    (Claim(holds="nowhere == 1", file="ferry.py", line=6), ("nowhere has no value here.", True)),
]


@pytest.mark.parametrize(("claim", "broken"), CLAIMS)
def test_a_claim_is_broken_at_the_first_step_where_it_does_not_hold(count, claim, broken):
    story, _ = count
    found = first_broken(story, [claim])
    assert (found and (found.why, found.unasked)) == broken


def test_claims_are_kept_beside_the_program_and_follow_their_line(tmp_path):
    program = tmp_path / "ferry.py"
    kept = (Claim(holds="total == 24", line=2, text="total = 24"), Claim(holds="x", function="f"))
    write_claims(program, kept)
    assert read_claims(program) == kept
    assert moved(kept[0], Source("ferry.py", "# new\n\ntotal = 24\n")).line == 3
    assert moved(kept[0], Source("ferry.py", "total = 25\n")) is None
    write_claims(program, ())
    assert list(tmp_path.iterdir()) == [] and read_claims(program) == ()


BAD = ["claim = 3", "[[claim]]\nline = 3\n", '[[claim]]\nholds = "x"\n',
       '[[claim]]\nholds = "x"\nline = 0\n', '[[claim]]\nholds = "x"\nline = 1\nwhat = 2\n', "[["]  # fmt: skip


@pytest.mark.parametrize("text", BAD)
def test_a_file_of_claims_that_cannot_be_meant_is_told(tmp_path, text):
    from oddsum.model.errors import PlanError

    program = tmp_path / "ferry.py"
    program.with_suffix(".claims.toml").write_text(text)
    with pytest.raises((PlanError, TypeError)) as told_so:
        read_claims(program)
    assert isinstance(told_so.value, PlanError)


GUESSES = [("6", True, ""), ("'6'", False, "a text"), ("6.0", False, "the type is not"),
           ("7", False, "total is 6 here, not 7"), ("six", False, "no value")]  # fmt: skip


@pytest.mark.parametrize(("typed", "right", "words"), GUESSES)
def test_a_forecast_is_held_against_what_happened(count, typed, right, words):
    story, _ = count
    at = first_true(story, Question("total == 2"), 0)
    cell = next(c for c in cells(story, at) if c.name == "total")
    verdict = judged(cell, typed, PYTHON.asking)
    assert verdict.right is right and words in verdict.words


def test_two_runs_part_where_a_condition_came_out_differently(tmp_path):
    text = "n = int(input())\nif n > 3:\n    m = 1\nelse:\n    m = 2\nprint(m)\n"
    (tmp_path / "b").mkdir()
    left, _ = told(tmp_path, text, "2\n")
    right, _ = told(tmp_path / "b", text, "5\n")
    found = parting(left, right)
    assert (found.left, found.right, found.same) == (3, 3, 2)
    assert "line 5, the right to line 3" in found.words
    assert "the condition on line 2 was False and True" in found.words
    assert first_difference(left, right, found).startswith("n differs first, on line 1: 2 on")
    assert "never part" in parting(left, left).words


def test_a_run_before_and_after_a_change_is_aligned_by_its_lines(tmp_path):
    (tmp_path / "b").mkdir()
    left, before = told(tmp_path, "n = 1\nprint(n)\n")
    right, after = told(tmp_path / "b", "# a comment\nn = 2\nprint(n)\n")
    found = parting(left, right, lines_between(before, after))
    assert found.left is None and found.left_values == 1


def test_a_watched_expression_is_a_column(tmp_path):
    story, _ = told(tmp_path, COUNT, watches=("total * 10", "twice", "xs[0]"))
    assert [n for n in story.columns if n.startswith("[")] == ["[total * 10]", "[twice]", "[xs[0]]"]
    pairs = [(story.values_at(n).get("total"), story.values_at(n).get("[total * 10]"))
             for n in range(5, story.last + 1) if not story.step(n).function]  # fmt: skip
    assert pairs and all(int(a.text) * 10 == int(b.text) for a, b in pairs)
    assert story.values_at(1)["[xs[0]]"].text == "(xs has no value yet)"
    with pytest.raises(QuestionError):
        told(tmp_path, COUNT, watches=("step(3)",))


def test_a_watch_runs_no_code_of_the_program(tmp_path):
    text = ("class Boat:\n    def __init__(self): self.n = 3\n    def __add__(self, o):\n"
            "        print('added')\n        return 1\nboat = Boat()\nx = 1\n")  # fmt: skip
    story, _ = told(tmp_path, text, watches=("boat + 1", "boat.n"))
    last = story.values_at(story.last)
    assert last["[boat.n]"].text == "3" and "own code" in last["[boat + 1]"].text
    assert story.output_until(story.last) == ""


def test_series_are_numbers_over_steps_rounds_and_items(count, tmp_path):
    story, source = count
    from oddsum.trace.loops import passes

    assert series(story, "total").values == (0, 2, 6, 12, 20, 30)
    loop = passes(story, loops(source)[0])[0]
    assert series(story, "total", loop).where == (2, 3, 4, 5, 6)
    with pytest.raises(SeriesError, match="No variable is called tide"):
        series(story, "tide")
    listed, _ = told(tmp_path, "xs = [3, 1]\nxs.append(9)\n")
    assert bars(listed, "xs", listed.last).values == (3, 1, 9)
    with pytest.raises(SeriesError, match="no list of numbers"):
        bars(story, "total", story.last)


def test_a_part_of_a_trace_is_chosen(count):
    story, _ = count
    assert lines_from("8, 10-12") == ((8, 8), (10, 12))
    for text in ("x", "3-", "-3", ""):
        with pytest.raises(FilterError):
            lines_from(text)
    shown = Shown("step", ((2, 2),), ("total",))
    assert {(s.line, s.function) for s in filter(shown.keeps, story.steps)} == {(2, "step")}
    assert shown.names(story.columns) == ("total",)
    with pytest.raises(FilterError, match="tide"):
        Shown(variables=("tide",)).names(story.columns)


def test_objects_as_keys_can_be_asked_about(tmp_path):
    text = (
        "class Boat:\n    def __init__(self, n):\n        self.n = n\n"
        "    def __eq__(self, other):\n        return self.n == other.n\n"
        "    def __hash__(self):\n        return hash(self.n)\n"
        "d = {Boat(1): 'a', (1, Boat(2)): 'b'}\ns = {Boat(3)}\nx = 1\n"
    )
    story, _ = told(tmp_path, text)
    for question, answer in (("len(d) == 2", True), ("len(s)", 1), ("'a' in list(d)", False)):
        assert Asking(story, story.question(question)).answer(story.last) == answer
