"""Reader's notes: each rule on its example, none on correct programs, few on well-kept code."""

from __future__ import annotations

import ast
import sysconfig
from pathlib import Path

import pytest

from conftest import MANY
from oddsum.languages.python.edits import EDIT_RULES
from oddsum.languages.python.edits.scene import Scene
from oddsum.languages.python.notes import RULES, notes_on
from oddsum.source.program import Source, read_source

LIBRARY = Path(sysconfig.get_path("stdlib"))
PLAIN = ("bisect", "calendar", "colorsys", "fnmatch", "fractions", "heapq", "keyword", "shlex",
         "statistics", "string", "textwrap", "difflib", "getopt", "glob", "csv", "copy")  # fmt: skip
PROGRAMS = Path(__file__).parents[3] / "benchmarks" / "pinpoint" / "programs" / "python"


def notes(text: str) -> list[tuple[int, str]]:
    return [(n.line, n.rule) for n in notes_on([Scene(Source("x.py", text))])]


@pytest.mark.parametrize("rule", RULES.values(), ids=lambda r: r.name)
def test_each_rule_finds_its_example_and_asks(rule):
    found = [n for n in notes_on([Scene(Source("x.py", rule.example))]) if n.rule == rule.name]
    assert found
    assert "?" in found[0].text  # a question, never an accusation
    assert rule.explanation
    assert set(rule.kinds) <= set(EDIT_RULES)


def test_there_are_at_least_thirty_rules():
    assert len(RULES) >= 30


FINE = [
    "for i in range(len(xs) - 1):\n    print(xs[i], xs[i + 1])\n",
    "def f(xs):\n    for x in xs:\n        if x:\n            return x\n    return None\n",
    "def f(xs):\n    for x in xs:\n        if x == 3:\n            xs.remove(x)\n            break\n",
    "def f(xs):\n    total = 0\n    for x in xs:\n        total = x + total\n    return total\n",
    "if a == 1 or a == 2:\n    pass\n",
    "x = None\nif x is None:\n    pass\n",
    "def f(a, b):\n    a, b = b, a\n    return a, b\n",
    "# how many: see above\nx = 1\n",
    "while n > 0:\n    n -= 1\n",
    "m = low + (high / 2)\n" * 0 + "m = (low + high) / 2\n",
    "name = name.strip()\n",
    "age = int(input())\nif age < 16:\n    pass\n",
    "grid = [[0] * 3 for _ in range(2)]\n",
    "for i in range(2):\n    print(l)\n",
    "class Boat:\n    pass\n\n\nboat = Boat()\n",
]  # fmt: skip


@pytest.mark.parametrize("text", FINE)
def test_what_is_fine_is_not_questioned(text):
    assert notes(text) == []


def test_the_correct_programs_of_the_corpus_are_not_questioned():
    for path in sorted(PROGRAMS.glob("*.py")):
        assert [n.text for n in notes_on([Scene(read_source(path))])] == [], path.name


def test_nineteen_of_twenty_functions_of_the_library_are_not_questioned():
    functions = questioned = 0
    for name in PLAIN if MANY else PLAIN[::2]:
        scene = Scene(read_source(LIBRARY / f"{name}.py"))
        lines = {note.line for note in notes_on([scene])}
        for node in ast.walk(scene.tree):
            if isinstance(node, ast.FunctionDef):
                functions += 1
                questioned += any(node.lineno <= n <= (node.end_lineno or 0) for n in lines)
    assert functions > 120
    assert questioned / functions <= 0.05
