"""What each rule of JavaScript proposes, and that all proposals of a program can be compiled at once."""

from __future__ import annotations

import subprocess
from pathlib import Path

import pytest
from running import COMMAND

from conftest import MANY
from oddsum.languages.javascript.choices import Choices
from oddsum.languages.javascript.edits import EDIT_RULES, trial_edits
from oddsum.languages.javascript.edits.scene import Scene
from oddsum.source.program import Source, read_source

CORPUS = Path(__file__).parents[3] / "benchmarks" / "pinpoint" / "programs" / "javascript"
LOOP = "function f(xs) {\n  let n = 0;\n  for (const x of xs) {\n    g(x);\n  }\n  return n;\n}\n"
METHOD = ("class A {\n  constructor() { this.n = 0; this.last = null; }\n  f(x) {\n    g(x);\n  }\n"
          "}\n")  # fmt: skip
# A rule, a program, and texts that must be among what it proposes; an empty one: nothing at all.
WANTED = [
    ("not a number", "if (a !== NaN) { b(); }", "if (!Number.isNaN(a)) { b(); }"),
    ("assigned", "if (a = 1) { b(); }", "if (a === 1) { b(); }"),
    ("assigned", "if (a = true) { b(); }", "if (a) { b(); }"),
    ("logic", 'if (a === "g" || "s") { b(); }', 'if (a === "g" || a === "s") { b(); }'),
    ("logic", "if (a < 1 || b || 2) { c(); }", ""),
    ("logic", "if (n > m || c < d) { e(); }", "if (n > m || (n === m && c < d)) { e(); }"),
    ("unused", "const room = g();\nconst n = h(2);", "const room = g();\nconst n = Math.min(h(2), room);"),
    ("unused", "function f(n, low) { if (n > 9) { return 1; } else { return 2; } }",
     "function f(n, low) { if (n > 9) { return 1; } else if (n <= low) { return 2; } }"),
    ("unused", "const room = g();\nconst n = room;", ""),
    ("unused", "const [h, m] = c.split(':');\nconst n = Number(h) * 60;",
     "const [h, m] = c.split(':');\nconst n = (Number(h) * 60) + Number(m);"),
    ("unused", "function f(k, n = 1) { return k * n; }\nconst [k, c] = t;\ny = f(k);",
     "function f(k, n = 1) { return k * n; }\nconst [k, c] = t;\ny = f(k, c);"),
    ("deeper", "function f(w) { return w; }\nfunction g(p) { return f(p.w); }\nconst t = f(p.w);",
     "function f(w) { return w; }\nfunction g(p) { return f(p.w); }\nconst t = g(p);"),
    ("deeper", "function f(x) { return x.parts.reduce((n, p) => n + p.own, x.own); }",
     "function f(x) { return x.parts.reduce((n, p) => n + f(p), x.own); }"),
    ("missing", "for (const p of ps) {\n  const way = f(p);\n  return [n, ...way];\n}",
     "for (const p of ps) {\n  const way = f(p);\n  if (way.length > 0) return [n, ...way];\n}"),
    ("folding", "const s = `${n}:${m}`;", 'const s = `${n}:${String(m).padStart(2, "0")}`;'),
    ("unit", "const v = m / t;", "const v = m / (t / 60);"),
    ("unit", "const v = h + m;", "const v = h * 60 + m;"),
    ("index", "for (const run of runs) { g(runs[0].n); }", "for (const run of runs) { g(run.n); }"),
    ("missing", LOOP.replace("g(x);", "if (x) { n += 2 * x; }"),
     LOOP.replace("g(x);", "if (x) { n += 2 * x; } else { n += x; }")),
    ("missing", "function f(a, b) {\n  o.a += a;\n  g();\n}\n",
     "function f(a, b) {\n  o.a += a;\n  o.b += b;\n  g();\n}\n"),
    ("shared", "const list = other;", "const list = [...other];"),
    ("shared", "const list = other;", "const list = { ...other };"),
    ("lost this", "xs.forEach(function (x) { this.n += x; });", "xs.forEach((x) => { this.n += x; });"),
    ("lost this", "xs.forEach(function (x) { n += x; });", ""),
    ("folding", "const rows = text.split(',');", "const rows = text.trim().split(',');"),
    ("folding", "const rows = text.split(',');", "const rows = text.split(',').sort();"),
    ("overwritten", "counts.set(k, n);", "counts.set(k, (counts.get(k) || 0) + n);"),
    ("overwritten", "hours[h] = 1;", "hours[h] = (hours[h] || 0) + 1;"),
    ("overwritten", "hours[h] = hours[h] + 1;", ""),
    ("overwritten", "out = [x];", "out.push(x);"),
    ("discarded", LOOP, LOOP.replace("g(x)", "n += g(x)")),
    ("branches", "if (a > 1) { b(); } else if (a > 3) { c(); }",
     "if (a > 3) { c(); } else if (a > 1) { b(); }"),
    ("branches", "if (a) { b(); }", "while (a) { b(); }"),
    ("branches", "while (a) { break; }", ""),
    ("missing", LOOP, LOOP.replace("    g(x);", "    g(x);\n    n++;")),
    ("missing", LOOP, LOOP.replace("    g(x);", "    n = x;\n    g(x);")),
    ("missing", METHOD, METHOD.replace("    g(x);", "    g(x);\n    this.n += x;")),
    ("missing", METHOD, METHOD.replace("    g(x);", "    g(x);\n    this.last = x;")),
    ("missing", "for (const x of xs) { let n = 0; if (x) { n++; } }",
     "for (const x of xs) { let n = 0; if (x) { n++; } else { n = 0; } }"),
    ("instead", "function f(xs) { return xs[i] + xs.length; }", "function f(xs) { return i + xs.length; }"),
    ("instead", "function f(xs) { return xs.length; }", "function f(xs) { return xs[0].length; }"),
    ("instead", "return f(n);", "return f(n) + 1;"),
    ("instead", "return n - free;", "return Math.max(0, n - free);"),
    ("falling through", "switch (a) {\n  case 1:\n    if (b) {\n    }\n  default:\n    c();\n}",
     "switch (a) {\n  case 1:\n    if (b) {\n    }\n    break;\n  default:\n    c();\n}"),
    ("leaving", "switch (a) { case 1: break; }", ""),
    ("awaited", "const f = () => new Promise(g); async function h() { const a = f(); }",
     "const f = () => new Promise(g); async function h() { const a = await f(); }"),
    ("sort key", "xs.sort((a, b) => a > b);", "xs.sort((a, b) => a - b);"),
    ("sort key", "xs.sort();", "xs.sort((a, b) => a[0] - b[0]);"),
    ("overwritten", "end = last;", "end = Math.max(end, last);"),
    ("overwritten", "end = 7;", ""),
    ("rounding", "x = Math.round(a / b);", "x = Math.round((a / b) * 10) / 10;"),
    ("index", "a = xs[0];", "a = xs[xs.length - 1];"),
    ("instead", "xs.push(some);", "xs.push(...some);"),
    ("exchanged", "x = a * b / 100;", "x = a * 100 / b;"),
    ("exchanged", "x = a * b * 100;", ""),
    ("missing", LOOP, LOOP.replace("    g(x);", "    g(x);\n    n = x + 1;")),
    ("missing", METHOD, METHOD.replace("    g(x);", "    g(x);\n    this.n += x.length;")),
    ("empty body", "for (;;) { if (a); b(); }", "for (;;) { if (a) b(); }"),
    ("index", "xs.slice(i, n);", "xs.slice(i, i + n);"),
    ("exchanged", "deck[lane][line] = f(a, b);", "deck[line][lane] = f(a, b);"),
    ("exchanged", "deck[lane][line] = f(a, b);", "deck[lane][line] = f(b, a);"),
    ("attribute", "a.padEnd(2);", "a.padStart(2);"),
    ("unit", "x = m / 100;", "x = m / 60;"),
    ("unit", "x = 60 * h + m;", "x = 3600 * h + m;"),
    ("unit", "x = h + 60;", ""),
    ("as text", "const n = Number(prompt());", ""),
]  # fmt: skip


