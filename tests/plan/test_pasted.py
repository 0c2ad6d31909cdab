"""A whole run, as it stood on a terminal, taken apart; and cases that stand in a plan already."""

from __future__ import annotations

from pathlib import Path

import pytest

from oddsum.languages.outline import HOLE
from oddsum.languages.python.outline import prompts
from oddsum.model.case import Case, Plan
from oddsum.plan.imported import Imported, numbered
from oddsum.plan.pasted import taken_apart
from oddsum.plan.taking_in import taking
from oddsum.source.program import Source

RUNS = [  # what the program asks with, the run, what was typed, what was printed
    (("How many? ", "Age? "), "How many? 2\nAge? 34\nAge? 9\nTotal: 9\n", "2\n34\n9\n", "Total: 9\n"),
    ((f"Age of {HOLE}? ",), "Age of guest 1? 34\nAge of guest 2? 9\n9\n", "34\n9\n", "9\n"),
    (("Age", "Age of the boat? "), "Age of the boat? 3\nAge 4\nok", "3\n4\n", "ok\n"),
    (("How many? ",), "\n\nHow many?2\r\nTotal: 9\r\n\n", "2\n", "Total: 9\n"),
    ((), "2\n34\n", "", "2\n34\n"),
    (("", " ", HOLE), "a\nb", "", "a\nb\n"),
    (("Name? ",), "Name?\nhello\n", "", "hello\n"),
]  # fmt: skip


@pytest.mark.parametrize(("asked", "run", "typed", "printed"), RUNS)
def test_a_run_is_taken_apart_by_what_the_program_asks_with(asked, run, typed, printed):
    assert taken_apart(run, asked) == (typed, printed)


def test_what_a_program_asks_with_is_read_off_its_text():
    text = (
        'a = input("How many? ")\nb = int(input(f"Age of {a}? "))\nc = input("Boats: " + str(b))\n'
        'd = input()\ne = input(a)\nf = input("First\\nsecond ")\ng = input("How many? ")\n'
    )
    assert prompts(Source("x.py", text)) == (
        "How many? ", f"Age of {HOLE}? ", f"Boats: {HOLE}", "second ",
    )  # fmt: skip
    assert prompts(Source("x.py", "input('a'")) == ()


def test_nothing_is_taken_in_twice():
    one, two = Case(number=1, name="a", stdin="1\n"), Case(number=2, name="b", stdin="2\n")
    again = Case(number=1, name="another name", stdin="1\n")
    plan = Plan(program=Path("x.py"), cases=(one,))
    told = taking(Imported(numbered([again, two, two]), ("left",)), plan)
    assert [c.stdin for c in told.new] == ["2\n"] and len(told.known) == 2
    assert told.left_out == ("left",)
    assert told.words == "1 case to add, 2 cases stand in the plan already."
    assert taking(Imported(numbered([two])), None).words == "1 case to add."
