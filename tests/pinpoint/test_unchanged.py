"""Edits that are left out change nothing indeed; and cases are held out in turn."""

from __future__ import annotations

import pytest

from conftest import FERRY, OWN
from oddsum.check.plan import check_all
from oddsum.check.traced import trace_case
from oddsum.languages.python.edits import trial_edits
from oddsum.languages.python.edits.scene import Scene
from oddsum.model.case import Case, Plan
from oddsum.pinpoint.holdout import held
from oddsum.pinpoint.proposal import Proposal, Screening
from oddsum.pinpoint.unchanged import Unchanged
from oddsum.plan.read import read_plan
from oddsum.run.scratch import bundle
from oddsum.run.trials import Allowance, TrialBench
from oddsum.source.program import read_source
from oddsum.trace.ask import Story

ALLOWED = Allowance(rounds=100_000, seconds=2.0, output=100_000)
TRICKY = """
def half(n):
    global calls
    calls += 1
    return n / 2


calls = 0
zero = 0.0
names = ["ard"]
other = names
low, high = 3, 3
print(half(low) + calls, -zero, low < high, low <= 3, names[0].strip(), other == names)
for n in range(low):
    if n > 1 or low > n:
        print(n, low * 1, high - low)
other.append("holm")
print(names, sorted(names), [n for n in names if n > "b"])
"""


def left_out(path, plan: Plan, case: Case) -> list[str]:
    source = read_source(path)
    trace, _ = trace_case(plan, case, OWN)
    unchanged = Unchanged(Story(trace))
    return [
        text for edit, text in trial_edits(Scene(source)) if unchanged.changes_nothing(edit, source)
    ]


def outcomes(plan: Plan, case: Case, name: str, texts: list[str]) -> set[tuple[object, ...]]:
    found = set()
    with TrialBench(plan, bundle(plan), OWN) as bench:
        for edits in ({}, *({name: text} for text in texts)):
            run = bench.run(case, edits, ALLOWED).run
            returned = run.returned.actual if run.returned else None
            found.add((run.ending, run.output, returned))
    return found


@pytest.mark.parametrize("name", ["fares", "lanes", "tides"])
def test_what_is_left_out_does_what_the_program_does(name):
    path = FERRY / f"{name}.py"
    plan = read_plan(path.with_suffix(".cases.toml"), path)
    odd = next(r.number for r in check_all(plan, OWN) if r.outcome.odd)
    case = next(c for c in plan.cases if c.number == odd)
    texts = left_out(path, plan, case)
    assert len(texts) > 20
    assert len(outcomes(plan, case, path.name, texts)) == 1


def test_what_could_be_told_apart_later_is_tried(program):
    path = program(TRICKY)
    case = Case(number=1, name="one", stdin="")
    plan = Plan(program=path, cases=(case,))
    texts = left_out(path, plan, case)
    assert texts
    assert len(outcomes(plan, case, path.name, texts)) == 1
    assert not any("other = names[:]" in text or "print(names[:]" in text for text in texts)


def screening(line: int, settles, breaks=()) -> Screening:
    from test_rank import edit

    return Screening(Proposal((edit(line),), {}), tuple(settles), tuple(breaks))


def test_a_mend_leans_on_the_cases_without_which_another_comes_first():
    mine = screening(1, [1, 2, 3])
    rivals = [mine, screening(2, [2, 3]), screening(3, [1, 3], [9]), screening(1, [1, 2])]
    weights = {1: 0.4, 2: 0.6, 3: 0.9}

    def weight(proposal: Proposal) -> float:
        return weights[proposal.edits[0].line]

    assert held(mine.proposal, rivals, (1, 2, 3), weight) == (1,)
    weights[2] = 0.3  # less likely: it would not have come first
    assert held(mine.proposal, rivals, (1, 2, 3), weight) == ()
    assert held(mine.proposal, rivals, (1,), weight) == ()
