"""What a reader of JavaScript would question: found in each rule's example, and nowhere in vain."""

from __future__ import annotations

from pathlib import Path

import pytest

from conftest import DATA
from oddsum.languages.javascript.edits import EDIT_RULES
from oddsum.languages.javascript.edits.scene import Scene
from oddsum.languages.javascript.notes import RULES, notes_on
from oddsum.source.program import Source, read_source

CORPUS = Path(__file__).parents[3] / "benchmarks" / "pinpoint" / "programs" / "javascript"
# Those of the recordings, too, but for one that goes on into the next ``case`` and means it.
CORRECT = [*sorted(CORPUS.glob("*.js")), *sorted((DATA / "javascript" / "truth").glob("[!t]*.js"))]


@pytest.mark.parametrize("rule", RULES.values(), ids=lambda r: r.name)
def test_each_rule_finds_its_example_and_asks(rule):
    found = [n for n in notes_on([Scene(Source("x.js", rule.example), {}, frozenset())])
             if n.rule == rule.name]  # fmt: skip
    assert found
    assert "?" in found[0].text  # a question, never an accusation
    assert rule.explanation
    assert set(rule.kinds) <= set(EDIT_RULES)


FINE = [
    "for (let i = 0; i < a.length - 1; i++) { b(a[i], a[i + 1]); }\n",
    "switch (a) { case 1: case 2: b(); break; default: c(); }\n",
    "switch (a) { case 1: { if (b) { return; } else { throw c; } } case 2: d(); }\n",
    "while (queue.length > 0) { queue.shift(); }\n",
    "a.forEach((x) => { b(x); });\n",
    "const n = Number(prompt('?'));\nb(n + 1);\n",
    "const name = prompt('?');\nconsole.log('Hello ' + name + 1);\n",
    "if (a >= 30) { b(); } else if (a >= 10) { c(); }\n",
    "for (const key in a) { b(a[key]); }\n",
    "for (var i = 0; i < 3; i++) { a.forEach((x) => b(x + i)); }\n",
    "function f(xs) { for (const x of xs) { if (x) { return x; } } return null; }\n",
]


@pytest.mark.parametrize("text", FINE)
def test_what_is_fine_is_not_questioned(text):
    assert notes_on([Scene(Source("x.js", text), {}, frozenset())]) == ()


def test_correct_programs_are_not_questioned():
    for path in CORRECT:
        scene = Scene(read_source(path), {}, frozenset())
        assert [(n.line, n.text) for n in notes_on([scene])] == [], path.name
    assert len(CORRECT) > 50
