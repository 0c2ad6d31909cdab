"""Questions to a trace: forward and back, into and out of calls, values at any step."""

from __future__ import annotations

import pytest

from conftest import DATA, FERRY, OWN
from oddsum.check.traced import trace_case
from oddsum.model.case import Case, Plan
from oddsum.plan.read import read_plan
from oddsum.trace.ask import Story

STDIN = "3\n16\n17\n16\n"


@pytest.fixture(scope="module")
def fares() -> Story:
    """The demo program with three passengers."""
    path = FERRY / "fares.py"
    plan = read_plan(path.with_suffix(".cases.toml"), path)
    return Story(trace_case(plan, plan.cases[6], OWN)[0])


@pytest.fixture(scope="module")
def recursion() -> Story:
    path = DATA / "steps" / "recursion.py"
    case = Case(number=1, name="one", stdin="")
    return Story(trace_case(Plan(program=path, cases=(case,)), case, OWN)[0])


def test_times_run_count_visits(fares):
    assert [fares.times_run("fares.py", n) for n in (17, 18, 22, 7, 23)] == [4, 3, 3, 1, 0]
    assert fares.times_run("fares.py", 18, until=10) == 1


def test_into_and_out_of_a_call(fares):
    calling = fares.next_at({("fares.py", 22)}, 0)
    inside = fares.into(calling)
    assert fares.step(inside).events == ("call",)
    after = fares.out(inside)
    assert fares.step(after).events == ("back",)
    assert fares.over(calling) == after
    assert fares.out(calling) is None


def test_held_lines_are_found_in_both_directions(fares):
    held = {("fares.py", 10), ("fares.py", 22)}
    forward, step = [], 0
    while (step := fares.next_at(held, step)) is not None:
        forward.append(step)
    back, step = [], len(fares) + 1
    while (step := fares.last_at(held, step)) is not None:
        back.append(step)
    assert forward == back[::-1]
    assert len(forward) == 6


def test_values_at_every_step_are_those_of_a_walk_from_the_start(fares, recursion):
    for story in (fares, recursion):
        known: dict[tuple[int, str], str] = {}
        for step in story.steps:
            for change in step.changes:
                frame = step.frame if "." in change.name else 0
                known[frame, change.name] = change.after.text
            here = {n: t for (f, n), t in known.items() if f in (0, step.frame)}
            assert {n: v.text for n, v in story.values_at(step.number).items()} == here


def test_calls_of_one_function_keep_their_own_values(recursion):
    depths = {}
    for step in recursion.steps:
        if step.function == "gates":
            depths.setdefault(step.frame, set()).add(
                recursion.values_at(step.number)["gates.n"].text
            )
    assert all(len(values) == 1 for values in depths.values())


def test_the_step_that_printed_a_character_is_found(fares):
    whole = fares.output_until(len(fares))
    for offset in range(len(whole)):
        step = fares.printing(offset)
        assert len(fares.output_until(step - 1)) <= offset < len(fares.output_until(step))
    assert fares.printing(len(whole)) == len(fares)


def test_the_rounds_of_the_loop_around_a_step(fares):
    inside = fares.next_at({("fares.py", 12)}, 0)  # in a call made in round 2
    one = fares.passes.around(inside)
    assert (one.header.line, one.rounds, one.round_at(inside)) == (17, 3, 2)


def test_steps_outside_are_refused(fares):
    for number in (0, -1, len(fares) + 1):
        with pytest.raises(IndexError):
            fares.step(number)
