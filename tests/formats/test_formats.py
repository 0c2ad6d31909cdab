"""What the commands print: every format of the table exists, and what it writes can be read back."""

from __future__ import annotations

import csv
import io
import json
import xml.etree.ElementTree as ElementTree
from pathlib import Path

import click
import pytest

import oddsum.formats
from oddsum.cli import cli
from oddsum.formats.table import FORMATS, choices

FOLDER = Path(oddsum.formats.__file__).parent
AWKWARD = """\
print("a & b <c> ]]> 'd' \\"e\\"")
text = input()
rows = [text, text * 2, "comma, \\n new line"]
print(rows)
"""
PLAN = """\
[[case]]
name = "a & <b>, \\"c\\""
stdin = "é, 漢\\n"
stdout = "x"

[[case]]
name = "none"
stdin = "q\\n"
"""


@pytest.fixture
def awkward(program):
    return program(AWKWARD, PLAN)


def test_every_format_of_the_table_is_a_file_and_every_file_is_in_the_table():
    for answer, formats in FORMATS.items():
        for how in formats:
            names = [f"{answer}_{how}.py", f"{answer}_{how}.html.j2"]
            assert any((FOLDER / name).exists() for name in names), names
    made = {p.stem for p in FOLDER.glob("*_*.py") if p.stem.partition("_")[0] in FORMATS}
    assert made == {f"{a}_{how}" for a, formats in FORMATS.items() for how in formats}


@pytest.mark.parametrize("command", ["check", "trace", "pinpoint", "report"])
def test_a_command_offers_the_formats_of_the_table(command):
    found = cli.get_command(click.Context(cli), command)
    option = next(p for p in found.params if "--format" in p.opts)
    assert isinstance(option.type, click.Choice)
    assert tuple(option.type.choices) == choices(command)


def test_check_as_json_and_as_xml_tell_the_same(awkward, oddsum):
    _, text, _ = oddsum("check", awkward, "--format", "json")
    told = json.loads(text)
    _, text, _ = oddsum("check", awkward, "--format", "xml")
    cases = list(ElementTree.fromstring(text).iter("testcase"))
    assert [c.get("name") for c in cases] == [c["name"] for c in told["cases"]]
    assert [c["outcome"] for c in told["cases"]] == ["differs", "open"]
    assert "é" in told["cases"][0]["actual"] and told["format"] == 1
    assert "a & b <c> ]]> 'd'" in told["cases"][0]["actual"]


def test_trace_as_json_and_as_csv_tell_the_same(awkward, oddsum):
    _, text, _ = oddsum("trace", awkward, "--case", "1", "--format", "json", "--full")
    told = json.loads(text)
    _, text, _ = oddsum("trace", awkward, "--case", "1", "--format", "csv", "--full")
    rows = list(csv.DictReader(io.StringIO(text)))
    assert len(rows) == len(told["steps"])
    for row, step in zip(rows, told["steps"], strict=True):
        assert int(row["step"]) == step["step"] and row["output"] == step["output"]
        changed = {c["name"]: c["after"] for c in step["changes"]}
        assert {n: row[n] for n in changed} == changed
        assert not any(row[n] for n in row if n in ("text", "rows") and n not in changed)


@pytest.mark.parametrize("how", ["html", "md"])
def test_a_report_has_the_names_of_cases_as_they_are_and_nothing_runs_in_it(
    awkward, oddsum, how, tmp_path
):
    out = tmp_path / f"r.{how}"
    status, _, _ = oddsum("report", awkward, "-o", out)
    text = out.read_text(encoding="utf-8")
    assert status == 0 and "漢" in text
    assert "<script" not in text.lower()
    assert ("a &amp; &lt;b&gt;" in text) == (how == "html")
