"""Limits read off conditions, and what no case tries of them."""

from __future__ import annotations

import pytest

from conftest import FERRY, OWN
from oddsum.advise.advice import advise
from oddsum.advise.gaps import sides
from oddsum.check.plan import check_all
from oddsum.languages.python.limits import forks, limits
from oddsum.model.case import Case, Plan
from oddsum.plan.read import read_plan
from oddsum.source.program import Source

LIMITS = [
    ("if age < 16: pass", [("age", "<", 16)]),
    ("if 16 > age: pass", [("age", "<", 16)]),
    ("while 0 <= age <= 120: pass", [("age", ">=", 0), ("age", "<=", 120)]),
    ("x = n % 2 == 0", [("n % 2", "==", 0)]),
    ("if not len(cars) == 0: pass", [("len(cars)", "==", 0)]),
    ("MOST = 24.5\nif room > MOST: pass", [("room", ">", 24.5)]),
    ("MOST = 3\nMOST = 4\nif room > MOST: pass", []),
    ("if day in range(1, 8): pass", [("day", ">=", 1), ("day", "<", 8)]),
    ("if day not in range(5): pass", [("day", ">=", 0), ("day", "<", 5)]),
    ("if a < b or name == 'pier': pass", []),
    ("if level > -3: pass", [("level", ">", -3)]),
    ("print([c for c in cars if c >= 5])", [("c", ">=", 5)]),
    ("def f(n):\n    return n < 2", [("n", "<", 2)]),
    ("if (", []),
]


@pytest.mark.parametrize(("text", "found"), LIMITS)
def test_limits_are_read_off_conditions(text, found):
    assert [(x.subject, x.sign, x.value) for x in limits(Source("x.py", text))] == found


@pytest.mark.parametrize(
    ("text", "values"),
    [
        ("if a < 16: pass", [15, 16]),
        ("if a >= 16: pass", [15, 16]),
        ("if a <= 16: pass", [16, 17]),
        ("if a > 16: pass", [16, 17]),
        ("if a == 0: pass", [0, 1]),
        ("if a % 3 == 2: pass", [2, 0]),
        ("if a % 2 == 0: pass", [0, 1]),
        ("if a < 2.5: pass", [2.49, 2.5]),
    ],
)
def test_the_two_sides_of_a_limit_decide_it_differently(text, values):
    (limit,) = limits(Source("x.py", text))
    assert [v for _, v in sides(limit)] == values
    assert limit.holds(values[0]) != limit.holds(values[1])


def test_conditions_and_loops_are_listed_with_what_is_around_them():
    text = "for i in x:\n    if i:\n        pass\n    elif j:\n        def f():\n            while k: pass\n"
    found = [(f.line, f.kind, f.inside) for f in forks(Source("x.py", text))]
    assert found == [(1, "for", None), (2, "if", 1), (4, "if", 2), (6, "while", None)]


SCRIPT = """\
count = int(input("How many? "))
total = 0
for i in range(count):
    length = int(input("Length? "))
    if length > 5:
        total = total + 30
    else:
        total = total + 20
if total == 0:
    print("nothing to pay")
print(total)
"""


def advice_on(tmp_path, source, *cases):
    path = tmp_path / "x.py"
    path.write_text(source)
    rows = tuple(Case(number=n, **c) for n, c in enumerate(cases, 1))
    plan = Plan(program=path, file=tmp_path / "x.cases.toml", cases=rows)
    return advise(plan, OWN, check_all(plan, OWN)), plan


def test_each_ready_made_input_was_run_and_does_try_what_is_missing(tmp_path):
    advice, plan = advice_on(tmp_path, SCRIPT, {"name": "one", "stdin": "1\n4\n", "stdout": "20\n"})
    by_text = {p.gap.text: p for p in advice.proposals}
    texts = "\n".join(by_text)
    assert "line 5, length > 5: no case tries length 5, right at it" in texts
    assert "line 5, length > 5: no case tries length 6, just above it" in texts
    assert "line 3, `for i in range(count)`: no case lets it run 0 times" in texts
    assert 'kind = "boundary"' in texts and 'kind = "invalid"' in texts
    typed = {p.case.stdin for p in advice.proposals if p.case}
    assert {"1\n5\n", "1\n6\n", "0\n"} <= typed
    assert all(p.case.checked() == () for p in advice.proposals if p.case)
    cases = tuple(
        Case(number=n, name=p.case.name, stdin=p.case.stdin)
        for n, p in enumerate((p for p in advice.proposals if p.case), 1)
    )
    results = check_all(Plan(program=plan.program, cases=cases), OWN)
    assert not any(r.run.starved or r.run.unread for r in results)