@pytest.mark.parametrize(("rule", "text", "wanted"), WANTED)
def test_a_rule_proposes(rule, text, wanted):
    scene = Scene(Source("x.js", text), {}, frozenset())
    found = [text[: e.start] + e.new + text[e.stop :] for e in EDIT_RULES[rule].edits(scene)]
    if wanted:
        assert wanted in found
    else:
        # Of what the rule is not for, nothing; other proposals of a broad rule may stand.
        assert not found or rule == "logic"


LONG = ["0x" + "f" * 4000, "0x" + "f" * 256, "1" * 5000, "1" * 5000 + "n"]


@pytest.mark.parametrize("long", LONG, ids=["hexadecimal", "infinity", "decimal", "whole"])
def test_a_number_of_thousands_of_digits_ends_nothing(long):
    scene = Scene(Source("x.js", f"const x = {long};\ny = x + 12;\n"), {}, frozenset())
    assert any("y = x + 13;" in text for _, text in trial_edits(scene))


def test_every_rule_says_why_and_asks():
    for rule in EDIT_RULES.values():
        assert rule.title and rule.explanation.endswith((".", "`", "?")), rule.name


@pytest.mark.parametrize(
    "path",
    sorted(CORPUS.glob("*.js")) if MANY else sorted(CORPUS.glob("[k-p]*.js")),
    ids=lambda p: p.stem,
)
def test_all_edits_of_a_program_are_compiled_at_once(path, tmp_path):
    """One that can stand in no program would take all others with it."""
    source = read_source(path)
    edits = [e for e, _ in trial_edits(Scene(source, {}, frozenset({"7"})))]
    made = Choices(source.text, [(n, [(e.start, e.stop, e.new)]) for n, e in enumerate(edits)])
    together = tmp_path / "together.js"
    together.write_text(f"(function () {{{made.text}\n}})", encoding="utf-8")
    checked = subprocess.run(
        [COMMAND, "--check", together], capture_output=True, text=True, check=False
    )
    assert checked.stderr == ""
    assert len(edits) > 100 and len(made.apart) < len(edits) / 40
