"""Exceptions of our own, put in on purpose: a sentence, a report, and the work goes on."""

from __future__ import annotations

import os
import subprocess
import sys
from pathlib import Path

import pytest

from conftest import check_one, python
from oddsum.tui.app import OddSumApp
from oddsum.workspace.checking import Checking
from oddsum.workspace.interface import Part


@pytest.fixture
def reports(monkeypatch, tmp_path):
    folder = tmp_path / "reports"
    folder.mkdir()
    monkeypatch.setattr("tempfile.tempdir", str(folder))
    return lambda: list(folder.glob("oddsum-fault-*.txt"))


async def test_a_key_and_a_panel_that_fail_are_told_and_the_application_goes_on(
    demo, monkeypatch, reports
):
    app = OddSumApp(demo / "fares.py", None, sys.executable)
    app.goes_on = True
    async with app.run_test(size=(160, 47)) as pilot:
        await pilot.pause()
        monkeypatch.setattr(Checking, "check_all", lambda self: 1 / 0)
        await app.run_action("screen.check_all")
        monkeypatch.setattr(type(app.screen), "refresh_from", lambda self, parts: {}["x"])
        app.show(frozenset({Part.CASES}))
        await pilot.pause()
        said = " ".join(n.message for n in app._notifications)
        assert "Something went wrong inside Odd Sum" in said and "KeyError" in said
        assert app.is_running
    (report, *_) = reports()
    assert "Traceback" in report.read_text() and str(demo / "fares.py") not in report.read_text()


def test_a_command_that_fails_is_a_sentence_with_a_report(oddsum, program, monkeypatch, reports):
    path = program("print(5)\n", '[[case]]\nname = "a"\nstdin = ""\nstdout = "5"\n')
    monkeypatch.setattr("oddsum.check.plan.check_all", lambda *a, **k: {}["x"])
    status, out, err = oddsum("check", path, *python())
    assert status == 2 and not out and "Something went wrong inside Odd Sum (check:" in err
    assert len(reports()) == 1 and str(reports()[0]) in err


@pytest.mark.parametrize("target", ["full", "closed"])
def test_an_answer_that_cannot_be_written_is_told(program, target):
    path = program("print(5)\n", '[[case]]\nname = "a"\nstdin = ""\nstdout = "5"\n')
    where = "> /dev/full" if target == "full" else ">&-"
    ran = subprocess.run(
        f"{sys.executable} -m oddsum check {path} --python {sys.executable} {where}",
        shell=True, capture_output=True, text=True, timeout=60, check=False,
        env={**os.environ, "PYTHONPATH": str(Path(__file__).parents[2] / "src")},
    )  # fmt: skip
    assert "Traceback" not in ran.stderr
    if target == "full":
        assert ran.returncode == 2 and "could not be written: No space left" in ran.stderr
    else:
        assert ran.returncode == 0


HARMLESS = [
    ("import os\nos.mkfifo('f')\nprint(5)\n", {"stdout": "5", "writes": {"f": "x"}}, "differs"),
    ("import os\nos.symlink('/dev/zero', 'f')\n", {"stdout": "", "writes": {"f": "x"}}, "differs"),
    ("print(5)\n", {"stdin": "x" * 300 + "\n", "stdout": "5"}, "agrees"),
    ("print(5)\n", {"stdin": "a\0b\n", "stdout": "5"}, "agrees"),
    ("print('a' * 40 + 'b')\n", {"stdout": "(a+)+$", "compare": "pattern"}, "differs"),
]  # fmt: skip


@pytest.mark.parametrize(("source", "case", "outcome"), HARMLESS)
def test_odd_files_names_and_patterns_take_no_time(program, source, case, outcome):
    assert check_one(program(source), **case).outcome.value == outcome


@pytest.mark.parametrize("args", [["/dev/zero"], ["PROGRAM", "--plan", "/dev/zero"], ["/tmp"]])
def test_a_device_is_no_program_and_no_plan(oddsum, program, args):
    path = program("print(5)\n")
    status, _, err = oddsum("check", *[path if a == "PROGRAM" else a for a in args], *python())
    assert status == 2 and ("is no file that could hold" in err or "is a folder" in err)
