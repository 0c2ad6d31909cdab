"""Edits are tried where they can matter: in lines that run, and first where the least runs."""

from __future__ import annotations

import threading

import pytest

from conftest import FERRY, MANY, OWN
from oddsum.check.plan import check_all
from oddsum.languages import language_for
from oddsum.languages.python import PYTHON
from oddsum.model.case import Case
from oddsum.pinpoint.coverage import Coverage
from oddsum.pinpoint.proposal import Proposal, on_trial
from oddsum.pinpoint.proposing import proposed, reached
from oddsum.pinpoint.search import pinpoint
from oddsum.pinpoint.sight import look
from oddsum.plan.find import plans_of
from oddsum.plan.read import read_plan
from oddsum.run.scratch import bundle
from oddsum.run.trials import Allowance, TrialBench
from oddsum.source.program import Source, read_source

TEXT = """def fee(cars):
    return cars * 9


def berth(length):
    if length < 12:
        return "short"
    return "long"
"""
SOURCE = Source("ferry.py", TEXT)
DEFS = {("ferry.py", 1), ("ferry.py", 5)}


def test_a_case_is_tried_with_the_edits_of_lines_that_it_runs():
    scenes = [PYTHON.edits.scene(SOURCE, {}, frozenset())]
    ran = frozenset({*DEFS, ("ferry.py", 2), ("ferry.py", 6), ("ferry.py", 8)})
    every = list(proposed(PYTHON, scenes, ran))
    some = [p for p in every if p is not None]
    assert {p.edits[0].runs_at or p.edits[0].line for p in some} == {2, 6, 8}
    assert len(some) < len(every)  # the short berth's line did not run

    one, two, three = (Case(number=n, name=str(n), stdin="") for n in (1, 2, 3))
    whole = frozenset({*DEFS, ("ferry.py", 2)})
    coverage = Coverage({1: whole, 2: whole}, cut=frozenset({2}))
    left = reached(some, one, {"ferry.py": SOURCE}, coverage)
    assert {p.edits[0].line for p in left} == {1, 2}
    # Of a case that was recorded in part, or not at all, nobody knows.
    assert [len(reached(some, c, {"ferry.py": SOURCE}, coverage)) for c in (two, three)] == [
        len(some)
    ] * 2


def test_of_two_faults_each_is_found_from_the_case_that_meets_it_alone(tmp_path):
    program, file = tmp_path / "ferry.py", tmp_path / "ferry.cases.toml"
    program.write_text(
        "held = [2, 2, 4]\ntaken = [0, 0, 0]\n\n\n"
        "def place(people):\n    for i in range(len(held)):\n"
        "        if taken[i] == 0 or held[i] >= people:\n            return i\n    return -1\n\n\n"
        "for people in map(int, input().split()):\n    at = place(people)\n"
        "    if at >= 0:\n        taken[at] = people\n"
        "print(taken)\nprint(sum(held), 'of', sum(held))\n"
    )
    told = [
        ("2 2 2", "[2, 2, 2]\\n6 of 8"),
        ("3", "[0, 0, 3]\\n3 of 8"),
        ("1 5 4", "[1, 0, 4]\\n5 of 8"),
        ("", "[0, 0, 0]\\n0 of 8"),
    ]
    file.write_text(
        "".join(
            f'[[case]]\nname = "{typed}"\nstdin = "{typed}\\n"\nstdout = "{out}\\n"\n'
            for typed, out in told
        )
    )
    plan = read_plan(file, program)
    found = pinpoint(plan, OWN, check_all(plan, OWN), budget=60.0)
    assert sorted(x.lines for x in found.leads[:2]) == [(7,), (17,)]
    mend = found.leads[0].mend
    assert mend is not None and mend.settles == (1, 2, 3, 4) and not mend.breaks


ODD = [p for p in sorted(FERRY.iterdir()) if p.suffix in (".py", ".js")]


@pytest.mark.parametrize("path", ODD if MANY else ODD[1::4], ids=lambda p: p.name)
def test_an_edit_of_a_line_that_did_not_run_does_nothing(path, demo):
    """Else what settles a case would be passed over without a trial."""
    program = demo / path.name
    plan = read_plan(plans_of(program)[0], program)
    running = language_for(plan).running
    interpreter = OWN if path.suffix == ".py" else running.find_interpreter(program, None)
    results = check_all(plan, interpreter)
    files, language = bundle(plan), language_for(plan)
    source = read_source(program, program.name)
    sight = look(plan, results, files, interpreter, threading.Event())
    scenes = [language.edits.scene(source, sight.types, frozenset())]
    edits = [e for e, _ in language.edits.edits(scenes[0])]
    allowed = Allowance(rounds=20_000, seconds=1.0, output=100_000)
    odd = [c for c in plan.active() if results[c.number - 1].outcome.odd]
    wrongly = []
    with TrialBench(plan, files, interpreter, lambda case, run: run) as bench:
        bench.load({source.name: source.text}, [on_trial(e) for e in edits])
        for case in odd[:2]:
            plain = bench.unedited(case, allowed)
            trials = [(n,) for n in range(len(edits))]
            for edit, run in zip(edits, bench.tried(case, trials, allowed), strict=False):
                one = [Proposal((edit,))]
                changes = run is not None and run is not plain
                if changes and not reached(one, case, {source.name: source}, sight.coverage):
                    wrongly.append((edit.kind, edit.line, edit.runs_at, edit.old, edit.new))
    assert wrongly == []
