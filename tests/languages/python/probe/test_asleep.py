"""A run of which only the outcome matters does not wait while its program sleeps, and sees the same."""

from __future__ import annotations

import pytest

from conftest import OWN, as_it_is, trial
from oddsum.check.plan import check_all
from oddsum.check.recorded import record_each
from oddsum.check.traced import trace_case
from oddsum.model.case import Case, Plan
from oddsum.run.scratch import bundle
from oddsum.run.trials import Allowance, TrialBench

ALLOWED = Allowance(rounds=20_000, seconds=0.5, output=10_000)

# Each sleeps for longer than a trial may take, and tells what it saw of it.
SLEEPERS = {
    "by the module": """
        import time
        begun = time.time(), time.monotonic_ns(), time.perf_counter()
        time.sleep(40)
        ended = time.time(), time.monotonic_ns(), time.perf_counter()
        print([b - a >= 40 for a, b in zip(begun, ended)], ended[1] - begun[1] < 60 * 10**9)
    """,
    "by its name, many times": """
        from time import monotonic, sleep
        end = monotonic() + 30
        looks = 0
        while monotonic() < end:
            sleep(0.5)
            looks += 1
        print(looks in (60, 61))
    """,
    "in tasks": """
        import asyncio
        async def boat(name, hours):
            await asyncio.sleep(hours)
            print(name, "is in")
        async def day():
            await asyncio.gather(boat("Tern", 30), boat("Auk", 20), boat("Skua", 25))
        asyncio.run(day())
    """,
    "too short, too long, and no number": """
        import time
        for given in (-1, float("nan"), "4", None, float("inf"), 0, False):
            try:
                print(time.sleep(given))
            except Exception as error:
                print(type(error).__name__, error)
        try:
            time.sleep()
        except TypeError as error:
            print(error)
    """,
}


@pytest.fixture
def bench(program):
    def make(source: str) -> tuple[TrialBench, Case, Plan]:
        one = Case(number=1, name="one", stdin="")
        plan = Plan(program=program(source), cases=(one,))
        return TrialBench(plan, bundle(plan), OWN, as_it_is), one, plan

    return make


def dedented(source: str) -> str:
    return "\n".join(line[8:] for line in source.strip("\n").split("\n"))


@pytest.mark.parametrize("name", SLEEPERS)
def test_what_sleeps_long_is_tried_in_no_time(bench, name):
    made, case, _ = bench(dedented(SLEEPERS[name]))
    with made:
        runs = [trial(made, case, {}, ALLOWED) for _ in range(3)]
    assert {(r.ending, r.output) for r in runs} == {("ended", runs[0].output)}
    expected = {
        "by the module": "[True, True, True] True\n",
        "by its name, many times": "True\n",
        "in tasks": "Auk is in\nSkua is in\nTern is in\n",
    }
    assert runs[0].output == expected.get(name, runs[0].output) != ""


def test_it_refuses_what_sleeping_refuses_in_the_same_words(bench):
    made, case, plan = bench(dedented(SLEEPERS["too short, too long, and no number"]))
    (real,) = check_all(plan, OWN)
    with made:
        assert trial(made, case, {}, ALLOWED).output == real.run.output


def test_where_other_threads_are_at_work_it_sleeps_as_ever(bench):
    made, case, _ = bench("""import threading, time
said = []
def call(boat, after):
    time.sleep(after)
    said.append(boat)
threads = [threading.Thread(target=call, args=one) for one in (("Tern", 0.2), ("Auk", 0.1))]
for one in threads:
    one.start()
time.sleep(0.3)
print(said)
""")
    with made:
        assert trial(made, case, {}, ALLOWED).output == "['Auk', 'Tern']\n"


def test_recordings_for_a_search_skip_it_and_those_to_look_at_do_not(bench):
    _, _, plan = bench("""import os, time
begun = os.times().elapsed  # a clock that nobody puts ahead
time.sleep(3)
print(os.times().elapsed - begun >= 3)
""")
    (result,) = check_all(plan, OWN)
    looked_at, _ = trace_case(plan, plan.cases[0], OWN, plain=result.run)
    searched = record_each(plan, [result], OWN, lambda _case, trace: trace)[1]
    said = ["".join(step.output for step in t.steps) for t in (looked_at, searched)]
    assert (result.run.output, said) == ("True\n", ["True\n", "False\n"])


def test_what_never_ends_is_followed_for_a_moment_where_nobody_looks_and_keeps_what_was_noted(
    bench,
):
    """Each of its steps says all of a long list: much is under way when its time is over."""
    _, _, plan = bench("names = [0]\nwhile True:\n    names.insert(0, len(names))\n")
    (result,) = check_all(plan, OWN)
    looked_at, _ = trace_case(plan, plan.cases[0], OWN, plain=result.run, most_steps=3_000)
    searched = record_each(plan, [result], OWN, lambda _case, trace: trace)[1]
    assert (looked_at.complete, searched.complete) == (False, False)
    lines = [step.line for step in searched.steps]
    assert len(lines) > 1_000
    assert lines == ([1] + [2, 3] * len(lines))[: len(lines)]
