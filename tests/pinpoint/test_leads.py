"""Pinpoint on the demo programs, and on correct programs with one edit put in."""

from __future__ import annotations

import threading

import pytest

from conftest import FERRY, OWN
from oddsum.check.plan import check_all
from oddsum.check.traced import Cancelled
from oddsum.languages.registry import language_of
from oddsum.model.case import Case, Plan
from oddsum.model.claim import Claim
from oddsum.pinpoint.search import pinpoint as search_for
from oddsum.pinpoint.words import nothing_found
from oddsum.plan.read import read_plan
from oddsum.source.program import read_source


def pinpoint(plan, interpreter, results=None, *, budget=300.0, **more):
    """The search, with more time than any machine needs: these tests are about what it finds."""
    return search_for(plan, interpreter, results, budget=budget, **more)


DEMOS = [("fares", 10, "comparison", "<"), ("lanes", 10, "bounds", "len(lengths)"),
         ("tides", 6, "parentheses", "(low + high) / 2")]  # fmt: skip


@pytest.mark.parametrize(("name", "line", "kind", "new"), DEMOS)
def test_the_fault_of_each_demo_is_the_first_lead(name, line, kind, new):
    path = FERRY / f"{name}.py"
    plan = read_plan(path.with_suffix(".cases.toml"), path)
    found = pinpoint(plan, OWN)
    first = found.leads[0]
    assert (first.lines, first.kind, first.rank) == ((line,), kind, 1)
    assert new in first.mend.edits[0].after[0]
    assert first.mend.settles == found.odd
    assert first.mend.breaks == ()
    assert found.trials > 15


PLAN = """
[[case]]
name = "three"
call = "f([4, 8, 6])"
returns = "{0}"
[[case]]
name = "none"
call = "f([])"
returns = "{1}"
[[case]]
name = "one"
call = "f([5])"
returns = "{2}"
"""
SLIPPED = [
    # a program with an edit, what f should give in the three cases, the line at fault
    ("def f(xs):\n    n = 0\n    for x in xs:\n        if x > 5:\n            n -= 1\n"
     "    return n\n", (2, 0, 0), 5),
    ("def f(xs):\n    n = 0\n    for x in xs:\n        if x >= 6:\n            n += x\n"
     "    return n\n", (8, 0, 0), 4),
    ("def f(xs):\n    return xs[1:]\n", ([4, 8, 6], [], [5]), 2),
    ("def f(xs):\n    t = 1\n    for x in xs:\n        t += x\n    return t\n", (18, 0, 5), 2),
    ("def f(xs):\n    a, b = 3, len(xs)\n    return a + b * 2\n", (12, 6, 8), 3),
    ("def f(xs):\n    return [x // 4 for x in xs]\n", ([1.0, 2.0, 1.5], [], [1.25]), 2),
    ("def f(xs):\n    i = 0\n    while i < len(xs) - 1:\n        i += 1\n    return i\n",
     (3, 0, 1), 3),
]  # fmt: skip


@pytest.mark.parametrize(("source", "expected", "line"), SLIPPED)
def test_a_slip_in_a_correct_program_is_found(program, source, expected, line):
    path = program(source, PLAN.format(*expected))
    found = pinpoint(read_plan(path.with_suffix(".cases.toml"), path), OWN)
    assert found.leads[0].lines == (line,), found
    assert found.leads[0].mend.breaks == ()


HOURS = {
    "ferry.py": "def due(hours):\n    if 900 <= hours:\n        return 'service'\n    return 'fine'\n",
    "ferry.js": "function due(hours) {\n  if (900 <= hours) {\n    return 'service';\n  }\n"
    "  return 'fine';\n}\n",
}