WEIGHTS = """\
total = n = 0
line = input("Weight? ")
while line != "no":
    total += float(line)
    n += 1
    line = input("Weight? ")
if n > 3:
    total -= 5
print(total)
"""


def test_a_loop_that_ends_with_a_word_gets_other_numbers_of_rounds(tmp_path):
    case = {"name": "three", "stdin": "20\n10\n12.5\nno\n", "stdout": "42.5\n"}
    advice, _ = advice_on(tmp_path, WEIGHTS, case)
    typed = {p.case.stdin for p in advice.proposals if p.case}
    assert {"no\n", "20\nno\n", "20\n10\n12.5\n12.5\nno\n"} <= typed


def test_a_plan_that_tries_everything_is_not_asked_for_more(tmp_path):
    advice, _ = advice_on(
        tmp_path,
        SCRIPT,
        {"name": "none", "kind": "boundary", "stdin": "0\n"},
        {"name": "one", "kind": "boundary", "stdin": "1\n5\n"},
        {"name": "two", "stdin": "2\n6\n1\n"},
        {"name": "bad", "kind": "invalid", "stdin": "1\nx\n"},
    )
    assert [p.gap.text for p in advice.proposals] == [
        "line 9, total == 0: no case tries total 1, just above it (nearest so far: 0)"
    ][:0]


def test_functions_are_advised_on_by_their_calls(tmp_path):
    source = "def fare(age, zone):\n    if age < 16:\n        return 3\n    return 6 * zone\n"
    advice, _ = advice_on(tmp_path, source, {"name": "a", "call": "fare(30, 2)"})
    assert {p.case.call for p in advice.proposals if p.case} >= {"fare(15, 2)", "fare(16, 2)"}


def test_a_limit_behind_another_condition_is_reached(tmp_path):
    source = (
        "def fare(age, member, zone):\n    if member and age < 16:\n        return 3\n"
        "    if zone == 'far' and age > 60:\n        return 2\n    return 6\n"
    )
    advice, _ = advice_on(
        tmp_path, source,
        {"name": "a", "call": "fare(30, False, 'near')"},
        {"name": "b", "call": "fare(25, False, 'far')"},
    )  # fmt: skip
    calls = {p.case.call for p in advice.proposals if p.case}
    assert {"fare(15, True, 'far')", "fare(16, True, 'far')"} <= calls
    texts = [p.gap.text for p in advice.proposals if p.gap.line == 2]
    assert all("together with `member`" in text for text in texts)
    assert {c for c in calls if "60" in c or "61" in c} == {
        "fare(60, False, 'far')",
        "fare(61, False, 'far')",
    }


def test_what_else_has_to_hold_of_the_same_thing_is_not_told(tmp_path):
    source = "def fee(age):\n    return 0 if age < 2 or age > 70 else 3\n"
    advice, _ = advice_on(tmp_path, source, {"name": "a", "call": "fee(30)"})
    texts = [p.gap.text for p in advice.proposals if p.gap.line]
    assert len(texts) == 4 and not any("together" in text for text in texts)


def test_branches_that_no_case_reaches_are_named(tmp_path):
    source = "word = input()\nif word == 'pier':\n    if word:\n        print(1)\nelif word:\n    print(2)\n"
    advice, _ = advice_on(tmp_path, source, {"name": "a", "stdin": "quay\n"})
    texts = [p.gap.text for p in advice.proposals if p.gap.kind == "branch"]
    assert texts == [
        "line 2, `if word == 'pier'`: it is never true in any case",
        "line 3, `if word`: no case comes here",
        "line 5, `elif word`: it is never false in any case",
    ]


@pytest.mark.parametrize("name", ["fares", "lanes", "tides"])
def test_the_demo_programs_without_a_plan_get_something_to_begin_with(name):
    advice = advise(Plan(program=FERRY / f"{name}.py"), OWN, ())
    assert any(p.case for p in advice.proposals)


def test_the_demo_s_plan_misses_what_it_misses():
    program = FERRY / "fares.py"
    plan = read_plan(program.with_suffix(".cases.toml"), program)
    advice = advise(plan, OWN, check_all(plan, OWN))
    assert [p.case.stdin for p in advice.proposals] == [
        "1\n120\n", "1\n121\n", "1\n-1\n", "1\n0\n",
    ]  # fmt: skip


def test_a_large_limit_is_typed_with_all_its_digits(tmp_path):
    source = "n = int(input())\nif n > 1234567:\n    print('full')\n"
    advice, _ = advice_on(tmp_path, source, {"name": "a", "stdin": "5\n"})
    assert {p.case.stdin for p in advice.proposals if p.case} >= {"1234567\n", "1234568\n"}
    assert any("no case tries n 1234568, just above it" in p.gap.text for p in advice.proposals)
