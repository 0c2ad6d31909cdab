"""Programs of many kinds: what the plain run prints is what node prints, and so is what is recorded."""

from __future__ import annotations

import json

import pytest
from running import bare, node

from conftest import DATA
from oddsum.check.plan import check_all
from oddsum.check.traced import trace_case
from oddsum.languages.javascript.interpreter import find_interpreter
from oddsum.model.case import Case, Plan
from oddsum.model.errors import InterpreterError, StartError
from oddsum.plan.read import read_plan
from oddsum.trace.ask import Story

PROGRAMS = ["closures.js", "classes.js", "lines.js", "shadows.js", "modern.mjs", "older.js",
            "waiting.js"]  # fmt: skip
TYPED = "Ada 3\nBo 4\n"


@pytest.mark.parametrize("name", PROGRAMS)
def test_what_is_printed_is_what_node_prints_recorded_or_not(name):
    program = DATA / "javascript" / name
    alone = bare(program, TYPED)
    case = Case(number=1, name="one", stdin=TYPED)
    trace, result = trace_case(Plan(program=program, cases=(case,)), case, node())
    story = Story(trace)
    assert result.run.output == alone.stdout
    assert (result.run.exit_status or bool(result.run.error)) == alone.returncode
    assert story.output_until(story.last) == alone.stdout
    assert trace.remarks == () and trace.complete


def run(folder, text, plan, name="ferry.js"):
    program = folder / name
    program.write_text(text, encoding="utf-8")
    file = program.with_suffix(".cases.toml")
    file.write_text(plan, encoding="utf-8")
    return check_all(read_plan(file, program), node())


def typed(text, wanted):
    return f'[[case]]\nname = "one"\nstdin = {json.dumps(text)}\nstdout = {json.dumps(wanted)}\n'


ASKING = "const a = prompt('A? '); const b = prompt('B? '); console.log(a + b);"
LINES = """
const lines = [];
require('readline').createInterface({ input: process.stdin }).on('line', l => lines.push(l))
  .on('close', () => console.log(lines.join('+')));
"""
QUESTIONS = """
const rl = require('readline').createInterface({ input: process.stdin, output: process.stdout });
rl.question('A? ', a => rl.question('B? ', b => { console.log(a + b); rl.close(); }));
"""
WHOLE = "console.log(require('fs').readFileSync(0, 'utf8').split('\\n').join('+'));"
STREAM = """
let text = '';
process.stdin.setEncoding('utf8');
process.stdin.on('data', part => { text += part; }).on('end', () => console.log(text.trim()));
"""
EACH = """
const rl = require('readline').createInterface({ input: process.stdin });
(async () => { for await (const line of rl) console.log(line.length); })();
"""


@pytest.mark.parametrize(("text", "given", "wanted"), [
    (ASKING, "3\n4\n", "34"), (ASKING, "3\r\n4", "34"), (LINES, "a\nb\n", "a+b"),
    (QUESTIONS, "3\n4\n", "34"), (WHOLE, "a\nb\n", "a+b+"), (STREAM, "a\nb\n", "a\nb"),
    (EACH, "ab\nc\n", "2\n1"),
    ("console.log(confirm('Sure? ') ? 'yes' : 'no'); alert('bye');", "n\n", "no\nbye"),
    ("document.write('<b>1</b><br>2');", "", "1\n2"),
])  # fmt: skip
def test_what_is_typed_in_is_read_whatever_reads_it(tmp_path, text, given, wanted):
    [result] = run(tmp_path, text, typed(given, wanted))
    assert result.outcome.value == "agrees", result.difference


def test_questions_that_are_awaited_each_get_their_line(tmp_path):
    """As on a terminal: what comes through a pipe too early is lost to them."""
    text = (DATA / "javascript" / "asked.js").read_text()
    [result] = run(tmp_path, text, typed("Ada\nBo\n", "[ 'Ada', 'Bo' ]"))
    assert result.outcome.value == "agrees", result.difference
    assert [answer for _, _, answer in result.run.asked] == ["Ada", "Bo"]


STOPS = [
    ("console.log(total);", "stopped", "ReferenceError", 1, "nothing named `total`"),
    ("const seats = {};\nconsole.log(seats.rows.length);", "stopped", "TypeError", 2, "`.length` was asked"),
    ("let a = 1\nthrow new RangeError('full')", "stopped", "RangeError", 2, ""),
    ("prompt('A? ');\nprompt('B? ');", "stopped", "InputEnded", 2, "more input"),
    ("function f(n) {\n  return f(n + 1); }\nf(0);", "stopped", "RangeError", 2, "called itself"),
    ("throw 'no';", "stopped", "thrown", 1, "threw 'no'"),
    ("let n = 3;\nwhile (n > 0) { n += 1; }", "endless", "endless", 2, ""),
    ("for (let i = 0; i < 3; i--) {\n  let x = i;\n}", "endless", "endless", 1, ""),
    ("(async () => { throw new Error('late') })();", "stopped", "Error", 1, ""),
]  # fmt: skip


