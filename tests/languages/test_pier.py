"""A language of a dozen words goes through Check, Trace and Pinpoint by the protocol alone."""

from __future__ import annotations

import csv
import io
import json
import shutil
import sys
from pathlib import Path

import pytest
from pier.pier import Pier

from oddsum.advise.advice import advise
from oddsum.check.plan import check_all
from oddsum.languages import language_for, language_of, registry
from oddsum.languages.language import Interpreter
from oddsum.model.errors import StartError
from oddsum.plan.read import read_plan
from oddsum.source.program import read_source

HERE = Path(__file__).parent / "pier"


@pytest.fixture(autouse=True)
def _known(monkeypatch):
    monkeypatch.setattr(registry, "LANGUAGES", [*registry.LANGUAGES, Pier()])


@pytest.fixture
def fares(tmp_path):
    for name in ("fares.pier", "fares.cases.toml"):
        shutil.copy(HERE / name, tmp_path)
    return tmp_path / "fares.pier"


def test_its_files_are_known_by_their_ending(fares):
    plan = read_plan(fares.with_suffix(".cases.toml"), fares)
    assert language_of(fares).name == language_for(plan).name == "Pier"
    found = language_of(fares).running.find_interpreter(fares, None)
    assert found == Interpreter(sys.executable, (1, 0, 0), language="Pier")
    assert found.title == "Pier 1.0"


def test_check_runs_every_case_and_tells_how_it_differs(fares, oddsum):
    status, out, _ = oddsum("check", fares, "--format", "json")
    told = json.loads(out)
    assert status == 1
    assert [c["outcome"] for c in told["cases"]] == ["agrees", "differs", "agrees", "agrees"]
    assert told["cases"][1]["actual"].endswith("Total: 3\n")


@pytest.mark.parametrize(("old", "new", "outcome", "words"), [
    ("set total = 0\n", "", "stopped", "total has no value yet"),
    ("set n = n - 1", "set n = n + 0", "stopped", "no more input"),
    ("  ask \"Age? \" age\n  set total = total + fare(age)\n  set n = n - 1", "  set total = 1",
     "endless", "while n > 0"),
])  # fmt: skip
def test_what_stops_it_is_told_with_its_line(fares, oddsum, old, new, outcome, words):
    fares.write_text(fares.read_text().replace(old, new))
    plan = fares.with_suffix(".cases.toml")
    # By the clock that is 5 s: on a busy machine its own processor time has to be over before.
    plan.write_text("timeout = 1.0\n" + plan.read_text())
    _, out, _ = oddsum("check", fares, "--format", "json")
    first = json.loads(out)["cases"][0]
    assert first["outcome"] == outcome and words in first["error"]["message"]
    assert first["error"]["file"] == "fares.pier" and first["error"]["line"] >= 13


def test_a_program_that_cannot_start_says_where(fares):
    fares.write_text(fares.read_text().replace("say ", "shout "))
    plan = read_plan(fares.with_suffix(".cases.toml"), fares)
    with pytest.raises(StartError, match="shout is no word of Pier") as caught:
        check_all(plan, language_of(fares).running.find_interpreter(fares, None))
    assert caught.value.line == 19


def test_trace_follows_it_line_by_line(fares, oddsum):
    status, out, _ = oddsum("trace", fares, "--case", "2", "--format", "csv")
    rows = list(csv.DictReader(io.StringIO(out)))
    assert status == 0
    table = [(int(r["line"]), r["event"], r["condition"], r["total"], r["fare.age"]) for r in rows]
    assert table == [
        (2, "", "", "", ""), (12, "input", "", "", ""), (13, "", "", "0", ""),
        (14, "", "True", "", ""), (15, "input", "", "", ""), (16, "", "", "", ""),
        (2, "call", "", "", "16"), (3, "", "False", "", ""), (6, "", "True", "", ""),
        (7, "return", "", "", ""), (16, "back", "", "3", ""), (17, "", "", "", ""),
        (14, "", "False", "", ""), (19, "", "", "", ""),
    ]  # fmt: skip
    assert rows[-1]["output"] == "Total: 3\n"


def test_a_trace_of_it_can_be_asked(fares, tmp_path):
    from oddsum.check.traced import trace_case
    from oddsum.trace.ask import Story
    from oddsum.trace.calls import calls
    from oddsum.trace.lineage import Lineage, in_tree
    from oddsum.trace.loops import passes
    from oddsum.trace.search import first_true

    plan = read_plan(fares.with_suffix(".cases.toml"), fares)
    language, source = language_of(fares), read_source(fares)
    trace, _ = trace_case(plan, plan.cases[0], language.running.find_interpreter(fares, None))
    story = Story(trace)
    (loop,) = language.reading.loops(source)
    assert [one.rounds for one in passes(story, loop)] == [2]
    assert [c.result.text for c in calls(story)] == ["6", "6"]
    step = first_true(story, story.question("total > 6"), 1)
    assert story.step(step).line == 16
    tree = in_tree(Lineage(story, lambda file: language.reading.reads(source))
                   .of_variable("total", story.last))  # fmt: skip
    assert {one.line for _, one in tree} >= {16, 9}


def test_pinpoint_names_the_line_and_finds_the_mend(fares, oddsum):
    status, out, _ = oddsum("pinpoint", fares, "--format", "json")
    lead = json.loads(out)["leads"][0]
    assert status == 1
    assert (lead["lines"], lead["function"]) == ([6], "fare")
    assert lead["mend"]["settles"] == [2] and lead["mend"]["breaks"] == []
    assert lead["mend"]["edits"][0]["after"] in (["  if age < 16"], ["  if age <= 15"])


def test_the_plan_is_looked_over(fares):
    plan = read_plan(fares.with_suffix(".cases.toml"), fares)
    interpreter = language_of(fares).running.find_interpreter(fares, None)
    found = advise(plan, interpreter, check_all(plan, interpreter))
    assert any("age < 2" in p.gap.text for p in found.proposals)
