"""A line taken apart: order, values, what was never looked at; and the program unchanged."""

from __future__ import annotations

import pytest

from conftest import OWN
from oddsum.check.apart import line_apart
from oddsum.languages.python.grouping import grouped
from oddsum.model.case import Case, Plan
from oddsum.source.program import read_source

PROGRAM = """low, high, xs = 2, 3, [4, 6]
middle = low + high / 2
def half(n):
    return n / 2 if n > 0 else None
if low > 2 and half(xs[0]) > 1 or not xs:
    pass
for i in range(2):
    xs[i] = half(xs[i]) + i
total = sum([x * 2 for x in xs if x > 2.5])
text = f"{total:.1f} cars"
while low < 4 <= high:
    break
def climb(n):
    return 0 if n == 0 else n + climb(n - 1)
climb(2)
print(text.upper(), end="")
"""
CASES = [
    (2, 1, [("high / 2", "3 / 2", "1.5"), ("low + high / 2", "2 + 1.5", "3.5")], []),
    (5, 1, [("low > 2", "2 > 2", "False"),
            ("low > 2 and half(xs[0]) > 1", "False and half(xs[0]) > 1", "False"),
            ("not xs", "not [4, 6]", "False"),
            ("low > 2 and half(xs[0]) > 1 or not xs", "False or False", "False")],
     ["half(xs[0]) > 1"]),
    (8, 2, [("xs[i]", "[2.0, 6][1]", "6"), ("half(xs[i])", "half(6)", "3.0"),
            ("half(xs[i]) + i", "3.0 + 1", "4.0")], []),
    (4, 1, [("n > 0", "4 > 0", "True"), ("n / 2", "4 / 2", "2.0"),
            ("n / 2 if n > 0 else None", "2.0 if True else None", "2.0")], []),
    (7, 1, [("range(2)", "range(2)", "range(0, 2)")], []),
    (11, 1, [("low < 4 <= high", "2 < 4 <= 3", "False")], []),
    (14, 1, [("n == 0", "2 == 0", "False"), ("n - 1", "2 - 1", "1"),
             ("climb(n - 1)", "climb(1)", "1"), ("n + climb(n - 1)", "2 + 1", "3"),
             ("0 if n == 0 else n + climb(n - 1)", "0 if False else 3", "3")], []),
]  # fmt: skip


def apart(tmp_path, line, visit):
    path = tmp_path / "ferry.py"
    path.write_text(PROGRAM)
    case = Case(number=1, name="one", stdin="")
    plan = Plan(program=path, cases=(case,))
    return line_apart(plan, case, OWN, read_source(path, path.name), line, visit)


@pytest.mark.parametrize(("line", "visit", "rows", "unseen"), CASES)
def test_a_line_is_told_in_the_order_it_was_worked_out(tmp_path, line, visit, rows, unseen):
    found = apart(tmp_path, line, visit)
    told = [(p.written, p.inside, p.values[0].text) for p in found.parts if not p.is_name]
    assert told == rows
    assert [p.written for p in found.unseen] == unseen


def test_the_parts_of_a_comprehension_have_a_value_a_turn(tmp_path):
    found = {p.written: [v.text for v in p.values] for p in apart(tmp_path, 9, 1).parts}
    assert found["x > 2.5"] == ["False", "True"] and found["x * 2"] == ["8.0"]


GROUPS = [("average = low + high / 2", "low + (high / 2)"), ("if a < 2 and b or not c:",
          "((a < 2) and b) or (not c)"), ("return -x ** 2", "-(x ** 2)"), ("x = 3", ""),
          ("elif a + 1 < b:", "(a + 1) < b"), ("total += 3", ""), ("x = (", "")]  # fmt: skip


@pytest.mark.parametrize(("line", "told"), GROUPS)
def test_the_grouping_that_python_has_in_mind_is_written_out(line, told):
    assert grouped(line) == told
