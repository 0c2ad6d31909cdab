"""Pinpoint on the demo programs, and on correct programs with one slip put in."""

from __future__ import annotations

import threading

import pytest

from conftest import FERRY, OWN
from oddsum.check.plan import check_all
from oddsum.check.traced import Cancelled
from oddsum.pinpoint.edits import SLIPS, all_slips, slip_applied
from oddsum.pinpoint.rank import edit_of
from oddsum.pinpoint.search import pinpoint
from oddsum.pinpoint.words import nothing_found
from oddsum.plan.read import read_plan
from oddsum.source.program import Source, read_source

DEMOS = [("fares", 10, "comparison", "<"), ("lanes", 10, "bounds", "len(lengths)"),
         ("tides", 6, "parentheses", "(low + high) / 2")]  # fmt: skip


@pytest.mark.parametrize(("name", "line", "kind", "new"), DEMOS)
def test_the_fault_of_each_demo_is_the_first_lead(name, line, kind, new):
    path = FERRY / f"{name}.py"
    plan = read_plan(path.with_suffix(".cases.toml"), path)
    found = pinpoint(plan, OWN)
    first = found.leads[0]
    assert (first.lines, first.kind, first.rank) == ((line,), kind, 1)
    assert new in first.mend.edits[0].after[0]
    assert first.mend.settles == found.odd
    assert first.mend.breaks == ()
    assert found.trials > 15


PLAN = """
[[case]]
name = "three"
call = "f([4, 8, 6])"
returns = "{0}"
[[case]]
name = "none"
call = "f([])"
returns = "{1}"
[[case]]
name = "one"
call = "f([5])"
returns = "{2}"
"""
SLIPPED = [
    # a program with a slip, what f should give in the three cases, the line at fault
    ("def f(xs):\n    n = 0\n    for x in xs:\n        if x > 5:\n            n -= 1\n"
     "    return n\n", (2, 0, 0), 5),
    ("def f(xs):\n    n = 0\n    for x in xs:\n        if x >= 6:\n            n += x\n"
     "    return n\n", (8, 0, 0), 4),
    ("def f(xs):\n    return xs[1:]\n", ([4, 8, 6], [], [5]), 2),
    ("def f(xs):\n    t = 1\n    for x in xs:\n        t += x\n    return t\n", (18, 0, 5), 2),
    ("def f(xs):\n    a, b = 3, len(xs)\n    return a + b * 2\n", (12, 6, 8), 3),
    ("def f(xs):\n    return [x // 4 for x in xs]\n", ([1.0, 2.0, 1.5], [], [1.25]), 2),
    ("def f(xs):\n    i = 0\n    while i < len(xs) - 1:\n        i += 1\n    return i\n",
     (3, 0, 1), 3),
]  # fmt: skip


@pytest.mark.parametrize(("source", "expected", "line"), SLIPPED)
def test_a_slip_in_a_correct_program_is_found(program, source, expected, line):
    path = program(source, PLAN.format(*expected))
    found = pinpoint(read_plan(path.with_suffix(".cases.toml"), path), OWN)
    assert found.leads[0].lines == (line,), found
    assert found.leads[0].mend.breaks == ()


def test_where_all_cases_agree_there_is_no_lead(program):
    path = program("def f(xs):\n    return len(xs)\n", PLAN.format(3, 0, 1))
    found = pinpoint(read_plan(path.with_suffix(".cases.toml"), path), OWN)
    assert (found.leads, found.odd, found.trials) == ((), (), 0)
    assert "All 3 cases agree" in nothing_found(found)


def test_a_fault_of_another_kind_is_admitted(program):
    path = program("def f(xs):\n    return 'pier'\n", PLAN.format(3, 0, 1))
    found = pinpoint(read_plan(path.with_suffix(".cases.toml"), path), OWN)
    assert found.leads == ()
    assert "of another kind" in nothing_found(found)


def test_a_mend_of_an_endless_program_is_found_and_hanging_trials_do_not_stop_it(program):
    source = (
        "def f(xs):\n    i = 0\n    n = 0\n    while i != len(xs) + 1:\n"
        "        n = n + xs[i] - xs[i]\n        i += 1\n        n += 1\n    return n\n"
    )
    path = program(source, "timeout = 0.5\n" + PLAN.format(3, 0, 1))
    found = pinpoint(read_plan(path.with_suffix(".cases.toml"), path), OWN)
    assert found.leads[0].lines == (4,)


def test_a_search_can_be_cancelled(program):
    path = FERRY / "fares.py"
    plan = read_plan(path.with_suffix(".cases.toml"), path)
    results = check_all(plan, OWN)
    stop = threading.Event()
    with pytest.raises(Cancelled):
        pinpoint(plan, OWN, results, stop=stop, on_progress=lambda *_: stop.set())


KINDS = {
    "comparison": ("if a < b: pass", {"a <= b", "a > b", "a >= b"}),
    "arithmetic": ("x = a / b", {"a // b", "a * b", "a % b"}),
    "constant": ("x = 16", {"x = 15", "x = 17"}),
    "bounds": (
        "for i in range(1, len(x) - 1): pass",
        {"range(2, ", "range(0, ", "len(x))", "len(x) - 2)"},
    ),
    "parentheses": ("x = a + b / 2", {"(a + b) / 2"}),
}


@pytest.mark.parametrize("kind", list(SLIPS))
def test_each_kind_of_slip_proposes_what_it_should(kind):
    text, wanted = KINDS[kind]
    source = Source("x.py", text + "\n")
    texts = [slip_applied(source, slip) for slip in SLIPS[kind](source)]
    assert len(texts) == len(wanted)
    assert all(any(w in t for t in texts) for w in wanted)


AWKWARD = """
# a comment with < in it
x = "a < b"  # 1 + 2
if (a  <
        b): y = f"{a < b} and {1 + 2}"
z = ö[1:n - 1][::2] + -a ** 2 - (b + c) * d
t = 1 < a <= 3 != b
"""


def test_edits_touch_only_their_own_characters():
    source = Source("x.py", AWKWARD)
    slips = all_slips(source)
    texts = [slip_applied(source, slip) for slip in slips]
    assert len(set(texts)) == len(texts) > 15
    for slip, text in zip(slips, texts, strict=True):
        compile(text, "x.py", "exec")
        assert source.text[slip.start : slip.stop] == slip.old
        assert source.text.count("\n") == text.count("\n")
        edit = edit_of(source, slip)
        lines = source.text.split("\n")
        lines[edit.line - 1 : edit.end] = edit.after
        assert "\n".join(lines) == text
        assert tuple(source.text.split("\n")[edit.line - 1 : edit.end]) == edit.before
    assert not any("a <= b} and" in t for t in texts)  # inside f-strings nothing is tried


def test_programs_are_read_in_their_own_encoding_and_line_ends(program):
    text = (
        "# -*- coding: latin-1 -*-\r\ndef f(xs):\r\n    '''k\xe4se'''\r\n    return len(xs) - 1\r\n"
    )
    path = program(text.encode("latin-1"), PLAN.format(3, 0, 1))
    found = pinpoint(read_plan(path.with_suffix(".cases.toml"), path), OWN)
    assert found.leads[0].lines == (4,)
    assert read_source(path).newline == "\r\n"