@pytest.mark.parametrize(("text", "outcome", "kind", "line", "words"), STOPS)
def test_what_stops_it_is_told_with_its_line_and_in_plain_words(
    tmp_path, oddsum, text, outcome, kind, line, words
):
    [result] = run(tmp_path, text, "timeout = 0.6\n" + typed("1\n", "x"))
    error = result.run.error
    assert (result.outcome.value, error.type, error.line) == (outcome, kind, line)
    if words:
        _, told, _ = oddsum("check", tmp_path / "ferry.js")
        assert words.replace("`", "").casefold() in " ".join(told.split()).casefold()


def test_the_values_at_the_line_where_it_stops(tmp_path):
    text = "const FREE = 2;\nfunction cost(weight) {\n  return weight.kilos.toFixed(FREE);\n}\ncost({ grams: 3 });\n"
    [result] = run(tmp_path, text, typed("", "x"))
    assert dict(result.run.error.values) == {"weight": "{grams: 3}"}


@pytest.mark.parametrize(("text", "line", "words"), [
    ("let a = 1;\nif (a > 0 {\n}", 2, "stands where it cannot"),
    ("console.log('a);", 1, "not closed"),
    ("function f() {\n  return 1;\n", 3, "never closed"),
    ("let a = 1;\nlet a = 2;", 2, "declared a second time"),
])  # fmt: skip
def test_what_cannot_start_is_told_with_its_line(tmp_path, text, line, words):
    with pytest.raises(StartError) as told:
        run(tmp_path, text, typed("", "x"))
    assert told.value.line == line
    assert words in str(told.value)


CALLS = [
    ("fare(12)", "3", "agrees"), ("fare(12)", "'3'", "differs"), ("[fare(9), {a: fare(40)}]", "[3, {a: 6}]", "agrees"),
    ("total([1, 2])", "0.30000000000000004", "agrees"), ("total([NaN])", "NaN", "agrees"),
    ("total([])", "-0", "agrees"), ("later(3)", "6", "agrees"), ("nothing()", "undefined", "agrees"),
    ("nothing()", "null", "differs"), ("new Set([fare(1)])", "new Set([3])", "agrees"),
    ("new Map([['a', fare(1)]])", "new Map([['a', 3]])", "agrees"), ("fare(40)", "ADULT", "agrees"),
]  # fmt: skip
FARES = """
const ADULT = 6;
function fare(age) { return age < 16 ? 3 : ADULT; }
const total = prices => prices.reduce((sum, price) => sum + price / 10, 0);
async function later(age) { await null; return fare(age) * 2; }
function nothing() {}
const asked = prompt('How many? ');
let counted = asked * 2;
function main() { console.log(fare(prompt('Age? '))); }
main();
"""


@pytest.mark.parametrize(("call", "wanted", "outcome"), CALLS)
def test_a_call_is_compared_by_structure_and_leaves_the_main_part_out(
    tmp_path, call, wanted, outcome
):
    plan = f'[[case]]\nname = "one"\ncall = {json.dumps(call)}\nreturns = {json.dumps(wanted)}\n'
    [result] = run(tmp_path, FARES, plan)
    assert result.outcome.value == outcome, result.difference
    assert result.run.skipped == (7, 8, 10)
    assert result.run.output == ""


def test_a_wrong_value_is_told_in_the_languages_own_words(tmp_path):
    plan = '[[case]]\nname = "one"\ncall = "fare(\'a\')"\nreturns = "null"\n'
    [result] = run(tmp_path, "function fare(age) {}", plan)
    assert result.difference.summary == "null expected, undefined came out: nothing was returned"
    plan = plan.replace('"null"', '"[true, 1]"')
    [result] = run(tmp_path, "function fare(age) { return [false, 1]; }", plan)
    assert "true expected, false came out" in result.difference.summary


def test_random_numbers_are_the_same_each_time(tmp_path):
    text = "console.log(Math.random(), Math.floor(Math.random() * 100));"
    plan = typed("", "x")
    first, again, other = (run(tmp_path, text, p)[0].run.output
                           for p in (plan, plan, plan + "seed = 5\n"))  # fmt: skip
    assert first == again != other


def test_the_programs_own_changes_to_the_language_are_for_itself(tmp_path):
    text = ("Array.prototype.map = () => 'mine'; JSON.stringify = () => '{}'; Object.keys = () => [];"
            "String.prototype.split = () => []; console.log([1].map(x => x));")  # fmt: skip
    [result] = run(tmp_path, text, typed("", "mine"))
    assert result.outcome.value == "agrees"


def test_no_node_is_said_with_what_to_do(tmp_path, monkeypatch):
    monkeypatch.setenv("PATH", str(tmp_path))
    with pytest.raises(InterpreterError, match="node, which runs it, is not on the PATH") as told:
        find_interpreter(tmp_path / "ferry.js")
    assert "--node" in told.value.hint
    old = tmp_path / "node"
    old.write_text("#!/bin/sh\necho v16.20.1\n")
    old.chmod(0o755)
    with pytest.raises(InterpreterError, match=r"is node 16.20.1; .* node 18 and newer"):
        find_interpreter(tmp_path / "ferry.js")


def test_a_program_that_only_waits_is_told_what_it_waits_for(tmp_path):
    [result] = run(tmp_path, "setInterval(() => {}, 50);", "timeout = 0.2\n" + typed("", "x"))
    assert result.outcome.value == "endless"
    assert "a timer that goes on" in " ".join(result.run.remarks)
