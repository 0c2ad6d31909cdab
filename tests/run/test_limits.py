"""Endless programs of every shape are ended, and the loop that goes round is named."""

from __future__ import annotations

import threading
import time

import pytest

from conftest import OWN, check_one
from oddsum.check.plan import check, check_all
from oddsum.check.traced import Cancelled, trace_case
from oddsum.compare.told import more_told, rounds_told
from oddsum.model.case import Case, Plan, Settings
from oddsum.model.errors import StartError

ENDLESS = [
    # the program, the line of the loop that never ends
    ("n = 0\nwhile n < 5:\n    n - 1\n", 2),
    ("while True: pass\n", 1),
    ("for i in range(3):\n    j = 0\n    while j < 3:\n        k = i\n", 3),
    (
        "def f():\n    while True:\n        g()\ndef g():\n    for i in range(50): pass\nf()\n",
        2,
    ),
    ("def f(n):\n    return n * 2\nwhile True:\n    x = f(1)\n", 3),
    ("xs = [1]\nfor x in xs:\n    xs.append(x)\n", 2),
    ("import itertools\nfor i in itertools.count():\n    y = i\n", 2),
    (
        "while True:\n    try:\n        x = 1 / 0\n    except Exception:\n        continue\n",
        1,
    ),
    ("n = 10\nwhile n != 0:\n    n = n - 3\n    if n > 100:\n        break\n", 2),
    ("def wait():\n    for i in iter(int, 1):\n        pass\nwait()\n", 2),
    ("import time\nwhile True:\n    time.sleep(0.001)\n", 2),
]


@pytest.mark.parametrize(("source", "line"), ENDLESS)
def test_the_loop_that_goes_round_is_named(program, source, line):
    result = check_one(program(source), stdin="", timeout=0.25, memory=4000.0)
    assert result.outcome.value == "endless"
    assert result.run.error.line == line
    assert f"in the loop on line {line}" in result.difference.summary


def test_printing_without_end_is_cut_off_and_told_apart(program):
    result = check_one(program("while True:\n    print('x' * 100)\n"), stdin="", output=0.05)
    assert (result.outcome.value, result.run.ending) == ("endless", "output")
    assert 50_000 <= len(result.run.output) <= 60_000
    assert result.run.error.line == 1


def plan_of(path, *sources: str, **settings: object) -> Plan:
    cases = tuple(
        Case(number=n, name=f"c{n}", stdin=text, settings=Settings(**settings))
        for n, text in enumerate(sources, 1)
    )
    return Plan(program=path, cases=cases)


def test_results_come_as_cases_end_and_are_put_in_order(program):
    path = program("import time\ntime.sleep(float(input()))\n")
    plan = plan_of(path, "1.5\n", "0\n", "0\n")
    assert [r.number for r in check_all(plan, OWN)] == [1, 2, 3]
    assert next(iter(check(plan, OWN))).number in (2, 3)


def test_disabled_cases_are_kept_and_not_run(program):
    path = program("print(1)")
    cases = (Case(number=1, name="a", stdin="", disabled=True), Case(number=2, name="b", stdin=""))
    assert [r.number for r in check_all(Plan(program=path, cases=cases), OWN)] == [2]
    assert check_all(Plan(program=path), OWN) == ()


def test_a_check_that_is_stopped_ends_at_once(program):
    path = program("import time\nwhile True:\n    time.sleep(0.01)\n")
    stop = threading.Event()
    threading.Timer(0.5, stop.set).start()
    started = time.monotonic()
    assert check_all(plan_of(path, "", "", "", timeout=30.0), OWN, stop=stop) == ()
    assert time.monotonic() - started < 3


def test_a_recording_that_is_stopped_says_so(program):
    path = program("import time\nwhile True:\n    time.sleep(0.01)\n")
    plan = plan_of(path, "", timeout=30.0)
    stop = threading.Event()
    threading.Timer(0.5, stop.set).start()
    with pytest.raises(Cancelled):
        trace_case(plan, plan.cases[0], OWN, stop=stop)


