"""Values that would be right, and expressions that give them: put into the text, and run by node."""

from __future__ import annotations

import subprocess

import pytest
from running import COMMAND, node

from conftest import MANY
from oddsum.check.plan import check_all
from oddsum.languages.javascript import JAVASCRIPT
from oddsum.languages.javascript.parsing import Tree
from oddsum.languages.javascript.sites import numbered
from oddsum.model.case import Case, Plan
from oddsum.pinpoint.search import pinpoint
from oddsum.run.scratch import bundle
from oddsum.run.trials import Allowance, TrialBench
from oddsum.source.edits import applied
from oddsum.source.program import Source

ALLOWED = Allowance(rounds=20_000, seconds=1.0, output=10_000)
LINES = """\
const words = { child: 3, adult: 6 };
let total = 0;
const ages = prompt("Ages? ").split(" ").map(Number);
for (const age of ages) {
  const kind = age < 16 ? "child" : "adult";
  total += words[kind];
}
const list = [...ages].sort();
console.log(`Oldest: ${list[list.length - 1]}`);
console.log("Total:", total - (ages.length > 2 ? 1 : 0), `🚢 ${ages?.length}`);
"""
STOPS = """\
class Stop {
  constructor(name, km) {
    this.name = name;
    this.km = km;
  }
}
function price(stop, bags) {
  const base = stop.km * 0.5;
  if (stop.km > 20) {
    return base + Math.max(0, bags - 1) * 3 + 4;
  }
  return base + bags;
}
function bill(stops, bags) {
  let sum = 0;
  for (const stop of stops) {
    sum += price(stop, bags);
  }
  return sum;
}
"""
BILLS = {"bill([new Stop('a', 10)], 3)": "11", "price(new Stop('c', 6), 5)": "15",
         "bill([new Stop('a', 10), new Stop('b', 4)], 2)": "13",
         "price(new Stop('c', 30), 2)": "22"}  # fmt: skip


def planned(folder, text, cases):
    program = folder / "ferry.js"
    program.write_text(text, encoding="utf-8")
    return Plan(program=program, cases=tuple(cases))


def calls(told):
    return [Case(number=n, name=c, call=c, returns=r) for n, (c, r) in enumerate(told.items(), 1)]


def benched(plan):
    return TrialBench(plan, bundle(plan), node(), lambda case, run: run)


def run(text, typed=""):
    """What node prints of a text, with one line typed in for all that it asks."""
    ahead = f"globalThis.prompt = () => {typed!r};\n"
    done = subprocess.run([COMMAND, "-e", ahead + text],
                          capture_output=True, text=True, timeout=60, check=False)  # fmt: skip
    return done.stdout if done.returncode == 0 else f"stopped: {done.stderr[-300:]}"


def put(text, value):
    """The program with another value in the expression's place, at the visit that is told."""
    start, stop = value.spot.start, value.spot.stop
    told = "" if value.visit or value.gave == "<object>" else f"gave === ({value.gave}) && "
    return (
        "let visits = 0;\nfunction instead(gave) {\n  visits += 1;\n"
        f"  return {told}[0, visits].includes({value.visit}) ? ({value.would}) : gave;\n}}\n"
        f"{text[:start]}instead({text[start:stop]}){text[stop:]}"
    )


