"""Trials run many to a process: what one of them changes is put back before the next."""

from __future__ import annotations

from pathlib import Path

import msgspec
import pytest

from conftest import DATA, OWN, as_it_is, trial
from oddsum.compare.judge import judge
from oddsum.model.case import DEFAULTS, Case, Plan
from oddsum.run.begin import fresh
from oddsum.run.case import run_case
from oddsum.run.scratch import Scratch, bundle
from oddsum.run.trials import Allowance, TrialBench, allowance

ALLOWED = Allowance(rounds=200_000, seconds=2.0, output=100_000)

SPOILER = """
import builtins, math, os, random, string, sys
import tide
print(math.pi, len(os.environ), random.random(), sys.getrecursionlimit(), tide.LEVELS,
      string.digits, os.listdir(), open("log.txt").read(), abs(-1), sys.argv, len(sys.path))
math.pi = 3
os.environ["DECK"] = "lower"
random.seed(77)
sys.setrecursionlimit(500)
tide.LEVELS.append(5)
string.digits = ""
open("log.txt", "a").write("more")
open("new.txt", "w").close()
builtins.abs = lambda x: 77
sys.argv.append("x")
sys.path.append("x")
os.chdir("/")
sys.stdout.flush()
sys.stdin = None
"""


@pytest.fixture
def bench(program, tmp_path):
    (tmp_path / "tide.py").write_text("LEVELS = [1, 2]\n")
    (tmp_path / "log.txt").write_text("begin")

    def make(source: str, **case: object) -> tuple[TrialBench, Case, Plan]:
        path = program(source)
        one = Case(number=1, name="one", **({"stdin": ""} | case))
        plan = Plan(program=path, cases=(one,))
        return TrialBench(plan, bundle(plan), OWN, as_it_is), one, plan

    return make


def test_cases_with_input_and_with_a_call_need_other_parts_of_one_program(program):
    source = "def fare(age):\n    return 6\n\nage = int(input())\nprint(fare(age))\n"
    path = program(source)
    cases = (
        Case(number=1, name="typed", stdin="3\n", stdout="5\n"),
        Case(number=2, name="called", call="fare(3)", returns="5"),
    )
    plan = Plan(program=path, cases=cases)
    edits = {"ferry.py": source.replace("return 6", "return 5")}
    with TrialBench(plan, bundle(plan), OWN, as_it_is) as trials:
        for _ in range(2):
            for case in (*cases, *reversed(cases)):
                did = trial(trials, case, edits, ALLOWED)
                assert judge(case, DEFAULTS, did).outcome.value == "agrees"


def test_state_is_put_back_between_trials(bench):
    trials, case, plan = bench(SPOILER)
    with trials:
        outputs = {trial(trials, case, {}, ALLOWED).output for _ in range(4)}
        outputs.add(trial(trials, case, {"ferry.py": SPOILER + "\n"}, ALLOWED).output)
    with Scratch(bundle(plan)) as scratch:
        plain = run_case(plan, case, scratch, fresh(OWN))
    assert plain.ending == "ended"
    # A trial's environment and path may differ from a run's of its own; from each other never.
    assert len(outputs) == 1
    assert outputs.pop().split(" ")[0] == plain.output.split(" ")[0] == "3.141592653589793"


STEPS = sorted((DATA / "steps").glob("*.py"))


@pytest.mark.parametrize("path", STEPS, ids=lambda p: p.stem)
def test_a_trial_without_an_edit_does_what_a_run_of_its_own_does(path):
    case = Case(number=1, name="one", stdin="")
    plan = Plan(program=path, cases=(case,))
    with Scratch(bundle(plan)) as scratch, TrialBench(plan, bundle(plan), OWN, as_it_is) as trials:
        plain = run_case(plan, case, scratch, fresh(OWN))
        for _ in range(2):
            run = trial(trials, case, {}, ALLOWED)
            assert (run.output, run.ending) == (plain.output, plain.ending)
            assert judge(case, DEFAULTS, run).outcome == judge(case, DEFAULTS, plain).outcome


HANGING = [
    ("while True: pass", "time"),
    ("while True:\n    try: pass\n    except: pass\n", "time"),
    (
        "def f():\n    while True:\n        try: f2()\n        except BaseException: pass\nf()",
        "time",
    ),
    ("x = sum(range(10**12))", "time"),
    ("while True: print('tide')", "output"),
    ("import os; os.kill(os.getpid(), 9)", "raised"),
    ("import os; os._exit(0)", "crashed"),
    ("import subprocess; subprocess.run(['true'])", "raised"),
    ("open('/tmp/oddsum-outside', 'w')", "raised"),
    ("import os; os.remove('/tmp/oddsum-outside')", "raised"),
    ("1 +", "crashed"),
]


@pytest.mark.parametrize(("source", "ending"), HANGING)
def test_a_trial_that_misbehaves_is_ended_and_the_next_one_runs(bench, source, ending):
    trials, case, _ = bench("print(5)\n")
    with trials:
        quick = Allowance(rounds=20_000, seconds=0.3, output=10_000)
        assert trial(trials, case, {"ferry.py": source}, quick).ending == ending
        assert trial(trials, case, {}, ALLOWED).output == "5\n"


@pytest.mark.skipif(not Path("/proc/self/statm").exists(), reason="tells a process's size")
def test_a_trial_may_grow_by_so_much_and_the_process_goes_on(bench):
    """A text put behind itself in a loop fills all memory, and takes a second to do so."""
    trials, case, _ = bench("print(5)\n")
    large = 'text = "x"\nfor _ in range(27):\n    text += text\nprint(len(text))\n'
    little = msgspec.structs.replace(ALLOWED, memory=32 << 20)
    with trials:
        assert trial(trials, case, {"ferry.py": large}, ALLOWED).output == f"{1 << 27}\n"
        assert trials.grew > 1 << 26
        assert trial(trials, case, {"ferry.py": large}, little).error.type == "MemoryError"
        assert trial(trials, case, {"ferry.py": large}, ALLOWED).output == f"{1 << 27}\n"
        assert trials.grew > 1 << 26  # though the process had been as large before
        more = allowance(0.0, 0, 2.0, 1.0, trials.grew)
    assert more.memory is not None and more.memory > 2 * trials.grew


def test_edits_of_one_statement_do_what_the_whole_edited_file_does(bench):
    source = "a = 1\ndef f():\n    return a\nb = f()\nfor i in range(3):\n    b += i\nprint(a, b)\n"
    trials, case, _ = bench(source)
    edits = [("a = 1", "a = 2", "2 5"), ("return a", "return a + 5", "1 9"),
             ("range(3)", "range(4)", "1 7"), ("print(a, b)", "print(b)", "4")]  # fmt: skip
    with trials:
        for old, new, printed in edits:
            run = trial(trials, case, {"ferry.py": source.replace(old, new)}, ALLOWED)
            assert run.output == printed + "\n"


def test_trials_of_a_call_give_its_value(bench):
    trials, case, _ = bench(
        "n = int(input())\ndef f(x):\n    return x + 1\n", call="f(4)", returns="5"
    )
    with trials:
        good = trial(trials, case, {}, ALLOWED)
        bad = trial(
            trials, case, {"ferry.py": "n = int(input())\ndef f(x):\n    return x - 1\n"}, ALLOWED
        )
    assert (good.returned.equal, bad.returned.equal, bad.returned.actual) == (True, False, "3")