def test_one_program_that_cannot_start_stops_the_whole_check(program):
    path = program("def f(:\n    pass\n")
    with pytest.raises(StartError, match="line 1"):
        check_all(plan_of(path, "", "", ""), OWN)


def test_cases_do_not_see_each_other(program):
    path = program("import os\nprint(os.path.exists('mark'), input())\nopen('mark', 'w').close()\n")
    results = check_all(plan_of(path, "a\n", "b\n", "c\n", "d\n"), OWN)
    assert [r.run.output for r in results] == [f"False {x}\n" for x in "abcd"]


def test_the_environment_is_the_learner_s_with_what_would_differ_fixed(program, monkeypatch):
    monkeypatch.setenv("DECK", "upper")
    monkeypatch.setenv("PYTHONSTARTUP", "/no/such/file")
    source = """
import os, sys
print(os.environ["DECK"], os.environ.get("PYTHONSTARTUP"), sys.path[0] == os.getcwd())
print(__name__, sys.flags.utf8_mode)
"""
    result = check_one(program(source), stdin="")
    assert result.run.output == "upper None True\n__main__ 1\n"


def test_a_program_finds_itself_as_if_it_were_started_plainly(program):
    source = """
import sys, __main__, inspect
def f(): pass
print(__main__.f is f, sys.argv[0], __file__.endswith("ferry.py"), __doc__, __spec__ is None)
print(inspect.getsource(f).strip(), __builtins__ is __import__("builtins"))
import pickle, copy
class Car: pass
print(type(copy.deepcopy(Car())) is Car, pickle.loads(pickle.dumps(Car())).__class__ is Car)
"""
    lines = check_one(program(source), stdin="").run.output.splitlines()
    assert lines[0] == "True ferry.py True None True"
    assert lines[1] == "def f(): pass True"
    assert lines[2] == "True True"


NOT_IN_A_LOOP = [
    ("import time\nfor i in range(3):\n    x = i\ntime.sleep(60)\n",
     "most of them waiting, while it was on line 4"),
    ("import time\ndef wait():\n    time.sleep(60)\nwait()\n",
     "most of them waiting, while it was on line 3"),
    ("def f(n):\n    return 1 if n < 2 else f(n - 1) + f(n - 2)\nfor i in [1]:\n    f(60)\n",
     "where f calls itself, on line 2"),
]  # fmt: skip


@pytest.mark.parametrize(("source", "words"), NOT_IN_A_LOOP)
def test_what_goes_round_in_no_loop_is_told_as_it_is(program, source, words):
    result = check_one(program(source), stdin="", timeout=0.25)
    said, _, where = result.difference.summary.partition(" s, ")
    assert where == words
    # By the clock where it waited, else what it may take.
    assert (float(said.removeprefix("no end in ")) > 0.25) == ("waiting" in words)


def test_endless_printing_names_its_loop(program):
    source = "def show():\n    print('tide' * 9)\n\nwhile True:\n    show()\n"
    result = check_one(program(source), stdin="", output=0.05)
    assert result.difference.summary.endswith("was cut off, in the loop on line 4")


GROWING = [
    "xs = [1]\nfor x in xs:\n    xs.append(x)\n",
    "d = {0: 0}\nn = 0\nwhile len(d) > 0:\n    n += 1\n    d[n] = n\n",
    "text = 'abc' * 99\nwhile len(text) > 2:\n    text += 'x'\n",
]


@pytest.mark.parametrize("source", GROWING)
def test_what_grows_is_not_said_to_stay(program, source):
    result = check_one(program(source), stdin="", timeout=0.25, memory=4000.0)
    assert not result.run.error.loop.unchanged and not more_told(result)
    assert len(set(rounds_told(result))) > 1
