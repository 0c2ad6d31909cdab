"""Branches that are said to be never taken: of random chains, all values are tried."""

from __future__ import annotations

import json
import random
import shutil
import subprocess

from conftest import examples
from oddsum.languages import language_of
from oddsum.source.program import Source

SIGNS = ("<", "<=", ">", ">=", "==")
VALUES = [n / 2 for n in range(-3, 27)]
NODE = shutil.which("node") or shutil.which("nodejs") or "node"


def condition(rng, both, either, equal):
    def one():
        sign, value = rng.choice(SIGNS), rng.randint(0, 12)
        sign = equal if sign == "==" else sign
        return f"n {sign} {value}" if rng.random() < 0.8 else f"{value} {sign} n"

    kind = rng.random()
    if kind < 0.6:
        return one()
    return f"{one()} {both if kind < 0.8 else either} {one()}"


def chains(seed, count, language):
    """Random functions of ``n`` that give the number of the branch that was taken."""
    rng, python = random.Random(seed), language == "py"
    words = ("and", "or", "==") if python else ("&&", "||", "===")
    made = []
    for _ in range(count):
        lines = ["def f(n):" if python else "function f(n) {"]
        for number in range(rng.randint(2, 5)):
            chained = number > 0 and rng.random() < 0.6
            test = condition(rng, *words)
            leaves = rng.random() < 0.8
            if python:
                lines.append(f"    {'elif' if chained else 'if'} {test}:")
                lines.append(f"        taken.add({number})" + ("; return" if leaves else ""))
            else:
                lines.append(f"  {'else ' if chained else ''}if ({test}) {{")
                lines.append(f"    taken.add({number});" + (" return; }" if leaves else " }"))
        made.append("\n".join([*lines, "    pass" if python else "}"]) + "\n")
    return made


def said(text, name):
    """The branches that a note says are never taken, by their number."""
    language = language_of(name)
    notes = language.edits.notes([language.edits.scene(Source(name, text), {}, frozenset())])
    return {(n.line - 2) // 2 for n in notes if n.rule == "wider first"}


def test_what_is_said_to_be_never_taken_is_not_in_python():
    found = 0
    for text in chains(11, max(200, examples(200)), "py"):
        taken: set[int] = set()
        names: dict = {"taken": taken}
        exec(text, names)
        for value in VALUES:
            names["f"](value)
        never = said(text, "x.py")
        assert not never & taken, text
        found += len(never)
    assert found > 40


def test_what_is_said_to_be_never_taken_is_not_in_javascript():
    made = chains(12, max(200, examples(200)), "js")
    parts = [
        f"{{ const taken = new Set(); {text}\nfor (const v of {json.dumps(VALUES)}) f(v);\n"
        "all.push([...taken]); }"
        for text in made
    ]
    program = "const all = [];\n" + "\n".join(parts) + "\nconsole.log(JSON.stringify(all));"
    done = subprocess.run([NODE, "-"], input=program, capture_output=True, text=True, check=True)
    found = 0
    for text, taken in zip(made, json.loads(done.stdout), strict=True):
        never = said(text, "x.js")
        assert not never & set(taken), text
        found += len(never)
    assert found > 40
