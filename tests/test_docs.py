"""The manual is compared with the code: keys of plans, commands, letters, files."""

from __future__ import annotations

import re
from pathlib import Path

import click
import pytest

from oddsum.cli import cli
from oddsum.demo.copy import DEMOS
from oddsum.languages.python.edits import EDIT_RULES
from oddsum.languages.python.notes import RULES
from oddsum.plan import rows
from oddsum.tui.actions import STATIONS, actions_of

ROOT = Path(__file__).parents[1]
DOCS = sorted([*ROOT.glob("*.md"), *(ROOT / "docs").glob("*.md")])


def text_of(name: str) -> str:
    return (ROOT / name).read_text(encoding="utf-8")


def test_every_key_of_a_plan_is_explained_and_no_other():
    told = set()
    for line in text_of("docs/plan.md").splitlines():
        if line.startswith("| `") and not line.startswith(("| `=", "| `≠", "| `!", "| `∞", "| `?")):
            told |= set(re.findall(r"`(\w+)`", line.split("|")[1]))
    assert told == set(rows.CaseRow.__struct_fields__) | set(rows.TopRow.__struct_fields__)


def test_every_command_and_option_of_the_readme_exists():
    readme = text_of("README.md")
    for command, options in re.findall(
        r"^ +oddsum (check|trace|pinpoint|demo|chart|report)(.*)$", readme, re.M
    ):
        found = cli.get_command(click.Context(cli), command)
        known = {o for p in found.params for o in p.opts}
        for option in re.findall(r"--[a-z]+", options):
            assert option in known, f"oddsum {command} {option}"
    assert {"check", "trace", "pinpoint", "demo"} <= set(cli.list_commands(click.Context(cli)))


def test_letters_named_in_the_readme_do_something():
    labels = {a.label for station in STATIONS for a in actions_of(station)}
    five_minutes = text_of("README.md").split("## Five minutes")[1].split("## Your own")[0]
    for key in re.findall(r"`([A-Z?3↑↓→←]|Enter|Ctrl\+Q)`", five_minutes):
        assert key in labels or key in "↑↓"


@pytest.mark.parametrize("path", DOCS, ids=lambda p: p.name)
def test_links_lead_somewhere(path):
    for link in re.findall(r"\]\(([^)#]+)\)", path.read_text(encoding="utf-8")):
        assert (path.parent / link).exists(), f"{path.name}: {link}"


def test_demos_and_kinds_of_slip_are_what_the_docs_count():
    changelog = text_of("CHANGELOG.md")
    assert len(EDIT_RULES) == 44 and "Forty-four kinds" in changelog
    assert len(RULES) == 41 and "Forty-one rules" in changelog
    assert len(DEMOS) == 13 and "Thirteen demo programs" in changelog
    for name in DEMOS:
        (program,) = (ROOT / "src/oddsum/demo/ferry").glob(f"{name}.[pj]*")
        lines = program.read_text().splitlines()
        assert 15 <= len(lines) <= 50


def test_make_targets_of_the_readme_exist():
    targets = set(re.findall(r"^([a-z]+):", text_of("Makefile"), re.M))
    assert set(re.findall(r"make ([a-z]+)", text_of("README.md"))) <= targets
