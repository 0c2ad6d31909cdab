"""Steps as the contract defines them: the same on every interpreter, and nothing is disturbed.

tests/data/steps holds programs, each with its trace table as it should be (read and approved by
eye). A new case is a program and its table.
"""

from __future__ import annotations

import csv
import io
from pathlib import Path

import pytest

from conftest import DATA, OWN, other_interpreters
from oddsum.formats import trace_csv
from oddsum.languages.language import Interpreter
from oddsum.languages.python.interpreter import find_interpreter
from oddsum.model.case import Case, Plan
from oddsum.model.outcome import Run
from oddsum.model.trace import Trace
from oddsum.run.begin import fresh
from oddsum.run.case import run_case
from oddsum.run.scratch import Scratch, bundle
from oddsum.trace.record import record

PROGRAMS = sorted((DATA / "steps").glob("*.py"))


def recorded(path: Path, interpreter: Interpreter = OWN, stdin: str = "") -> tuple[Run, Trace, Run]:
    """The plain run of a program, its trace, and the run as recorded."""
    case = Case(number=1, name="one", stdin=stdin)
    plan = Plan(program=path, cases=(case,))
    with Scratch(bundle(plan)) as scratch:
        plain = run_case(plan, case, scratch, fresh(interpreter))
        trace, run = record(plan, case, scratch, fresh(interpreter), plain)
    return plain, trace, run


def same(plain: Run, run: Run) -> bool:
    fields = ("ending", "output", "exit_status", "error", "unread", "starved")
    return all(getattr(plain, f) == getattr(run, f) for f in fields)


@pytest.mark.parametrize("path", PROGRAMS, ids=lambda p: p.stem)
def test_the_trace_table_is_as_approved(path):
    _, trace, _ = recorded(path)
    assert trace_csv.write(trace) == path.with_suffix(".csv").read_text(encoding="utf-8")


@pytest.mark.parametrize("path", PROGRAMS, ids=lambda p: p.stem)
def test_recording_changes_nothing_the_program_can_notice(path):
    plain, _, run = recorded(path)
    assert same(plain, run)


def rows(trace: Trace) -> list[list[str]]:
    return list(csv.reader(io.StringIO(trace_csv.write(trace))))


@pytest.mark.parametrize("python", other_interpreters())
@pytest.mark.parametrize(
    "path", [p for p in PROGRAMS if p.stem != "mutation"], ids=lambda p: p.stem
)
def test_steps_are_the_same_on_every_interpreter(path, python):
    # mutation.py shuffles: what comes out of `random` is the interpreter's own affair.
    plain, trace, run = recorded(path, find_interpreter(path, python))
    assert same(plain, run)
    assert rows(trace) == list(csv.reader(path.with_suffix(".csv").open(encoding="utf-8")))


MATCH = """
def berth(ship):
    match ship:
        case {"length": length, **rest} if length > 40:
            return "outer", rest
        case [first, *others]:
            return first, others
        case _:
            return None
print(berth({"length": 50, "name": "Kea"}), berth([1, 2]), berth(3))
"""
TROUBLE = """
class Proud:
    def __init__(self):
        self.parts = [self]
    def __repr__(self):
        print("repr was called")
        raise RuntimeError
    def __eq__(self, other):
        print("eq was called")
        return True
    def __getattr__(self, name):
        print("getattr was called")
        raise AttributeError
    __hash__ = None
p = Proud()
q = [p, 10 ** 5000, float("nan"), {1: {2: {3: {4: 5}}}}, "x" * 50_000]
q.append(q)
for i in range(3):
    q.append(i)
del p
"""
READS = """
import sys
first = input("First? ")
rest = sys.stdin.read()
print(first, len(rest), flush=True)
sys.stdout.write("no line end")
raise SystemExit("over")
"""


@pytest.mark.parametrize("source", [MATCH, TROUBLE, READS], ids=["match", "trouble", "reads"])
def test_awkward_programs_are_recorded_unharmed(program, source):
    plain, trace, run = recorded(program(source), stdin="a\nb\nc\n")
    assert same(plain, run)
    assert trace.complete and len(trace.steps) > 5


def test_values_are_told_from_their_look_alikes(program):
    _, trace, _ = recorded(program("a = '12'\nb = 12\nc = (1,)\nd = None\ne = 1.0\nf = True\n"))
    shown = [(c.after.type, c.after.text) for s in trace.steps for c in s.changes]
    assert shown == [("str", "'12'"), ("int", "12"), ("tuple", "(1,)"), ("NoneType", "None"),
                     ("float", "1.0"), ("bool", "True")]  # fmt: skip


def test_modules_of_the_learner_are_followed_library_code_is_not(program, tmp_path):
    (tmp_path / "tide.py").write_text("LEVEL = 3\ndef high(x):\n    return x + LEVEL\n")
    path = program("import json\nfrom tide import high, LEVEL\nprint(json.dumps(high(4)))\n")
    _, trace, _ = recorded(path)
    assert [(s.statement.file, s.line, s.events) for s in trace.steps] == [
        ("ferry.py", 1, ()),
        ("ferry.py", 2, ()),
        ("tide.py", 1, ()),
        ("tide.py", 2, ()),
        ("ferry.py", 2, ("back",)),
        ("ferry.py", 3, ()),
        ("tide.py", 2, ("call",)),
        ("tide.py", 3, ("return",)),
        ("ferry.py", 3, ("back",)),
    ]
    assert trace.steps[4].changes[0].name == "LEVEL"


def test_a_program_without_end_is_recorded_up_to_a_limit(program):
    path = program("n = 0\nwhile True:\n    n = n + 1\n")
    case = Case(number=1, name="one", stdin="")
    plan = Plan(program=path, cases=(case,))
    with Scratch(bundle(plan)) as scratch:
        plain = Run(ending="time")
        trace, _ = record(plan, case, scratch, fresh(OWN), plain)
    assert not trace.complete
    assert 10_000 < len(trace.steps) < 60_000
    assert "the program went on" in trace.left_out


def test_numbers_that_are_certain_are_found_only_where_they_are(program):
    source = """
import math
def f(n):
    total = 0
    for i in range(n):
        total = total + i
    name = total
    name = [name]
    return name
len = lambda x: [x]
size = len(3)
size = 4
x = 2 ** 0.5
y = 1
y += x
def g():
    global y
    y = {"a": 1}
g()
y["a"] = 2
print(f(3), size, y)
"""
    plain, trace, run = recorded(program(source))
    assert same(plain, run)
    last = {c.name: c.after.text for s in trace.steps for c in s.changes if c.after}
    assert (last["f.name"], last["size"], last["y"]) == ("[3]", "4", "{'a': 2}")
