"""The audit of loops: rounds, endings, and what was never reached, in words."""

from __future__ import annotations

import pytest

from asked import told
from oddsum.languages.python.loops import loops
from oddsum.trace.loops import passes, rounds_table
from oddsum.trace.loops import told as words

LEVELS = "levels = [3, 4, 2, 6, 7]\nx = 0\n"
AUDITS = [
    ("for i in range(len(levels) - 1):\n    x += levels[i]\n", 4, "ran out",
     "levels has 5 items; levels[4] is never used."),
    ("for i in range(1, 5):\n    x += levels[i] - levels[i - 1]\n", 4, "ran out", ""),
    ("for i in range(0, 5, 2):\n    x += levels[i]\n", 3, "ran out",
     "levels[1], levels[3] are never used."),
    ("for level in levels:\n    if level == 2:\n        break\n", 3, "break",
     "levels[3] to levels[4] are never reached."),
    ("for i in range(len(levels) - 5):\n    x += levels[i]\n", 0, "ran out",
     "levels[0] to levels[4] are never used."),
    ("i = 0\nwhile i < 3:\n    x += levels[i]\n    i += 1\n", 3, "condition",
     "levels[3] to levels[4] are never used."),
    ("try:\n    for i in range(9):\n        x += levels[i]\nexcept IndexError:\n    pass\n", 6,
     "exception", ""),
    ("def find():\n    for n, level in enumerate(levels):\n        if level > 5:\n"
     "            return n\nfind()\n", 4, "return", "levels[4] is never reached."),
    ("for name in 'ab':\n    for level in levels:\n        if level == 4: break\n", 2, "break",
     "levels[2] to levels[4] are never reached."),
]  # fmt: skip


@pytest.mark.parametrize(("loop", "rounds", "ending", "sentence"), AUDITS)
def test_a_loop_is_told_with_what_it_missed(tmp_path, loop, rounds, ending, sentence):
    story, source = told(tmp_path, LEVELS + loop)
    last = passes(story, loops(source)[-1])[-1]
    said = words(story, last)
    assert (last.rounds, last.ending) == (rounds, ending)
    assert sentence in " ".join(said)
    if not sentence:
        assert not any("never" in line for line in said)


def test_each_time_a_loop_is_entered_is_told_apart(tmp_path):
    story, source = told(
        tmp_path, "for a in range(3):\n    n = 0\n    while n < a:\n        n += 1\n"
    )
    outer, inner = loops(source)
    assert [p.rounds for p in passes(story, outer)] == [3]
    assert [p.rounds for p in passes(story, inner)] == [0, 1, 2]


def test_recursion_keeps_the_loops_of_its_calls_apart(tmp_path):
    source = "def climb(n):\n    for i in range(n):\n        climb(i)\n    return n\nclimb(3)\n"
    story, source_read = told(tmp_path, source)
    found = passes(story, loops(source_read)[0])
    assert sorted(p.rounds for p in found) == [0, 0, 0, 0, 1, 1, 2, 3]


def test_what_changed_in_each_round_is_a_row(tmp_path):
    story, source = told(tmp_path, "s = 0\nfor i in range(3):\n    s += i\n    if i: t = s\n")
    one = passes(story, loops(source)[0])[0]
    assert rounds_table(story, one) == (
        ["i", "s", "t"], [["0", "", ""], ["1", "1", "1"], ["2", "3", "3"]],
    )  # fmt: skip


def test_of_an_endless_loop_what_never_changes_is_named(tmp_path):
    path = "tide, rain, hours = 0, 1, 0\nwhile tide < 9 and rain:\n    hours = hours + 1\n"
    from conftest import OWN
    from oddsum.check.traced import trace_case
    from oddsum.model.case import Case, Plan, Settings
    from oddsum.source.program import read_source
    from oddsum.trace.ask import Story

    program = tmp_path / "tide.py"
    program.write_text(path)
    case = Case(number=1, name="one", stdin="", settings=Settings(timeout=0.2))
    trace, _ = trace_case(Plan(program=program, cases=(case,)), case, OWN)
    one = passes(Story(trace), loops(read_source(program, "tide.py"))[0])[0]
    assert one.ending == "cut"
    assert "In its condition, tide and rain never change." in words(Story(trace), one)