def test_each_value_does_in_a_plain_run_what_it_is_said_to_do(tmp_path):
    typed = "34 9 15 8"
    case = Case(number=1, name="one", stdin=typed + "\n", stdout="Oldest: 34\nTotal: 15 🚢 4\n")
    plan = planned(tmp_path, LINES, [case])
    with benched(plan) as bench:
        bench.load({"ferry.js": LINES}, [])
        some = [v for v in bench.values(case, ALLOWED, 5.0) if " then " not in v.gave]
    some = [v for v in some if v.verdict.ending == "ended" and v.gave != "NaN"]
    assert len(some) > 200
    assert {v.spot.line for v in some if not v.spot.gap} == {1, 2, 3, 4, 5, 6, 8, 9, 10}
    assert not [v for v in some if v.spot.gap]  # two lines are wrong, and none is missing
    for value in some[:: max(1, len(some) // max(12, MANY // 10))]:
        told = value.verdict.output.replace("Ages? ", "", 1)
        assert run(put(LINES, value), typed) == told, value


def test_where_nothing_is_changed_the_hooks_change_nothing(tmp_path):
    """Of programs with all that may stand around an expression, the hooked text can be read."""
    text = """\
import { a as b } from "./other.js";
label: for (let i = 0, [x, y = 2] = [1]; i < 3 && !(x > 4); i++, x += 1) {
  if (i === 1) continue label;
  delete words[i]; typeof nothing; ({ x, y: x } = { x: 1 });
}
const f = async ({ a, b = a + 1 }, ...rest) => ({ a, [`k${b}`]: await rest[0] });
class P extends Q { #n = 1; static s = -1; get n() { return this.#n; } m() { super.m(a?.b.c(1)?.[0]); } }
function* g() { const got = yield (1, 2); yield* [got]; return new.target; }
switch (b) { case 1: case "two": tag`x${b}`; break; default: throw new Error("no"); }
export const [p] = [() => b ?? 1], q = (p) => -p ** 2 || { "r": p };
do x--; while (x > 0)
"""
    text = text.replace("-p ** 2", "(-p) ** 2")
    told = numbered({"ferry.js": {"whole": text}})
    hooked = told["texts"]["ferry.js"]["whole"]
    assert Tree(text).fault is None and Tree(hooked).fault is None
    assert hooked.count("ǂv(") == len(told["places"]) > 40
    for number, place in enumerate(told["places"]):
        here = text[place["start"] : place["stop"]]
        assert place["text"] == ("" if place["kind"] == "gap" else here)
        assert f"/*ǂ{number}*/" in hooked
    (tmp_path / "ferry.mjs").write_text(hooked, encoding="utf-8")
    done = subprocess.run(
        [COMMAND, "--check", tmp_path / "ferry.mjs"], capture_output=True, text=True, check=False
    )
    assert done.returncode == 0, done.stderr


EXPRESSIONS = [
    ("return km * 2;", "km * 2", "km * each", {"f(3, 7)": "21", "f(2, 5)": "10"}, "km, each"),
    ("return a;", "a", "xs.length - a", {"f(3, [7, 9, 1, 8, 8])": "2", "f(1, [7, 4])": "1"}, "a, xs"),
    ("return xs[0];", "xs[0]", "xs[i]", {"f([4, 9, 2], 1)": "9", "f([4, 9, 2], 2)": "2"}, "xs, i"),
    ("return age < 10;", "age < 10", "age <= 10", {"f(10)": "true", "f(9)": "true", "f(11)": "false"},
     "age"),
    ("return name;", "name", "name.trim()", {"f(' Ard ')": "'Ard'", "f('Holm ')": "'Holm'"}, "name"),
    ("return m.size;", "m.size", "m.get(k)", {"f(new Map([['a', 7]]), 'a')": "7",
                                              "f(new Map([['b', 4], ['c', 9]]), 'c')": "9"}, "m, k"),
    ("return items.reduce((s, i) => s + i.price, 0);", "i.price", "i.price * i.stock",
     {"f([{price: 2, stock: 3}, {price: 4, stock: 1}])": "10", "f([{price: 5, stock: 2}])": "10"},
     "items"),
]  # fmt: skip


@pytest.mark.parametrize(("body", "here", "wanted", "told", "names"), EXPRESSIONS)
def test_each_expression_gives_what_is_wanted_and_the_one_that_is_meant_is_among_them(
    tmp_path, body, here, wanted, told, names
):
    text = f"const day = 24;\nfunction f({names}) {{\n  {body}\n}}\n"
    cases = calls(told)
    plan = planned(tmp_path, text, cases)
    agrees = {r.number: r.outcome for r in check_all(plan, node())}
    odd = [c for c in cases if agrees[c.number].odd]
    agreeing = [c.number for c in cases if not agrees[c.number].odd]
    with benched(plan) as bench:
        bench.load({"ferry.js": text}, [])
        rows = []
        for case in odd:
            values = [v for v in bench.values(case, ALLOWED, 3.0)
                      if text[v.spot.start : v.spot.stop] == body[7:-1]
                      and v.verdict.returned and v.verdict.returned.equal]  # fmt: skip
            place, spot = values[0].place, values[0].spot
            rows.append((case.number, values[0].row))
        texts = [t for t, _ in bench.express(odd[0], place, rows, agreeing, ALLOWED, 3.0)]
    assert any(body[7:-1].replace(here, wanted) == t for t in texts), texts
    wishes = " && ".join(f"({call}) === {value}" for call, value in told.items() if
                         any(c.call == call for c in odd))  # fmt: skip
    tried = "".join(
        f"{{ {text[: spot.start]}{t}{text[spot.stop :]}\nif (!({wishes})) console.log({t!r}); }}\n"
        for t in texts
    )
    assert run(tried) == ""


def test_a_formula_that_is_wrong_is_mended_by_what_stands_elsewhere(tmp_path):
    cases = calls(BILLS)
    found = pinpoint(planned(tmp_path, STOPS, cases), node(), budget=30)
    best = found.leads[0]
    assert (best.kind, best.lines, best.mend.settles) == ("expression", (12,), found.odd)
    mended = applied(Source("ferry.js", STOPS), best.mend.edits)
    wishes = " && ".join(f"({call}) === {value}" for call, value in BILLS.items())
    assert run(f"{mended}\nconsole.log({wishes});") == "true\n"


WRITTEN = [
    ("const x = a + b;", "b", "c * 2", "const x = a + (c * 2);"),
    ("const x = a + b;", "b", "c.d(1)", "const x = a + c.d(1);"),
    ("const x = f(b);", "b", "c * 2", "const x = f(c * 2);"),
    ("const x = xs[i];", "i", "i + 1", "const x = xs[i + 1];"),
    ("const x = !b;", "b", "c > 2", "const x = !(c > 2);"),
    ("const x = a.b;", "a", "c", None),
]  # fmt: skip


@pytest.mark.parametrize(("text", "here", "instead", "wanted"), WRITTEN)
def test_an_expression_is_put_in_with_the_brackets_that_it_needs(text, here, instead, wanted):
    scene = JAVASCRIPT.edits.scene(Source("ferry.js", text), {}, frozenset())
    start = text.rindex(here) if here != "a" else text.index("a.b")
    edit = JAVASCRIPT.edits.instead(scene, start, start + len(here), instead, 0.4)
    after = None if edit is None else text[: edit.start] + edit.new + text[edit.stop :]
    assert after == wanted


def test_a_branch_is_put_ahead_of_what_gives_back(tmp_path):
    text = "function f(age) {\n  const sum = age * 2;\n  return (sum + 1);\n}\nfunction g(a) { return a; }\n"
    scene = JAVASCRIPT.edits.scene(Source("ferry.js", text), {}, frozenset())
    at = text.index("sum + 1")
    edit = JAVASCRIPT.edits.guarded(scene, at, at + 7, "age < 6", "0", 0.4)
    after = text[: edit.start] + edit.new + text[edit.stop :]
    assert "\n  if (age < 6) return 0;\n  return (sum + 1);\n" in after
    inside = text.index("age * 2")
    assert JAVASCRIPT.edits.guarded(scene, inside, inside + 7, "age < 6", "0", 0.4) is None
    alone = text.index("a; }")  # it shares its line with the function's head
    assert JAVASCRIPT.edits.guarded(scene, alone, alone + 1, "a < 6", "0", 0.4) is None
