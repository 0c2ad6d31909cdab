"""However the tool ends, nothing goes on that it started, and nothing lies about that it made."""

from __future__ import annotations

import contextlib
import fcntl
import os
import pty
import select
import signal
import struct
import subprocess
import sys
import tempfile
import termios
import threading
import time
from collections.abc import Callable, Iterator
from pathlib import Path

import psutil
import pytest

from conftest import OWN
from oddsum.model.case import Case, Plan
from oddsum.model.errors import RunError
from oddsum.run.keeper.client import KEEPER
from oddsum.run.leftovers import sweep_saves
from oddsum.run.rooms import PREFIX, sweep
from oddsum.run.runner import runner_of
from oddsum.run.scratch import Scratch, bundle

PLAN = '[[case]]\nname = "a"\nstdin = ""\nstdout = "x"\ntimeout = 100\n'
# It starts one that leaves the session, and one that goes on when its parent has ended; then waits.
STAYS = """
import os, subprocess, sys, time
WORD = {word!r}
home = os.getcwd()
for n in range(1200):  # deeper than calls go: it has to be taken away all the same
    os.mkdir("d")
    os.chdir("d")
os.chdir(home)
long = "import sys, time; time.sleep(99)"
subprocess.Popen([sys.executable, "-c", long, WORD], start_new_session=True)
if os.fork() == 0:
    if os.fork() == 0:
        os.setsid()
        os.execv(sys.executable, [sys.executable, "-c", long, WORD])
    os._exit(0)
open({ready!r}, "w").close()
while True:
    time.sleep(0.05)
"""


class Place:
    """A program that starts others and stays, in a folder of its own, with its own temp folder."""

    def __init__(self, folder: Path) -> None:
        self.word, self.ready = f"odd-{os.getpid()}-{id(folder)}", folder / "ready"
        self.rooms, self.program = folder / "temp", folder / "home" / "ferry.py"
        self.rooms.mkdir()
        self.program.parent.mkdir()
        self.program.write_text(STAYS.format(word=self.word, ready=str(self.ready)))
        self.program.with_suffix(".cases.toml").write_text(PLAN)

    def environment(self) -> dict[str, str]:
        return {**os.environ, "TMPDIR": str(self.rooms), "TERM": "xterm-256color"}

    def command(self, *words: str) -> list[str]:
        return [sys.executable, "-m", "oddsum", *words, str(self.program), "--python", OWN.path]

    def alive(self) -> list[int]:
        found = []
        for process in psutil.process_iter():
            with contextlib.suppress(psutil.Error):
                words = process.cmdline()
                if self.word in words or any(str(self.rooms) in w for w in words):
                    found.append(process.pid)
        return found

    def await_start(self) -> None:
        wait_for(self.ready.exists)
        wait_for(lambda: len(self.alive()) >= 2)

    def assert_nothing_left(self) -> None:
        wait_for(lambda: not self.alive(), self.alive)
        wait_for(
            lambda: not list(self.rooms.glob(PREFIX + "*")), lambda: list(self.rooms.iterdir())
        )


def wait_for(holds: Callable[[], object], told: Callable[[], object] = lambda: "", seconds=30.0):
    end = time.monotonic() + seconds
    while not holds():
        assert time.monotonic() < end, told()
        time.sleep(0.02)


@pytest.fixture
def place(tmp_path: Path) -> Iterator[Place]:
    made = Place(tmp_path)
    yield made
    for process in made.alive():
        with contextlib.suppress(OSError):
            os.kill(process, signal.SIGKILL)


@pytest.mark.parametrize("how", [signal.SIGKILL, signal.SIGHUP, signal.SIGTERM, signal.SIGINT])
def test_a_command_that_is_ended_takes_all_it_started_with_it(place, how):
    def as_usual() -> None:
        signal.signal(how, signal.SIG_DFL)  # whoever started us may have had it ignored

    tool = subprocess.Popen(place.command("check"), env=place.environment(),
                            stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL,
                            preexec_fn=None if how == signal.SIGKILL else as_usual)  # noqa: PLW1509  # fmt: skip
    place.await_start()
    tool.send_signal(how)
    tool.wait(30)
    place.assert_nothing_left()


class Window:
    """The application in a terminal of its own. ``leads``: it hears of the end by a signal."""

    def __init__(self, command: list[str], environment: dict[str, str], leads: bool) -> None:
        self.master, slave = pty.openpty()
        fcntl.ioctl(slave, termios.TIOCSWINSZ, struct.pack("HHHH", 24, 80, 0, 0))

        def lead() -> None:
            if leads:
                fcntl.ioctl(0, termios.TIOCSCTTY, 0)

        self.process = subprocess.Popen(command, stdin=slave, stdout=slave, stderr=slave,
                                        env=environment, start_new_session=True,
                                        preexec_fn=lead)  # noqa: PLW1509  # fmt: skip
        os.close(slave)
        self._closing = threading.Event()
        self._reads = threading.Thread(target=self._read, daemon=True)
        self._reads.start()

    def _read(self) -> None:
        """Take what is drawn: else the application would wait for room to draw."""
        while not self._closing.is_set():
            if select.select([self.master], [], [], 0.05)[0]:
                try:
                    os.read(self.master, 1 << 16)
                except OSError:  # nobody has the other end any more
                    return

    def close(self) -> None:
        self._closing.set()
        self._reads.join()
        os.close(self.master)


