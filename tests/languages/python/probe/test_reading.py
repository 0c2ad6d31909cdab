"""What the probe reads off the syntax: what a call needs, what can change, what is certain."""

from __future__ import annotations

import ast

import pytest

from oddsum.languages.python.probe.certain import certain_names, declared_elsewhere
from oddsum.languages.python.probe.effects import EVERYTHING, Effects
from oddsum.languages.python.probe.needed import select
from oddsum.languages.python.probe.values import same

NEEDED = [
    ("x = 1\nprint(x)\n", [2]),
    ("x = input()\ny = x\nz = 2\n", [1, 2]),
    ("import math\nprint(math.pi)\nR = math.pi\n", [2]),
    ("a = []\na.append(input())\nb = len(a)\nc = 1\n", [2, 3]),
    ("def f():\n    print(1)\nf()\ng = 1\n", [3]),
    ("def f():\n    return g()\ndef g():\n    return input()\nx = f()\n", [5]),
    ("class A:\n    def __init__(self):\n        print(1)\nx = A()\ny = 2\n", [4]),
    ("class A:\n    def show(self):\n        print(1)\nx = A()\nx.show()\n", [5]),
    ("if __name__ == '__main__':\n    print(1)\nx = 1\n", []),
    ("import sys\nsys.stdout.write('x')\nsys.stdin.read()\n", [2, 3]),
    ("x = input()\nx = 5\ny = x\n", [1]),
    ("for i in range(3):\n    n = int(input())\ntotal = n\nfree = 1\n", [1, 3]),
    ("f = lambda: print(1)\nx = 1\n", []),
    ("@print\ndef f(): pass\n", [2]),
    ("x = [input() for _ in range(2)]\ndef f(): return x\n", [1]),
    ("grid = [[0]]\ngrid[0][0] = input()\nrow = grid[0]\n", [2, 3]),
]


@pytest.mark.parametrize(("source", "left_out"), NEEDED)
def test_a_call_leaves_out_what_talks_and_what_depends_on_it(source, left_out):
    tree = ast.parse(source)
    kept, lines = select(tree)
    assert lines == left_out
    assert [s.lineno for s in kept if s.lineno in left_out] == []


EFFECTS = [
    ("x = a + b", set()),
    ("print(len(a))", set()),
    ("a.append(1)", {"a"}),
    ("a.upper().split()", set()),
    ("random.shuffle(a)", {EVERYTHING}),
    ("own(a)", set()),
    ("obj.items.append(1)", {EVERYTHING}),
    ("obj.method()", set()),
    ("obj.other()", {EVERYTHING}),
    ("f = lambda: a.pop()", {"a"}),
    ("print = 3; print(a)", {EVERYTHING}),
    ("[b.add(x) for x in a]", {"b"}),
    ("a.sort(); b.extend(a)", {"a", "b"}),
    ("next(it)", set()),
    ("eval('a.append(1)')", {EVERYTHING}),
]


@pytest.mark.parametrize(("source", "changed"), EFFECTS)
def test_what_a_statement_can_change(source, changed):
    tree = ast.parse(f"def own(x): pass\nclass C:\n    def method(self): pass\n{source}\n")
    assert Effects(tree).of(*tree.body[2:]) == changed


TARGETS = [("x", ""), ("x[0]", "x"), ("x.a", "x"), ("x[0][1]", EVERYTHING), ("x.a.b", EVERYTHING),
           ("(x, y[0])", "y"), ("x[0], y[0]", EVERYTHING), ("*x", ""),
           ("f().a", EVERYTHING)]  # fmt: skip


@pytest.mark.parametrize(("target", "root"), TARGETS)
def test_what_assigning_to_a_target_changes(target, root):
    tree = ast.parse(f"[{target}] = 1" if target.startswith("*") else f"{target} = 1")
    node = tree.body[0].targets[0]
    assert Effects.of_target(node) == root


CERTAIN = [
    ("n = 0\nwhile n < 5:\n    n = n + 1\n", {"n"}),
    ("for i in range(3):\n    t = i * 2\n", {"i", "t"}),
    ("n = 0\nn = input()\n", set()),
    ("n = 0\nm = n\nm = []\n", {"n"}),
    ("a, b = 1, 2\n", set()),
    ("n = 1\nn += 2\n", {"n"}),
    ("n = 1\nn += x\n", set()),
    ("n = 2 ** 0.5\n", set()),
    ("n = 1 / 2 if x else 3\n", set()),
    ("n = len(x)\n", {"n"}),
    ("len = 3\nn = len(x)\n", {"len"}),
    ("n = 1\ndef f():\n    global n\n    n = []\n", set()),
    ("n = 1\ndel n\n", set()),
    ("n = 1\nwith x as n: pass\n", set()),
    ("n = 1\nfor n in 'abc': pass\n", set()),
    ("n = 1\ntry: pass\nexcept E as n: pass\n", set()),
    ("n = 1\nimport n\n", set()),
    ("n = 1\ndef n(): pass\n", set()),
    ("n = (m := 1)\n", set()),
    ("n = not x\n", {"n"}),
    ("n = -1\nn: int = 5\n", {"n"}),
    ("n = 'text'\n", set()),
    ("n = 1\nx = [n := [] for _ in y]\n", set()),
]


@pytest.mark.parametrize(("source", "names"), CERTAIN)
def test_names_that_can_only_hold_numbers(source, names):
    tree = ast.parse(source)
    trusted = Effects(tree).trusted
    assert certain_names(tree, declared_elsewhere(tree), trusted) == names


def test_parameters_are_never_certain():
    function = ast.parse(
        "def f(n, *m, k=1, **r):\n    n = 1\n    m = 1\n    k = 1\n    j = 1\n"
    ).body[0]
    assert certain_names(function, set(), {"len"}) == {"j"}


SAME = [
    (1, 1.0, True), (True, 1, True), (0.1 + 0.2, 0.3, True), (1, 1.1, False),
    (float("nan"), float("nan"), True), ([float("nan")], [float("nan")], True),
    ([1, 2], (1, 2), False), ({"a": 0.3}, {"a": 0.1 + 0.2}, True), ({"a": 1}, {"b": 1}, False),
    ("1", 1, False), (None, None, True), ({1, 2}, {2, 1}, True), ([1], [1, 2], False),
    (10**400, 1.5, False), (float("inf"), float("inf"), True), (1e-300, 0, False),
]  # fmt: skip


@pytest.mark.parametrize(("expected", "actual", "equal"), SAME)
def test_values_are_the_same_by_the_rule(expected, actual, equal):
    assert same(expected, actual, 1e-9) is equal


def test_the_tolerance_can_be_widened_and_closed():
    assert same(100.0, 101.0, 0.02) and not same(100.0, 101.0, 0.001)
    assert not same(0.1 + 0.2, 0.3, 0.0)
