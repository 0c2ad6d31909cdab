"""Trials: each edit does in the text with all edits what its own text does by itself."""

from __future__ import annotations

import pytest
from running import node

from conftest import MANY, examples
from oddsum.check.plan import check_all
from oddsum.compare.judge import judge
from oddsum.languages.javascript import JAVASCRIPT
from oddsum.languages.javascript.choices import Choices
from oddsum.languages.javascript.parsing import Tree
from oddsum.model.case import Case, Plan
from oddsum.pinpoint.proposal import on_trial
from oddsum.pinpoint.search import pinpoint
from oddsum.run.scratch import bundle
from oddsum.run.trials import Allowance, TrialBench
from oddsum.source.program import Source

LUGGAGE = """\
const FREE = 10;

function cost(weight) {
  if (weight <= FREE) {
    return 0;
  }
  return (weight - FREE) * 2;
}

const count = Number(prompt("How many? "));
let total = 0;
let most = 0;
for (let i = 0; i < count; i++) {
  const weight = Number(prompt("Weight? "));
  total += cost(weight);
  if (weight > most) {
    most = weight;
  }
}
console.log(`To pay: ${total}, heaviest ${most}`);
"""
BOARDING = """\
class Ferry {
  constructor(seats) { this.seats = seats; this.names = []; }
  board(name) {
    switch (true) {
      case this.names.length >= this.seats: return "full";
      default: this.names.push(name);
    }
    return this.names.length;
  }
}
function boarded(seats, names) {
  const ferry = new Ferry(seats);
  const told = names.map(n => ferry.board(n.trim()));
  return [told, ferry.names.sort().join("+"), Math.floor(seats / 2)];
}
async function later(n) { let sum = 0; for (const x of [1, 2, n]) { await null; sum += x; } return sum; }
"""
CASES = {
    "luggage": (LUGGAGE, [{"stdin": "3\n9\n12\n30\n"}, {"call": "cost(15)", "returns": "10"}]),
    "boarding": (BOARDING, [{"call": "boarded(2, ['b ', 'a', 'c'])", "returns": "[]"},
                            {"call": "later(4)", "returns": "7"}]),
}  # fmt: skip
ALLOWED = Allowance(rounds=20_000, seconds=1.0, output=10_000)


def described(result):
    run = result.run
    told = run.returned.actual if run.returned is not None else run.output
    return (run.ending, told if run.ending == "ended" else run.error and run.error.type)


@pytest.mark.parametrize("name", CASES)
def test_a_trial_does_what_the_edited_text_does_by_itself(tmp_path, name):
    text, given = CASES[name]
    program = tmp_path / f"{name}.js"
    program.write_text(text)
    cases = tuple(Case(number=n, name=str(n), **g) for n, g in enumerate(given, 1))
    plan = Plan(program=program, cases=cases)
    scene = JAVASCRIPT.edits.scene(Source(program.name, text), {}, frozenset({"42"}))
    every = [(e, after) for e, after in JAVASCRIPT.edits.edits(scene) if Tree(after).fault is None]
    chosen = every[:: max(1, len(every) // examples(6))]
    with TrialBench(plan, bundle(plan), node(), lambda c, r: (c, r)) as bench:
        bench.load({program.name: text}, [on_trial(e) for e, _ in chosen])
        told = {
            case.number: list(bench.tried(case, [(n,) for n in range(len(chosen))], ALLOWED))
            for case in cases
        }
    checked = 0
    for number, (edit, after) in enumerate(chosen):
        program.write_text(after)
        for result in check_all(plan, node()):
            case, run = told[result.number][number]
            tried = judge(case, plan.settings_of(case), run)
            if "time" in (run.ending, result.run.ending):
                continue  # an endless trial ends by its rounds, a run by its seconds
            assert described(tried) == described(result), (edit.what, after)
            checked += 1
    assert checked > 8


def test_edits_of_one_place_stand_beside_each_other_and_declarations_apart():
    at = LUGGAGE.index("weight <= FREE")
    start = LUGGAGE.index("let most = 0;")
    made = Choices(LUGGAGE, [(0, [(at + 7, at + 9, "<")]), (1, [(at, at + 14, "true")]),
                             (2, [(start, start + 13, "")])])  # fmt: skip
    assert "ǂs[0]?(weight < FREE):ǂs[1]?(true):(weight <= FREE)" in made.text
    assert made.apart == [2]
    assert Tree(made.text).fault is None


ALL_FAULTS = [  # one in four of them where there is less time
    ("Number(prompt(\"Weight? \"))", 'prompt("Weight? ")', 14), ("i < count", "i <= count - 2", 13),
    ("total += cost(weight)", "total = cost(weight)", 15), ("weight <= FREE", "weight >= FREE", 4),
    ("(weight - FREE) * 2", "weight - FREE * 2", 7), ("weight > most", "weight < most", 16),
    ("  return (weight", "  (weight", 7), ("if (weight > most) {", "if (weight > most); {", 16),
]  # fmt: skip


@pytest.mark.parametrize(("right", "wrong", "line"), ALL_FAULTS if MANY else ALL_FAULTS[3:4])
def test_the_line_at_fault_is_named_first_and_mended(tmp_path, right, wrong, line):
    program = tmp_path / "luggage.js"
    given = ["2\n8\n9\n", "2\n9\n12\n", "3\n9\n12\n100\n", "1\n10\n", "2\n30\n11\n", "0\n"]
    calls = {"cost(10)": "0", "cost(11)": "2", "cost(15)": "10", "cost(3)": "0"}
    program.write_text(LUGGAGE)
    cases = [Case(number=n, name=str(n), stdin=s) for n, s in enumerate(given, 1)]
    cases += [Case(number=n, name=c, call=c, returns=r)
              for n, (c, r) in enumerate(calls.items(), len(given) + 1)]  # fmt: skip
    plan = Plan(program=program, cases=tuple(cases))
    wanted = [r.run.output for r in check_all(plan, node())]
    cases = [Case(number=c.number, name=c.name, stdin=c.stdin, stdout=wanted[c.number - 1])
             if c.call is None else c for c in cases]  # fmt: skip
    assert LUGGAGE.count(right) == 1
    program.write_text(LUGGAGE.replace(right, wrong))
    found = pinpoint(Plan(program=program, cases=tuple(cases)), node(), budget=30)
    assert found.odd
    best = found.leads[0]
    assert line in best.lines, [(x.lines, x.kind) for x in found.leads]
    assert best.mend is not None
    assert (best.mend.settles, best.mend.breaks) == (found.odd, ())


def test_a_tree_that_is_read_anew_in_part_is_the_tree_of_the_whole_text():
    for text in (
        LUGGAGE,
        BOARDING,
        "// Fährhaus\nconst größe = [1, 2]; // ⛴\nlog(größe.length);\n",
    ):
        source = Source("ferry.js", text)
        scene = JAVASCRIPT.edits.scene(source, {}, frozenset({"12"}))
        tree, count = Tree(text), 0
        for edit, _ in JAVASCRIPT.edits.edits(scene):
            for start, stop, new in on_trial(edit)[source.name]:
                made = tree.edited(start, stop, new)
                whole = text[:start] + new + text[stop:]
                assert made.text == whole and str(made.root) == str(Tree(whole).root), new
                count += 1
        assert count > 5
