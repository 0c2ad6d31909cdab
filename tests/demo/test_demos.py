"""The demo programs: each has the fault it is there for, and one mend that settles every case."""

from __future__ import annotations

import pytest

from oddsum.check.plan import check_all
from oddsum.demo.copy import DEMOS
from oddsum.languages import language_of
from oddsum.model.outcome import CaseResult, Outcome
from oddsum.plan.read import read_plan

# What is wrong in each, and what it should be; tickets has two faults.
MENDS = {
    "fares": [("age <= 16", "age < 16")],
    "lanes": [("range(len(lengths) - 1)", "range(len(lengths))")],
    "tides": [("low + high / 2", "(low + high) / 2")],
    "crates": [("kinds[kind] = 1", "kinds[kind] = kinds.get(kind, 0) + 1")],
    "parcels": [("weights.append(kilos.strip())", "weights.append(int(kilos))")],
    "sailings": [('        return "tomorrow"', '    return "tomorrow"')],
    "cabins": [("plan.append(row)", "plan.append(row[:])")],
    "waiting": [("waiting + arriving\n", "waiting + arriving\n        count = count + 1\n")],
    "tickets": [("rides > 10", "rides >= 10"), ("each + price // people", "each + price % people")],
    "lighthouse": [("left(120)", "right(120)")],
    "luggage": [('prompt("Kilos? ")', 'Number(prompt("Kilos? "))')],
    "harbour": [(".sort()", ".sort((a, b) => a - b)")],
    "cargo": [
        ("          price -= 5;\n        }\n", "          price -= 5;\n        }\n        break;\n")
    ],
}


def checked(path) -> list[CaseResult]:
    interpreter = language_of(path).running.find_interpreter(path, None)
    plan = read_plan(path.with_suffix(".cases.toml"), path)
    return check_all(plan, interpreter)


@pytest.mark.parametrize("name", DEMOS)
def test_a_demo_is_odd_in_two_ways_of_its_cases_and_its_mend_settles_all(demo, name):
    path = next(p for p in demo.glob(f"{name}.*") if p.suffix in (".py", ".js"))
    found = [r.outcome for r in checked(path)]
    assert sum(o.odd for o in found) >= 2 and Outcome.AGREES in found
    assert (Outcome.ENDLESS in found) == (name == "waiting")
    text = path.read_text()
    for n, (wrong, right) in enumerate(MENDS[name], 1):
        assert text.count(wrong) == 1
        text = text.replace(wrong, right)
        path.write_text(text)
        left = [r for r in checked(path) if r.outcome is not Outcome.AGREES]
        assert (not left) == (n == len(MENDS[name])), left


def test_there_are_thirteen_demos_each_of_another_kind():
    assert len(DEMOS) == len(MENDS) == 13 and set(DEMOS) == set(MENDS)
