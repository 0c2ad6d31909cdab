"""Values are shared out among processes: what is found does not hang on how many there are."""

from __future__ import annotations

from contextlib import ExitStack

import pytest

from conftest import OWN
from oddsum.check.plan import check_all
from oddsum.languages import language_for
from oddsum.pinpoint.value_trials import Asked, ValueTrials
from oddsum.plan.read import read_plan
from oddsum.run.scratch import bundle
from oddsum.run.trials import Allowance, TrialBench
from oddsum.source.program import read_source

PYTHON = """
def fee(cars, bikes):
    load = cars * 9
    if bikes > 2:
        load = load + bikes
    return load + bikes * 2
"""
JAVASCRIPT = """
function fee(cars, bikes) {
  let load = cars * 9;
  if (bikes > 2) {
    load = load + bikes;
  }
  return load + bikes * 2;
}
"""
PLAN = """
[[case]]
name = "two"
call = "fee(2, 2)"
returns = "24"

[[case]]
name = "three"
call = "fee(1, 3)"
returns = "21"

[[case]]
name = "none"
call = "fee(3, 0)"
returns = "27"
"""
ALLOWED = Allowance(rounds=10_000, seconds=2.0, output=10_000)


def found_by(count: int, plan, interpreter):
    """What so many processes find: values in two cases, and expressions for the best places."""
    odd, agreeing = plan.cases[:2], plan.cases[2:]
    source = read_source(plan.program, plan.program.name)
    with ExitStack() as stack:
        benches = [
            stack.enter_context(TrialBench(plan, bundle(plan), interpreter, lambda case, run: run))
            for _ in range(count)
        ]
        trials = ValueTrials(benches, odd, agreeing, lambda bench, case: ALLOWED)
        trials.begin({source.name: source}, odd)
        values, places = set(), {}
        for case in odd:
            for one in trials.values(case, 20.0, sorted(places) or None):
                if one.verdict.returned is None or not one.verdict.returned.equal:
                    continue
                values.add((case.number, one.spot, one.visit, one.gave, one.would))
                places.setdefault(one.place, {}).setdefault(case.number, one.row)
        asked = [
            Asked(place, tuple(rows.items()), when)
            for place, rows in sorted(places.items())
            if len(rows) == len(odd)
            for when in (False, True)
        ]
        texts = trials.expressions(asked, 5.0, lambda: True)
        none = trials.expressions(asked, 5.0, lambda: False)
    assert none == [[] for _ in asked]
    return values, {(one.place, one.when): some for one, some in zip(asked, texts, strict=True)}


@pytest.mark.parametrize(("name", "text"), [("ferry.py", PYTHON), ("ferry.js", JAVASCRIPT)])
def test_two_processes_find_what_one_finds(program, name, text):
    path = program(text, PLAN, name)
    plan = read_plan(path.with_suffix(".cases.toml"), path)
    running = language_for(plan).running
    interpreter = OWN if name.endswith(".py") else running.find_interpreter(path, None)
    outcomes = [r.outcome.value for r in check_all(plan, interpreter)]
    assert outcomes == ["differs", "differs", "agrees"]
    values, texts = found_by(1, plan, interpreter)
    assert found_by(2, plan, interpreter) == (values, texts)
    assert any(gave == "4" and would == "6" for _, _, _, gave, would in values)
    assert any("load + bikes" in dict(some) for (_, when), some in texts.items() if not when)
    assert any("bikes >= 2" in dict(some) for (_, when), some in texts.items() if when)
