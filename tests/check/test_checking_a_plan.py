"""A plan run and judged: in any order, in the plan's order, stopped half way, on other files."""

from __future__ import annotations

import os
import threading

import pytest

from conftest import OWN
from oddsum.check import beside
from oddsum.check.many import Checks
from oddsum.check.plan import check, check_all
from oddsum.check.traced import Cancelled, trace_case
from oddsum.model.case import Case, Plan
from oddsum.model.errors import StartError
from oddsum.model.outcome import Outcome
from oddsum.run.scratch import bundle
from oddsum.trace.ask import Story

TWICE = "n = int(input())\nprint(n * 2)\n"


def plan_of(path, *numbers: int, **more: object) -> Plan:
    cases = tuple(Case(number=n, name=str(n), stdin=f"{n}\n", stdout=f"{2 * n}\n", **more)
                  for n in numbers)  # fmt: skip
    return Plan(program=path, cases=cases)


def test_results_come_as_cases_end_and_stand_in_the_plan_s_order(program):
    path = program("import time\n" + TWICE.replace("print", "time.sleep((9 - n) / 40)\nprint"))
    plan = plan_of(path, *range(1, 9))
    arrived = [r.number for r in check(plan, OWN)]
    assert sorted(arrived) == list(range(1, 9))
    assert [r.number for r in check_all(plan, OWN)] == list(range(1, 9))


def at_once(program, tmp_path, doing: str) -> int:
    """How many cases of a plan of twelve stood beside each other, at the most."""
    (tmp_path / "here").mkdir()
    path = program(f"""import os, sys, time
os.mkdir(sys.argv[1] + "/" + sys.argv[2])
begun = time.monotonic()
while time.monotonic() < begun + 0.6:
    {doing}
print(len(os.listdir(sys.argv[1])))
os.rmdir(sys.argv[1] + "/" + sys.argv[2])
""")
    cases = tuple(
        Case(number=n, name=str(n), stdin="", args=(str(tmp_path / "here"), str(n)))
        for n in range(1, 13)
    )
    return max(int(r.run.output) for r in check(Plan(program=path, cases=cases), OWN))


def test_cases_that_wait_run_beside_each_other_and_those_that_compute_a_core_each(
    program, tmp_path, monkeypatch
):
    monkeypatch.setattr(os, "cpu_count", lambda: 2)
    assert 2 < at_once(program, tmp_path, "time.sleep(0.2)") <= 8
    (tmp_path / "here").rmdir()
    monkeypatch.setattr(beside, "_WAITS", 0.0)  # however little of a core each gets here
    assert at_once(program, tmp_path, "pass") <= 2


def test_a_case_alone_and_files_in_the_place_of_the_folder_s(program):
    path = program(TWICE)
    plan = plan_of(path, 1, 2, 3)
    (one,) = check(plan, OWN, cases=plan.cases[1:2])
    assert (one.number, one.outcome) == (2, Outcome.AGREES)
    other = bundle(plan).edited({path.name: b"print(int(input()) * 3)\n"})
    assert {r.outcome for r in check(plan, OWN, files=other)} == {Outcome.DIFFERS}
    assert path.read_text() == TWICE


def test_a_check_that_is_stopped_tells_no_more_and_a_recording_says_so(program):
    path = program("while True:\n    pass\n")
    plan, stop = plan_of(path, 1, 2), threading.Event()
    threading.Timer(0.3, stop.set).start()
    assert list(check(plan, OWN, stop=stop)) == []
    with pytest.raises(Cancelled):
        trace_case(plan, plan.cases[0], OWN, stop=stop)


def test_versions_are_each_checked_whole(program):
    path = program(TWICE)
    plan = plan_of(path, 1, 2)
    files = bundle(plan)
    versions = [
        files.edited({path.name: f"print(int(input()) * {k})\n".encode()}) for k in (1, 2, 3)
    ]
    with Checks(plan, OWN, threading.Event()) as checks:
        found = [c.result() for c in [checks.submit(v) for v in versions]]
    assert [[r.outcome.value for r in found[n]] for n in range(3)] == [
        ["differs"] * 2, ["agrees"] * 2, ["differs"] * 2,
    ]  # fmt: skip


def test_what_cannot_start_is_an_error_of_the_whole_check(program):
    path = program("print('open\n")
    with pytest.raises(StartError) as caught:
        list(check(plan_of(path, 1, 2), OWN))
    assert caught.value.line == 1


def test_a_recording_comes_out_as_the_plain_run_did(program):
    path = program(TWICE)
    plan = plan_of(path, 4)
    (plain,) = check_all(plan, OWN)
    trace, result = trace_case(plan, plan.cases[0], OWN)
    story = Story(trace)
    assert (result.outcome, result.actual) == (plain.outcome, plain.actual)
    assert story.output_until(story.last) == plain.run.output and trace.outcome == "agrees"
