"""Hosts that go from one check to the next: as good as new ones, or not kept."""

from __future__ import annotations

import os
import signal
import threading
import venv
from pathlib import Path

import pytest

from conftest import MANY, OWN
from oddsum.check.plan import check_all
from oddsum.check.recorded import record_each
from oddsum.languages.python.interpreter import find_interpreter
from oddsum.model.case import Case, Plan
from oddsum.run import host as waiting_host
from oddsum.run.spare import SPARES, Lent, beginning
from oddsum.run.terms import UNFENCED, Terms

CASES = (Case(number=1, name="one", stdin="7\n", stdout="14\n"),)


@pytest.fixture(autouse=True)
def none_waits():
    """Each of these tests begins without one."""
    for host in SPARES._hosts:
        host.remove()
    SPARES._hosts.clear()


def checked(path: Path, text: str, cases: tuple[Case, ...] = CASES):
    path.write_text(text)
    return check_all(Plan(program=path, cases=cases), OWN)


def waiting() -> set[int]:
    return {host._kept.pid for host in SPARES._hosts if host._kept is not None}


def test_the_next_check_has_the_hosts_of_the_one_before(tmp_path):
    first = checked(tmp_path / "ferry.py", "print(int(input()) * 2)\n")
    hosts = waiting()
    second = checked(tmp_path / "ferry.py", "print(int(input()) * 3)\n")
    assert [r.outcome.value for r in (*first, *second)] == ["agrees", "differs"]
    assert hosts and waiting() == hosts


def test_the_same_text_under_another_name_is_told_by_that_name(tmp_path):
    (tmp_path / "a").mkdir()
    for name in ("ferry.py", "a/barge.py"):
        (result,) = checked(tmp_path / name, "total = 4\nprint(totl)\n")
        assert (result.run.error.file, result.run.error.line) == (Path(name).name, 2)


def test_a_case_is_recorded_whole_where_it_ran_plainly_before(tmp_path):
    path = tmp_path / "ferry.py"
    results = checked(path, "n = int(input())\nn = n * 2\nprint(n)\n")
    plan = Plan(program=path, cases=CASES)
    kept = record_each(plan, results, OWN, lambda case, trace: [s.line for s in trace.steps])
    assert kept == {1: [1, 2, 3]}


LEAVES = """
import os, tempfile
here = tempfile.gettempdir()
print(sorted(os.listdir(here)), sorted(os.listdir(os.path.dirname(here))), os.getcwd() != here)
open(os.path.join(here, "rope"), "w").write("x")
os.mkdir(os.path.join(here, "deck")); os.symlink("/", os.path.join(here, "deck", "out"))
os.chmod(os.path.join(here, "deck"), 0)
open(os.path.join(os.path.dirname(here), "buoy"), "w").write("x")
os.chmod(here, 0o500)
"""


def test_what_a_program_leaves_the_next_check_does_not_find(tmp_path):
    hosts = set()
    for name in ("ferry.py", "barge.py"):
        (result,) = checked(tmp_path / name, LEAVES)
        assert result.run.output == "[] ['tmp', 'work'] True\n"
        hosts |= waiting()
    assert len(hosts) == 1


SPOILS = {
    "ends it": "import os, signal\nos.kill(os.getppid(), signal.SIGKILL)\n",
    "stops it": "import os, signal\nos.kill(os.getppid(), signal.SIGSTOP)\n",
    "takes its folder away": "import os, shutil, tempfile\nt = tempfile.gettempdir()\n"
                             "shutil.rmtree(t)\nos.symlink('/', t)\n",
}  # fmt: skip


# One that is stopped is waited for, 15 seconds of them.
@pytest.mark.parametrize("how", SPOILS if MANY else [how for how in SPOILS if how != "stops it"])
def test_a_host_that_a_program_spoils_serves_nobody_else(tmp_path, how):
    checked(tmp_path / "ferry.py", SPOILS[how])
    (result,) = checked(tmp_path / "barge.py", "print(int(input()) * 2)\n")
    assert result.outcome.value == "agrees"


def test_a_host_that_was_stopped_is_not_waited_for_without_end(tmp_path, monkeypatch):
    monkeypatch.setattr(waiting_host, "_PATIENCE", 0.5)
    checked(tmp_path / "ferry.py", "print(int(input()) * 2)\n")
    stopped = waiting()
    for pid in stopped:
        os.kill(pid, signal.SIGSTOP)
    (result,) = checked(tmp_path / "ferry.py", "print(int(input()) * 2)\n")
    assert result.outcome.value == "agrees"
    assert not stopped & waiting()


@pytest.mark.parametrize("what", ["terms", "environment", "ended"])
def test_one_that_does_not_fit_is_not_taken(monkeypatch, what):
    with beginning(OWN, UNFENCED) as lent:
        lent.warm()
        known = lent._host
    terms = UNFENCED
    if what == "terms":
        terms = Terms(resident=UNFENCED.resident + 1)
    elif what == "environment":
        monkeypatch.setenv("TIDE", "high")
    else:
        os.kill(known._kept.pid, signal.SIGKILL)
        known._kept.wait(5)
    with Lent(OWN, terms) as other:
        assert other._host is not known


def test_what_was_installed_meanwhile_is_found(tmp_path):
    """What an interpreter reads as it starts: a path file, as an editable installation leaves."""
    venv.create(tmp_path / "own", with_pip=False, symlinks=True)
    (packages,) = (tmp_path / "own").glob("lib/python3*/site-packages")
    interpreter = find_interpreter(tmp_path, str(tmp_path / "own" / "bin" / "python"))
    (tmp_path / "lamps").mkdir()
    (tmp_path / "lamps" / "lantern.py").write_text("LIGHT = 14\n")
    program = tmp_path / "deck" / "ferry.py"
    program.parent.mkdir()
    program.write_text("import lantern\nprint(lantern.LIGHT)\n")
    plan = Plan(program=program, cases=CASES)
    before = check_all(plan, interpreter)
    (packages / "lamps.pth").write_text(f"{tmp_path / 'lamps'}\n")
    after = check_all(plan, interpreter)
    assert [r.outcome.value for r in (*before, *after)] == ["stopped", "agrees"]


def test_a_folder_of_the_path_that_changes_all_the_time_keeps_no_case_from_running(
    tmp_path, monkeypatch
):
    """Such as the folder that a learner works in, and `PYTHONPATH` names."""
    busy, over = tmp_path / "busy", threading.Event()
    busy.mkdir()
    monkeypatch.setenv("PYTHONPATH", str(busy))

    def change():
        while not over.wait(0.0005):
            (busy / "note").touch()
            (busy / "note").unlink()

    others = threading.Thread(target=change)
    others.start()
    try:
        results = checked(tmp_path / "ferry.py", "print(int(input()) * 2)\n", CASES * 3)
    finally:
        over.set()
        others.join()
    assert [r.outcome.value for r in results] == ["agrees"] * 3


def test_no_more_wait_than_can_be_of_use():
    lent = [Lent(OWN, UNFENCED) for _ in range(SPARES._most + 2)]
    for one in lent:
        one.warm()
    pids = [one._host._kept for one in lent]
    for one in lent:
        one.remove()
    assert len(SPARES._hosts) == SPARES._most
    assert sum(kept.poll() is None for kept in pids) == SPARES._most