@pytest.mark.parametrize("name", HOURS)
def test_a_limit_is_looked_for_among_the_values_that_were_seen(tmp_path, name):
    """No number of the program or the plan's results is near it."""
    path, cases = tmp_path / name, ((749, "fine"), (750, "service"), (812, "service"), (20, "fine"))
    path.write_text(HOURS[name])
    plan = Plan(program=path, cases=tuple(Case(number=n, name=str(n), call=f"due({hours})", returns=repr(due))
                            for n, (hours, due) in enumerate(cases, 1)))  # fmt: skip
    by = language_of(path).running.find_interpreter(path, None if name.endswith("js") else OWN.path)
    lead = pinpoint(plan, by).leads[0]
    assert lead.kind == "constant" and lead.mend is not None
    assert "750 <= hours" in lead.mend.edits[0].after[0] and lead.mend.settles == (2, 3)


def test_where_all_cases_agree_there_is_no_lead(program):
    path = program("def f(xs):\n    return len(xs)\n", PLAN.format(3, 0, 1))
    found = pinpoint(read_plan(path.with_suffix(".cases.toml"), path), OWN)
    assert (found.leads, found.odd, found.trials) == ((), (), 0)
    assert "All 3 cases agree" in nothing_found(found)


def test_where_no_small_edit_helps_the_lines_to_look_at_are_named_without_a_mend(program):
    path = program("def f(xs):\n    return 'pier'\n", PLAN.format(3, 2, 7))
    found = pinpoint(read_plan(path.with_suffix(".cases.toml"), path), OWN)
    assert [(x.lines, x.kind, x.mend) for x in found.leads] == [((2,), "look here", None)]
    assert "no small change here" in found.leads[0].evidence[-1].text
    assert "No small change" in found.leads[0].how


TWO = """
def fare(age):
    if age <= 16:
        return 3
    return 6


def party(ages):
    total = 0
    for i in range(1, len(ages)):
        total += fare(ages[i])
    return total
"""
TWO_PLAN = """
[[case]]
name = "sixteen"
call = "fare(16)"
returns = "6"
[[case]]
name = "fifteen"
call = "fare(15)"
returns = "3"
[[case]]
name = "two"
call = "party([40, 9])"
returns = "9"
[[case]]
name = "both"
call = "party([16, 16, 3])"
returns = "15"
"""


def test_faults_in_two_places_are_two_leads_that_name_each_other(program):
    path = program(TWO, TWO_PLAN)
    found = pinpoint(read_plan(path.with_suffix(".cases.toml"), path), OWN)
    first, second, *_ = found.leads
    assert {first.lines, second.lines} == {(3,), (10,)}
    assert (first.beside, second.beside) == ((second.rank,), (first.rank,))
    assert first.mend == second.mend
    assert len(first.mend.edits) == 2
    assert first.mend.settles == found.odd == (1, 3, 4)
    assert "This alone is not enough" in first.how


def test_a_program_that_differs_from_run_to_run_is_told_with_the_line(program):
    source = "import time\n\n\ndef f(xs):\n    begun = time.time_ns()\n    return len(xs) + begun\n"
    path = program(source, PLAN.format(3, 0, 1))
    found = pinpoint(read_plan(path.with_suffix(".cases.toml"), path), OWN)
    assert "line 5: `time.time_ns()`" in found.remarks[0]


def test_a_broken_claim_and_a_loop_speak_in_the_account():
    path = FERRY / "lanes.py"
    claims = (Claim(holds="needed > 0", line=11), Claim(holds="i == len(lengths) - 9", line=11))
    found = pinpoint(read_plan(path.with_suffix(".cases.toml"), path), OWN, claims=claims)
    told = [(e.kind, e.text) for e in found.leads[0].evidence]
    assert any(kind == "claim" and "i == len(lengths) - 9" in text for kind, text in told)
    assert any(kind == "loop" and "never used" in text for kind, text in told)
    assert found.leads[0].case in found.odd
    assert {w.line for w in found.weights} >= {9, 10, 11}


DESTROYER = """
import os, shutil, subprocess, socket


def f(xs):
    for name in os.listdir("."):
        if name.endswith(".txt"):
            os.remove(name)
    open("log.txt", "w").write("gone")
    return len(xs) - 1
"""


