"""The scratch copy: what is taken along, what is left, and how it is put back."""

from __future__ import annotations

import os
import sys

import pytest

from conftest import OWN
from oddsum.languages.python.interpreter import find_interpreter
from oddsum.model.case import Case, Plan
from oddsum.model.errors import InterpreterError
from oddsum.run import scratch as scratch_module
from oddsum.run.begin import fresh
from oddsum.run.output import as_text, read_marks
from oddsum.run.process import Limits, run_probe
from oddsum.run.scratch import Scratch, bundle


@pytest.fixture
def folder(tmp_path):
    """A learner's folder, with much that is not theirs."""
    for name, text in {
        "main.py": "import tide\nprint(open('data/in.txt').read())",
        "tide.py": "",
        "data/in.txt": "7",
        ".hidden/x": "1",
        ".secret": "1",
        "venv/lib.py": "1",
        "mine/pyvenv.cfg": "",
        "mine/lib.py": "1",
        "__pycache__/main.pyc": "1",
        "node_modules/x.js": "1",
        "notes.txt": "n",
    }.items():
        path = tmp_path / name
        path.parent.mkdir(parents=True, exist_ok=True)
        path.write_text(text)
    return tmp_path


def test_the_learner_s_files_are_taken_and_no_others(folder):
    taken = bundle(Plan(program=folder / "main.py"))
    assert set(taken.files) == {"main.py", "tide.py", "data/in.txt", "notes.txt"}
    assert (taken.program, taken.left_out) == ("main.py", "")


def test_what_has_no_room_is_left_out_and_said_once(folder, monkeypatch):
    monkeypatch.setattr(scratch_module, "MOST_BYTES", 1000)
    (folder / "large.csv").write_text("x" * 900)
    (folder / "named.csv").write_text("x" * 900)
    case = Case(number=1, name="x", stdin="named.csv\n")
    taken = bundle(Plan(program=folder / "main.py", cases=(case,)))
    assert "named.csv" in taken.files and "large.csv" not in taken.files
    assert taken.left_out == ("Not taken along, since all files may be 20 MB together: large.csv.")


def test_a_folder_with_too_many_files_is_not_walked_to_its_end(folder, monkeypatch):
    monkeypatch.setattr(scratch_module, "MOST_FILES", 3)
    taken = bundle(Plan(program=folder / "main.py"))
    assert {"main.py", "tide.py"} <= set(taken.files)
    assert "Only the first 3 files" in taken.left_out


def snapshot(scratch: Scratch) -> dict[str, bytes]:
    return {
        os.path.relpath(os.path.join(base, f), scratch.folder): open(
            os.path.join(base, f), "rb"
        ).read()
        for base, _, files in os.walk(scratch.folder)
        for f in files
    }


def test_it_is_put_back_whatever_was_done_to_it(folder):
    with Scratch(bundle(Plan(program=folder / "main.py"))) as scratch:
        before = snapshot(scratch)
        place = scratch.folder
        (place / "data" / "in.txt").unlink()
        (place / "data").rmdir()
        (place / "data").write_text("a file where a folder was")
        scratch.put_back()
        assert snapshot(scratch) == before
        (place / "tide.py").write_text("changed")
        (place / "new" / "deep").mkdir(parents=True)
        (place / "new" / "deep" / "x").write_text("1")
        (place / "link").symlink_to("/etc")
        (place / "notes.txt").chmod(0)
        scratch.put_back()
        assert snapshot(scratch) == before
        assert sorted(p.name for p in place.iterdir()) == [
            "data",
            "main.py",
            "notes.txt",
            "tide.py",
        ]
        scratch.lay(Case(number=1, name="x", files={"deep/er.txt": "1"}))
        assert scratch.content("deep/er.txt") == "1"
        scratch.put_back()
        assert scratch.content("deep/er.txt") is None
    assert not place.exists()


def test_only_what_changed_is_written_anew(folder):
    with Scratch(bundle(Plan(program=folder / "main.py"))) as scratch:
        kept = (scratch.folder / "notes.txt").stat().st_mtime_ns
        (scratch.folder / "tide.py").write_text("changed")
        scratch.put_back()
        assert (scratch.folder / "notes.txt").stat().st_mtime_ns == kept


def test_the_learner_s_interpreter_is_found_in_order(tmp_path, monkeypatch):
    program = tmp_path / "x.py"
    program.touch()
    for name in ("active", ".venv"):
        place = tmp_path / name / "bin" / "python"
        place.parent.mkdir(parents=True)
        place.symlink_to(sys.executable)
    found = find_interpreter(program)
    assert found.version >= (3, 9)
    monkeypatch.setenv("VIRTUAL_ENV", str(tmp_path / "active"))
    assert "active" in find_interpreter(program).path
    monkeypatch.delenv("VIRTUAL_ENV")
    assert ".venv" in find_interpreter(program).path
    assert find_interpreter(program, sys.executable).path == sys.executable


def test_an_interpreter_that_is_none_is_told(tmp_path):
    fake = tmp_path / "python"
    fake.write_text("#!/bin/sh\nexit 1\n")
    fake.chmod(0o755)
    for name in (str(fake), "no-such-python", str(tmp_path)):
        with pytest.raises(InterpreterError, match="no Python interpreter"):
            find_interpreter(tmp_path / "x.py", name)


def test_marks_are_taken_out_and_prompts_placed():
    data = "a\0NN<How? \0NN>b\0NN<ö? \0NN>c\0NN<Last? \0NN>".encode()
    clean, asked = read_marks(data, "NN", ["1", "2"])
    text, moved, is_utf8 = as_text(clean, asked)
    assert (text, is_utf8) == ("aHow? bö? cLast? ", True)
    assert moved == ((1, 6, "1"), (7, 10, "2"))


def test_a_mark_that_forgets_what_came_before():
    clean, asked = read_marks(b"setup\0NN<x\0NN>\0NN!real", "NN", ["1"])
    assert (clean, asked) == (b"real", ())


def test_what_only_looks_like_a_mark_stays():
    clean, _ = read_marks(b"\0XX<a\0NN?b", "NN", [])
    assert clean == b"\0XX<a\0NN?b"


def test_a_request_of_another_version_is_refused(tmp_path):
    (tmp_path / "x.py").touch()
    request = {"folder": str(tmp_path), "mode": "case", "program": "x.py"}
    limits = Limits(cpu=2, wall=5, output=1000)
    with Scratch(bundle(Plan(program=tmp_path / "x.py"))) as scratch:
        heard = run_probe(fresh(OWN), scratch.room, request, "", limits)
    assert heard.exit_status != 0 and not heard.of_kind("end")
