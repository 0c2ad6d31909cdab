"""Exceptions of our own, put in on purpose: a sentence, a report, and the work goes on."""

from __future__ import annotations

import os
import subprocess
import sys
from pathlib import Path

import pytest

sys.path.insert(0, str(Path(__file__).parents[1] / "tui"))
from piloting import real_picture, screen, until
from textual._compositor import Compositor
from textual.message import Message

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


async def test_a_panel_that_cannot_be_drawn_says_so_and_the_rest_goes_on(
    demo, monkeypatch, reports
):
    monkeypatch.setattr(Compositor, "render_update", real_picture)
    app = OddSumApp(demo / "fares.py", None, sys.executable)
    async with app.run_test(size=(160, 47)) as pilot:
        await until(pilot, app.workspace.checking.complete)
        ours = [
            w for w in app.screen.query("*") if "render_line" in vars(type(w)) and w.size.height
        ]
        widget = next(w for w in ours if type(w).__module__.startswith("oddsum."))
        monkeypatch.setattr(widget, "render_line", lambda *a: {}["x"])
        widget.refresh()
        await pilot.press("down", "up", "o", "o")
        assert app.is_running and "cannot be drawn" in screen(pilot)
        await pilot.press("2")
        await until(pilot, lambda: app.workspace.station == "trace")
        await pilot.press("1")
        assert app.is_running and len(reports()) == 1


class Broken(Message):
    """What nobody can take."""


async def test_what_fails_at_a_message_takes_the_next_one(demo, monkeypatch, reports):
    app = OddSumApp(demo / "fares.py", None, sys.executable)
    taken = []

    def fail(widget, message):
        taken.append(message)
        raise ValueError("no")

    async with app.run_test(size=(160, 47)) as pilot:
        await until(pilot, app.workspace.checking.complete)
        for target in (app.screen.query_one("#cases"), app.screen, app):
            monkeypatch.setattr(type(target), "on_broken", fail, raising=False)
            for _ in range(2):
                target.post_message(Broken())
            await pilot.pause()
        assert len(taken) >= 6 and app.is_running
        await pilot.press("down")
        assert "went wrong inside Odd Sum" in " ".join(n.message for n in app._notifications)


async def test_what_fails_without_end_ends_the_application_with_a_sentence(
    demo, monkeypatch, reports
):
    app = OddSumApp(demo / "fares.py", None, sys.executable)
    async with app.run_test(size=(160, 47)) as pilot:
        await pilot.pause()
        for _ in range(30):
            app.going_on.take(ValueError("again"), "drawing")
        await pilot.pause()
    assert app.ended_by is not None and app.return_code == 2
    assert 1 <= len(reports()) <= 2


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
