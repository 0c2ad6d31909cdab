"""Programs of many kinds: what the plain run prints is what node prints, and so is what is recorded."""

from __future__ import annotations

import json
import resource
import subprocess

import pytest
from running import bare, node

from conftest import DATA
from oddsum.check.plan import check_all
from oddsum.check.traced import trace_case
from oddsum.languages.javascript.interpreter import find_interpreter
from oddsum.model.case import Case, Plan
from oddsum.model.errors import InterpreterError, StartError
from oddsum.plan.read import read_plan
from oddsum.run.scratch import bundle
from oddsum.run.trials import Allowance, TrialBench
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


CERTIFICATES = "console.log(process.env.NODE_EXTRA_CA_CERTS ? 'read' : 'left out');"


@pytest.mark.parametrize(("terms", "printed"), [
    ("", "read"),
    ("fence = true\n", "left out"),
    ('fence = true\nallow = ["network"]\n', "read"),
])  # fmt: skip
def test_certificates_are_read_where_there_is_a_network(tmp_path, monkeypatch, terms, printed):
    """Node reads all that it knows at each start then."""
    certificates = tmp_path / "own.pem"
    certificates.touch()
    monkeypatch.setenv("NODE_EXTRA_CA_CERTS", str(certificates))
    (result,) = run(tmp_path, CERTIFICATES, terms + typed("", printed))
    assert result.outcome.value == "agrees", result.run


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
STREAM_WHOLE = """
let text = '';
process.stdin.on('data', part => { text += part; }).on('end', () =>
  console.log(text.replaceAll('\\r', '\\\\r').replaceAll('\\n', '|\\n')));
"""
EACH = """
const rl = require('readline').createInterface({ input: process.stdin });
(async () => { for await (const line of rl) console.log(line.length); })();
"""


@pytest.mark.parametrize(("text", "given", "wanted"), [
    (ASKING, "3\n4\n", "34"), (ASKING, "3\r\n4", "34"), (LINES, "a\nb\n", "a+b"),
    (LINES, "a\n\n", "a+"), (STREAM_WHOLE, "a\r\n\nb", "a\\r|\n|\nb"),
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


DATED = """\
class Day extends Date { name() { return ["Su", "Mo", "Tu", "We", "Th", "Fr", "Sa"][this.getDay()]; } }
function told() {
  const now = new Date(), other = new Date(2020, 1, 29);
  return [now.getFullYear(), now.getMonth() + 1, now.getDate(), now.getHours(), other.getDate(),
          Date.now() === now.getTime(), now instanceof Date, new Day().name(), Date().slice(0, 15),
          Date.parse("2020-01-01T00:00:00Z"), now.constructor === Date || now.constructor.name];
}
console.log(told().join(" "));
"""


def test_the_date_is_the_plan_s_where_it_has_one(tmp_path):
    """In a plain run, in a recording and on trial."""
    wanted = "2026 5 4 10 29 true true Mo Mon May 04 2026 1577836800000 Date"
    cases = (
        f'today = "2026-05-04T10:30"\n[[case]]\nname = "a"\nstdin = ""\nstdout = "{wanted}\\n"\n'
    )
    cases += (
        '[[case]]\nname = "b"\ntoday = "2026-12-24"\ncall = "told().slice(0, 4).join(\' \')"\n'
        "returns = \"'2026 12 24 0'\"\n"
    )
    results = run(tmp_path, DATED, cases)
    assert [r.outcome.value for r in results] == ["agrees", "agrees"], results[0].difference
    plan = read_plan(tmp_path / "ferry.cases.toml", tmp_path / "ferry.js")
    trace, _ = trace_case(plan, plan.cases[0], node())
    assert Story(trace).all_output[0] == wanted + "\n"
    allowed = Allowance(rounds=5_000, seconds=1.0, output=10_000)
    with TrialBench(plan, bundle(plan), node(), lambda case, run: run) as bench:
        bench.load({"ferry.js": DATED}, [])
        first, second = (next(bench.tried(c, ((),), allowed)) for c in plan.cases)
    assert first.output == wanted + "\n"
    assert second.returned.equal


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
    [result] = run(tmp_path, text, "timeout = 0.4\n" + typed("1\n", "x"))
    error = result.run.error
    assert (result.outcome.value, error.type, error.line) == (outcome, kind, line)
    if words:
        _, told, _ = oddsum("check", tmp_path / "ferry.js")
        assert words.replace("`", "").casefold() in " ".join(told.split()).casefold()


def test_a_case_s_time_counts_from_where_its_program_begins(tmp_path):
    """Node itself takes a tenth of a second of the processor, and more on a slow machine: with so
    much and no more for the program, it would be over before it begins."""
    before = resource.getrusage(resource.RUSAGE_CHILDREN)
    subprocess.run([node().path, "-e", "0"], check=True)
    after = resource.getrusage(resource.RUSAGE_CHILDREN)
    own = max(0.2, after.ru_utime - before.ru_utime + after.ru_stime - before.ru_stime)
    waits = f"setTimeout(() => console.log('in'), {int(3000 * own)});"
    [result] = run(tmp_path, waits, f"timeout = {own:.3f}\n" + typed("", "in\n"))
    assert (result.outcome.value, result.run.cpu < own) == ("agrees", True)


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