def test_a_program_that_removes_files_never_touches_the_learners(program, tmp_path):
    path = program(DESTROYER, PLAN.format(3, 0, 1))
    (tmp_path / "keep.txt").write_text("mine")
    before = {p.name: p.read_bytes() for p in tmp_path.iterdir() if p.is_file()}
    found = pinpoint(read_plan(path.with_suffix(".cases.toml"), path), OWN)
    assert (10,) in [lead.lines for lead in found.leads]
    assert {p.name: p.read_bytes() for p in tmp_path.iterdir() if p.is_file()} == before


def test_a_slow_program_is_searched_within_the_budget(program):
    source = "def f(xs):\n    sum(range(12_000_000))\n    return len(xs) - 1 + 0 * 7 - 0\n"
    path = program(source, PLAN.format(3, 0, 1))
    found = pinpoint(read_plan(path.with_suffix(".cases.toml"), path), OWN, budget=1.0)
    assert not found.complete


def test_a_program_that_sleeps_is_searched_as_if_it_did_not(program):
    source = "import time\n\n\ndef f(xs):\n    time.sleep(1)\n    return len(xs) - 1\n"
    path = program(source, PLAN.format(3, 0, 1))
    found = pinpoint(read_plan(path.with_suffix(".cases.toml"), path), OWN)
    assert (found.complete, found.leads[0].lines) == (True, (6,))
    assert found.leads[0].mend is not None and found.leads[0].mend.settles == (1, 2, 3)


def test_a_program_that_stops_in_every_case_is_searched_all_the_same(program):
    source = "def f(xs):\n    first = xs[len(xs)]\n    return first\n"
    plan = "".join(
        f'[[case]]\nname = "{n}"\ncall = "f({xs})"\nreturns = "{xs[-1]}"\n'
        for n, xs in enumerate(([4, 8], [5], [1, 2, 3]))
    )
    path = program(source, plan)
    found = pinpoint(read_plan(path.with_suffix(".cases.toml"), path), OWN)
    assert found.agrees == ()
    assert found.leads[0].lines == (2,)
    assert any(n.rule == "past the end" for n in found.notes)


def test_a_mend_of_an_endless_program_is_found_and_hanging_trials_do_not_stop_it(program):
    source = (
        "def f(xs):\n    i = 0\n    n = 0\n    while i != len(xs) + 1:\n"
        "        n = n + xs[i] - xs[i]\n        i += 1\n        n += 1\n    return n\n"
    )
    path = program(source, "timeout = 0.5\n" + PLAN.format(3, 0, 1))
    found = pinpoint(read_plan(path.with_suffix(".cases.toml"), path), OWN)
    assert found.leads[0].lines == (4,)


def test_a_search_can_be_cancelled(program):
    path = FERRY / "fares.py"
    plan = read_plan(path.with_suffix(".cases.toml"), path)
    results = check_all(plan, OWN)
    stop = threading.Event()
    with pytest.raises(Cancelled):
        pinpoint(plan, OWN, results, stop=stop, on_progress=lambda *_: stop.set())


def test_a_search_that_is_stopped_while_it_looks_for_a_deciding_input_tells_no_leads():
    """They would be surer than they are once such an input is found."""
    path = FERRY / "fares.py"
    plan = read_plan(path.with_suffix(".cases.toml"), path)
    stop = threading.Event()

    def told(what: str, *_: int) -> None:
        if what == "looking for an input that decides":
            stop.set()

    with pytest.raises(Cancelled):
        pinpoint(plan, OWN, stop=stop, on_progress=told)
    assert stop.is_set()


def test_programs_are_read_in_their_own_encoding_and_line_ends(program):
    text = (
        "# -*- coding: latin-1 -*-\r\ndef f(xs):\r\n    '''k\xe4se'''\r\n    return len(xs) - 1\r\n"
    )
    path = program(text.encode("latin-1"), PLAN.format(3, 0, 1))
    found = pinpoint(read_plan(path.with_suffix(".cases.toml"), path), OWN)
    assert found.leads[0].lines == (4,)
    assert read_source(path).newline == "\r\n"
