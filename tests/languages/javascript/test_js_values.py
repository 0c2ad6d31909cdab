"""Texts of values and questions, held against node itself."""

from __future__ import annotations

import json
import math
import random
import subprocess
from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from running import COMMAND, node, tries

from oddsum.check.traced import trace_case
from oddsum.languages.javascript.asking import Question
from oddsum.languages.javascript.grouping import grouped
from oddsum.languages.javascript.literals import number_text, quoted_text, text_of, value_of
from oddsum.languages.javascript.scalars import FALSE, NULL, TRUE, UNDEFINED, number, string
from oddsum.languages.questions import QuestionError, Unanswered
from oddsum.model.case import Case, Plan


def of_node(expressions: list[str]) -> list[str]:
    """What node makes of expressions, as text that tells the kinds apart."""
    script = (
        "const told = v => typeof v === 'string' ? JSON.stringify(v) : Object.is(v, -0) ? '-0' : "
        "Array.isArray(v) ? '[' + v.map(told).join() + ']' : String(v);"
        "const all = JSON.parse(require('fs').readFileSync(0, 'utf8'));"
        "console.log(JSON.stringify(all.map(e => { try { return told(eval('(' + e + ')')); } "
        "catch (x) { return 'Error'; } })));"
    )
    done = subprocess.run([COMMAND, "-e", script], input=json.dumps(expressions), check=True,
                          capture_output=True, text=True)  # fmt: skip
    return json.loads(done.stdout)


def ours(value: object) -> str:
    if isinstance(value, str):
        return json.dumps(str(value), ensure_ascii=False)
    if isinstance(value, list):
        return "[" + ",".join(map(ours, value)) + "]"
    if isinstance(value, (int, float)) and not isinstance(value, bool):
        return (
            repr(value)
            if value in (TRUE, FALSE) and type(value).__name__ == "boolean"
            else number_text(value)
        )
    return repr(value)


@settings(max_examples=tries(6))
@given(st.lists(st.floats(), min_size=20, max_size=200))
def test_numbers_are_written_as_node_writes_them(numbers):
    texts = [number_text(n) for n in numbers]
    assert of_node([f"String({t})" if t != "-0" else "'0'" for t in texts]) == [
        json.dumps(t if t != "-0" else "0") for t in texts
    ]


PLAIN = st.recursive(
    st.none() | st.booleans() | st.integers(-(10**9), 10**9) | st.floats(allow_nan=False) | st.text(max_size=8),
    lambda inner: st.lists(inner, max_size=4) | st.dictionaries(st.text(max_size=5), inner, max_size=4),
    max_leaves=12,
)  # fmt: skip


@given(PLAIN)
def test_plain_data_is_written_and_read_again(value):
    assert value_of(text_of(value)) == value


@settings(max_examples=tries(6))
@given(st.lists(st.text(max_size=12), min_size=5, max_size=40))
def test_texts_are_quoted_as_node_reads_them(texts):
    assert [json.loads(t) for t in of_node([quoted_text(t) for t in texts])] == texts


VALUES = {"n": 7, "half": 0.5, "minus": -3, "zero": 0, "text": string("12"), "word": string("pier"),
          "blank": string(""), "yes": TRUE, "no": FALSE, "none": NULL, "gone": UNDEFINED,
          "list": [3, 1, 2], "empty": [], "odd": number(math.nan)}  # fmt: skip
SET = ("const n = 7, half = 0.5, minus = -3, zero = 0, text = '12', word = 'pier', blank = '', yes = true, "
       "no = false, none = null, gone = undefined, list = [3, 1, 2], empty = [], odd = NaN; ")  # fmt: skip
ATOMS = [*VALUES, "1", "'3'", "2.5", "list[0]", "word.length", "word[1]", "list.length"]
SIGNS = ["+", "-", "*", "/", "%", "<", "<=", ">", ">=", "==", "!=", "===", "!==", "&&", "||", "??",
         "&", "|", "^", "<<", ">>", ">>>"]  # fmt: skip
CALLS = ["Number({})", "String({})", "Boolean({})", "parseInt({})", "parseFloat({})", "isNaN({})",
         "Math.round({})", "Math.floor({})", "Math.max({}, 2)", "!{}", "-{}", "typeof {}", "{} ? 1 : 2",
         "`a${{{}}}b`", "word.includes({})", "list.indexOf({})", "[{}, 1].join('-')",
         "Number({}).toFixed(0)", "Number({}).toFixed(2)", "[{}, 1].includes(odd)", "String({}).slice(-2)",
         "String({}).charAt(1)", "[{}, [2, none]].join()", "String({}).split('').at(-1)"]  # fmt: skip