@pytest.mark.parametrize(("leads", "how"), [
    (True, "closed"), (False, "closed"), (False, "asked to end"), (False, "asked, and closed"),
    (False, "killed"),
])  # fmt: skip
def test_a_terminal_that_goes_away_ends_the_application(place, leads, how):
    window = Window(place.command(), place.environment(), leads)
    place.await_start()
    if how == "killed":
        window.process.kill()
    if how.startswith("asked"):
        window.process.send_signal(signal.SIGTERM)
    if how.endswith("closed"):
        window.close()
    window.process.wait(30)
    place.assert_nothing_left()


def test_a_keeper_that_is_killed_is_told_and_the_next_run_has_another(tmp_path):
    program = tmp_path / "ferry.py"
    program.write_text("import time\nprint('on', flush=True)\ntime.sleep(0.3)\n")
    plan = Plan(program=program)
    case = Case(number=1, name="a", stdout="on")
    with runner_of(plan, OWN) as runner, Scratch(bundle(plan), runner.room) as scratch:
        assert runner.run(case, scratch).output == "on\n"
        keeper = KEEPER._process
        assert keeper is not None
        keeper.kill()
        keeper.wait()
        with contextlib.suppress(RunError):  # the host that waits may have gone too, or go on
            runner.run(case, scratch)
    with runner_of(plan, OWN) as runner, Scratch(bundle(plan), runner.room) as scratch:
        assert runner.run(case, scratch).output == "on\n"
    assert KEEPER._process is not keeper


def test_rooms_of_the_dead_are_swept_and_no_other_s(tmp_path, monkeypatch):
    monkeypatch.setattr(tempfile, "tempdir", str(tmp_path))
    for name in ("dead", "held", "strange"):
        (tmp_path / f"{PREFIX}{name}" / "1").mkdir(parents=True)
    for name in ("dead", "held"):
        (tmp_path / f"{PREFIX}{name}" / "held").touch()
    (tmp_path / f"{PREFIX}link").symlink_to(tmp_path / f"{PREFIX}dead")
    with open(tmp_path / f"{PREFIX}held" / "held") as held:
        fcntl.flock(held, fcntl.LOCK_EX)
        assert sweep() == 1
    left = sorted(p.name.removeprefix(PREFIX) for p in tmp_path.iterdir())
    assert left == ["held", "link", "strange"]


SAVING = """
import sys
from pathlib import Path
from oddsum.source.save import replace_file
path = Path(sys.argv[1])
import os
os.write(1, b"+")
while True:
    for letter in b"ab":
        replace_file(path, bytes([letter]) * 200_000)
"""


def test_a_save_that_is_killed_leaves_the_one_text_or_the_other(tmp_path):
    path = tmp_path / "ferry.py"
    path.write_bytes(b"a" * 200_000)
    left = 0
    for number in range(12):
        saving = subprocess.Popen([sys.executable, "-c", SAVING, path], stdout=subprocess.PIPE)
        assert saving.stdout is not None and saving.stdout.read(1) == b"+"
        time.sleep(0.002 * number)
        saving.kill()
        saving.wait()
        assert set(path.read_bytes()) in ({ord("a")}, {ord("b")})
        assert path.stat().st_size == 200_000
        left += len(list(tmp_path.iterdir())) - 1
        sweep_saves(tmp_path)
        assert [p.name for p in tmp_path.iterdir()] == ["ferry.py"]
    (tmp_path / f".ferry.py.oddsum-{os.getpid()}-x").touch()  # of one that lives, a moment ago
    (tmp_path / ".ferry.py.swp").touch()
    sweep_saves(tmp_path)
    assert len(list(tmp_path.iterdir())) == 2


FULL = "mount -t tmpfs -o size=64k none {place} && cp {plan} {place}/ferry.cases.toml && "


@pytest.mark.skipif(
    subprocess.run(["unshare", "-rm", "true"], capture_output=True, check=False).returncode != 0
    if os.path.exists("/usr/bin/unshare") else True,
    reason="this system does not let its users mount anything",
)  # fmt: skip
def test_a_full_disk_leaves_no_half_of_a_file(tmp_path):
    """A report, a plan and a chart on a disk that is full: a sentence, and nothing of 0 bytes."""
    place, home = tmp_path / "full", tmp_path / "home"
    place.mkdir()
    home.mkdir()
    program = home / "ferry.py"
    program.write_text("print(5)\n")
    plan = program.with_suffix(".cases.toml")
    plan.write_text('[[case]]\nname = "a"\nstdout = "5"\n')
    odd = f"{sys.executable} -m oddsum"
    script = (
        FULL.format(place=place, plan=plan)
        + f"head -c 63000 /dev/zero > {place}/filler 2>/dev/null; "
        f"export XDG_DATA_HOME={place}; "
        f"{odd} report {program} -o {place}/report.html; echo report $?; "
        f"{odd} check {program} -o {place}/check.txt; echo check $?; "
        f"{odd} chart {program} --what source -o {place}/chart.svg; echo chart $?; "
        f"ls -A {place}"
    )
    done = subprocess.run(["unshare", "-rm", "sh", "-c", script], capture_output=True, text=True,
                          check=False, timeout=120)  # fmt: skip
    told = done.stdout.split()
    assert done.stderr.count("no space left") >= 2, done.stderr
    assert "Traceback" not in done.stderr
    assert not {"report.html", "check.txt", "chart.svg"} & set(told), done.stdout
    assert not [n for n in told if n.startswith(".")]
