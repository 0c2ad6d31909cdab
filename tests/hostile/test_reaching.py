"""Behind the fence nothing a program tries reaches out: held by what is outside, looked at after."""

from __future__ import annotations

import contextlib
import os
import socket
import subprocess
import threading
import time
from collections.abc import Iterator
from pathlib import Path

import psutil
import pytest
from reaching import REACHING

from conftest import MANY, OWN, as_it_is, trial
from oddsum.model.case import Case, Plan
from oddsum.run.rooms import rooms_folder
from oddsum.run.runner import runner_of
from oddsum.run.scratch import Scratch, bundle
from oddsum.run.trials import Allowance, TrialBench

CASE = Case(number=1, name="one", stdin="", files={"laid.txt": "tide"}, writes={"laid.txt": "tide"})
WITHIN = Allowance(rounds=1_000_000, seconds=2.0, output=100_000)


class Outside:
    """What lies around a run: files, a process, sockets that listen; and whether they were touched."""

    def __init__(self, folder: Path) -> None:
        self.folder = folder / "outside"
        self.folder.mkdir(mode=0o755)
        self.file = self.folder / "kept.txt"
        self.file.write_text("kept as it is\n")
        self.file.chmod(0o640)
        self.victim = subprocess.Popen(["sleep", "600"], cwd=self.folder)
        self.heard: list[str] = []
        self.servers = [self._listen(socket.AF_INET, ("127.0.0.1", 0))]
        self.port = self.servers[0].getsockname()[1]
        self.path = str(folder / "s")
        self.abstract = f"odd-{os.getpid()}-{time.monotonic_ns()}"
        self.servers += [
            self._listen(socket.AF_UNIX, self.path),
            self._listen(socket.AF_UNIX, "\0" + self.abstract),
        ]
        self.packets = socket.socket(socket.AF_INET, socket.SOCK_DGRAM)
        self.packets.bind(("127.0.0.1", self.port))
        self.packets.setblocking(False)
        self.before = self.look()

    def _listen(self, family: int, address: object) -> socket.socket:
        server = socket.socket(family)
        server.bind(address)
        server.listen()

        def take() -> None:
            try:
                server.accept()
            except OSError:
                return
            self.heard.append(str(address))

        threading.Thread(target=take, daemon=True).start()
        return server

    def names(self) -> str:
        """Where all this is, as the first lines of a program."""
        told = {"OUT": str(self.folder), "VICTIM": self.victim.pid, "PORT": self.port,
                "SOCKET": self.path, "ABSTRACT": self.abstract,
                "MARK": str(self.folder / "new.txt")}  # fmt: skip
        return "".join(f"{name} = {value!r}\n" for name, value in told.items())

    def look(self) -> object:
        """All that could have been changed."""
        folder, file = self.folder.stat(), self.file.stat()
        victim = psutil.Process(self.victim.pid)
        return (
            sorted(os.listdir(self.folder)), self.file.read_text(), os.listxattr(self.file),
            [(s.st_mode, s.st_uid, s.st_gid, s.st_mtime_ns) for s in (folder, file)],
            victim.status() in ("stopped", "tracing-stop", "zombie", "dead"), victim.nice(),
            victim.rlimit(psutil.RLIMIT_CPU),
        )  # fmt: skip

    def touched(self) -> list[str]:
        """What is not as it was, in words."""
        found = list(self.heard)
        now = self.look()
        if now != self.before:
            found.append(f"{self.before} -> {now}")
        with contextlib.suppress(OSError):
            found.append(f"a packet: {self.packets.recv(10)!r}")
        if any(p.info["cmdline"][-1:] == ["98.75"] for p in psutil.process_iter(["cmdline"])
               if p.info["cmdline"]):  # fmt: skip
            found.append("a process goes on")
        if os.path.exists("/dev/shm/odd_tide"):
            found.append("shared memory")
        return found

    def close(self) -> None:
        self.victim.kill()
        self.victim.wait()
        for server in [*self.servers, self.packets]:
            server.close()


@pytest.fixture
def outside(tmp_path: Path) -> Iterator[Outside]:
    made = Outside(tmp_path)
    yield made
    made.close()


def program_in(folder: Path, outside: Outside, attempt: str) -> Plan:
    home = folder / "home"
    (home / "deep").mkdir(parents=True)
    (home / "deep" / "down.txt").write_text("down\n")
    (home / "data.txt").write_text("data\n")
    program = home / "ferry.py"
    program.write_text(outside.names() + attempt + "\n")
    return Plan(program=program, cases=(CASE,))


def left_in_rooms() -> list[str]:
    """What is there besides the lock, and the empty folders of interpreters that wait."""
    top = rooms_folder()
    found = {str(p.relative_to(top)) for p in top.rglob("*")} - {"held"}
    kept = {room.name for room in top.iterdir() if (room / "tmp").is_dir()}
    return sorted(found - kept - {f"{room}/tmp" for room in kept})


@pytest.mark.parametrize("name", REACHING)
def test_nothing_of_a_fenced_check_reaches_out(tmp_path, outside, name):
    plan = program_in(tmp_path, outside, REACHING[name])
    files = bundle(plan)
    with runner_of(plan, OWN, fenced=True) as runner, Scratch(files, runner.room) as scratch:
        for _ in range(2):  # what the first has left, the second finds
            runner.run(CASE, scratch)
        assert contents(scratch.folder) == dict(files.files)
    assert outside.touched() == []
    assert left_in_rooms() == []


# The layers are the same as a check's; what a trial's own process adds is tried by every third here.
@pytest.mark.parametrize("name", REACHING if MANY else list(REACHING)[::3])
def test_nothing_of_a_trial_reaches_out(tmp_path, outside, name):
    plan = program_in(tmp_path, outside, "")
    edited = {"ferry.py": outside.names() + REACHING[name] + "\n"}
    with TrialBench(plan, bundle(plan), OWN, as_it_is) as trials:
        plain = trial(trials, CASE, {}, WITHIN)
        trial(trials, CASE, edited, WITHIN)
        trial(trials, CASE, edited, WITHIN)
        again = trial(trials, CASE, {}, WITHIN)
        assert (again.output, again.written) == (plain.output, plain.written)
        assert contents(trials.scratch.folder) == dict(bundle(plan).files)
    assert outside.touched() == []


def contents(folder: Path) -> dict[str, bytes]:
    return {
        p.relative_to(folder).as_posix(): p.read_bytes()
        for p in folder.rglob("*")
        if p.is_file() or p.is_symlink()
    }


@pytest.mark.parametrize("name", REACHING if MANY else list(REACHING)[1::6])
def test_nothing_reaches_out_where_a_condition_is_turned(tmp_path, outside, name):
    """Values are tried that the program never has: what they lead to is fenced in all the same."""
    lines = REACHING[name].strip("\n").split("\n")
    guarded = "far = 0\nif far > 5:\n" + "\n".join("    " + line for line in lines) + "\n"
    plan = program_in(tmp_path, outside, guarded)
    source = plan.program.read_text()
    with TrialBench(plan, bundle(plan), OWN, as_it_is) as trials:
        trials.load({plan.program.name: source}, [])
        plain = trials.unedited(CASE, WITHIN)
        trials.load({plan.program.name: source}, [])
        trials.values(CASE, WITHIN, 1.0)
        trials.load({plan.program.name: source}, [])
        assert trials.unedited(CASE, WITHIN).output == plain.output
        assert contents(trials.scratch.folder) == dict(bundle(plan).files)
    assert outside.touched() == []