def expressions() -> list[str]:
    """Every sign between every two of them, and calls of some of these, others at each time."""
    every = [f"({a} {sign} {b})" for a in ATOMS for sign in SIGNS for b in ATOMS]
    some = random.sample(every, 4000)
    return every + [f"({random.choice(CALLS).format(e)})" for e in some]


def test_what_is_asked_comes_to_what_node_makes_of_it():
    """By the language's own conversions; what has no answer here is for an object to say."""
    asked = expressions()
    told = of_node([f"(() => {{ {SET} return {e}; }})()" for e in asked])
    for expression, wanted in zip(asked, told, strict=True):
        try:
            answer = ours(Question(expression).ask(VALUES))
        except Unanswered as why:
            assert "objects" in str(why) or "methods" in str(why), (expression, str(why))
            continue
        if ("list" in expression or "empty" in expression) and wanted.startswith("["):
            continue  # one and the same list
        assert answer == wanted, expression


@pytest.mark.parametrize(("text", "words"), [
    ("total = 4", "it would give a name a value"), ("n++", "it would change a name"),
    ("pay(3)", "could change the program"), ("list.push(3)", "could change the program"),
    ("x => x", "it makes a function"), ("", "Nothing is asked"), ("n >", "cannot be read"),
    ("delete list[0]", "take something away"), ("new Boat()", "it makes an object"),
])  # fmt: skip
def test_what_could_change_the_program_is_refused(text, words):
    with pytest.raises(QuestionError) as told:
        Question(text)
    assert words in str(told.value)


WATCHED = """\
function cost(weight) {
  let total = 2;
  for (let i = 0; i < weight; i++) {
    total += i;
  }
  return total;
}
let sum = 0;
const parts = [];
for (const weight of [1, 3]) {
  sum += cost(weight);
  parts.push(sum);
}
"""


def watched(folder: Path, text: str, *watches: str) -> dict[str, list[str]]:
    """What is told of watched expressions, in order."""
    program = folder / "ferry.js"
    program.write_text(text)
    case = Case(number=1, name="one", stdin="")
    plan = Plan(program=program, cases=(case,))
    trace, _ = trace_case(plan, case, node(), watches=watches)
    told: dict[str, list[str]] = {}
    for step in trace.steps:
        for change in step.changes:
            if change.name.startswith("[") and change.after is not None:
                told.setdefault(change.name, []).append(change.after.text)
    return told


def test_what_is_watched_is_told_wherever_it_is_another(tmp_path):
    nowhere = "(it has no value here)"
    assert watched(tmp_path, WATCHED, "total * 10", "parts.length") == {
        "[total * 10]": [nowhere, "20", nowhere, "20", "30", "50", nowhere],
        "[parts.length]": [nowhere, "0", "1", "2"],
    }


def test_a_watch_runs_nothing_of_the_program(tmp_path):
    text = "let n = 0;\nconst pier = {\n  get cars() { n += 1; return n; }\n};\nn += 0;\nconsole.log(n);\n"
    assert watched(tmp_path, text, "pier.cars") == {
        "[pier.cars]": ["(it could run the program itself: see line 3 of ferry.js)"]
    }


GROUPS = [
    ("const average = low + high / 2;", "low + (high / 2)"), ("x = 3;", ""), ("x = (", ""),
    ("if (a < 2 && b || !c) {", "((a < 2) && b) || (!c)"), ("return -x + 2 * y;", "(-x) + (2 * y)"),
    ("} else if (a + 1 < b) {", "(a + 1) < b"), ("} while (a + 1 < b);", "(a + 1) < b"),
    ("for (let i = 0; i < n - 1; i++) {", "i < (n - 1)"), ("f((a + b) * 2);", "f((a + b) * 2)"),
    ("total += 3 + 4 * 2;", "3 + (4 * 2)"), ("const f = (a) => a + b * 2;", "(a) => a + (b * 2)"),
    ("(a + b).toFixed(2 * (c + 1));", "(a + b).toFixed(2 * (c + 1))"), ("do {", ""),
]  # fmt: skip


@pytest.mark.parametrize(("line", "told"), GROUPS)
def test_the_grouping_that_the_language_has_in_mind_is_written_out(line, told):
    assert grouped(line) == told
