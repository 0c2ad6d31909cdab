"""The real program in a real terminal: tmux types the keys and reads the screen."""

from __future__ import annotations

import os
import shutil
import subprocess
import sys
import time
from collections.abc import Callable, Iterator
from pathlib import Path

import psutil
import pytest

from conftest import FERRY, MANY

pytestmark = pytest.mark.skipif(shutil.which("tmux") is None, reason="tmux is not installed")


class Terminal:
    """A tmux server of our own with one window."""

    def __init__(self, folder: Path, size: tuple[int, int]) -> None:
        self.socket = folder / "tmux"
        self.size = size

    def tmux(self, *args: str) -> str:
        command = ["tmux", "-S", str(self.socket), "-f", os.devnull, *args]
        return subprocess.run(command, capture_output=True, text=True, check=False).stdout

    def start(self, *args: str) -> None:
        width, height = map(str, self.size)
        command = " ".join([sys.executable, "-m", "oddsum", *args])
        self.tmux("new-session", "-d", "-x", width, "-y", height, f"{command}; echo left; sleep 60")

    def close(self) -> None:
        """Take the terminal away, as a window that is shut; returns once all in it has ended."""
        server = psutil.Process(int(self.tmux("display-message", "-p", "#{pid}")))
        inside = [server, *server.children(recursive=True)]
        self.tmux("kill-server")
        _, alive = psutil.wait_procs(inside, timeout=60)
        assert not alive

    def keys(self, *keys: str) -> None:
        self.tmux("send-keys", *keys)

    def text(self) -> str:
        return self.tmux("capture-pane", "-p")

    def until(
        self, words: str, seconds: float = 60.0, doing: Callable[[], object] = lambda: None
    ) -> str:
        """Wait for words; ``doing`` is done over and over, as a save that must be noticed."""
        end = time.monotonic() + seconds
        while time.monotonic() < end:
            doing()
            text = self.text()
            if words in text:
                return text
            time.sleep(0.1)
        raise AssertionError(f"never saw {words!r}; on the screen:\n{self.text()}")

    def gone(self, words: str, seconds: float = 60.0) -> None:
        end = time.monotonic() + seconds
        while words in self.text():
            assert time.monotonic() < end, f"{words!r} stays on the screen"
            time.sleep(0.1)


SIZES = {"wide": (160, 47), "narrow": (80, 24)}
USUAL = list(SIZES)[: 2 if MANY else 1]  # both where there is time; the main path always


@pytest.fixture(params=[SIZES[name] for name in USUAL], ids=USUAL)
def terminal(request, tmp_path, monkeypatch) -> Iterator[Terminal]:
    settings = tmp_path / "config" / "oddsum" / "settings.toml"
    settings.parent.mkdir(parents=True)
    settings.write_text("walk_seen = true\n")
    monkeypatch.setenv("XDG_CONFIG_HOME", str(tmp_path / "config"))
    monkeypatch.setenv("XDG_DATA_HOME", str(tmp_path / "data"))
    monkeypatch.delenv("LC_ALL", raising=False)
    monkeypatch.setenv("LANG", "C.UTF-8")  # else all is drawn in plain characters, rightly
    one = Terminal(tmp_path, request.param)
    yield one
    one.tmux("kill-server")


# Where what is on the screen is not the point, one size will do.
ONE_SIZE = pytest.mark.parametrize("terminal", [SIZES["wide"]], indirect=True, ids=["wide"])
BOTH_SIZES = pytest.mark.parametrize("terminal", SIZES.values(), indirect=True, ids=SIZES)


def record_live(terminal: Terminal, path: Path) -> None:
    """Open a program that has no plan, put the first card away, and run it live."""
    terminal.start(str(path), "--python", sys.executable)
    terminal.until("THE FIRST CASE")
    terminal.keys("Escape")
    terminal.until("HOW IT WORKS")
    terminal.keys("v")


def mend_line_10(terminal: Terminal, path: Path) -> None:
    """Open fares.py and take the ``=`` out of its line 10, in the editor at Mend."""
    terminal.start(str(path), "--python", sys.executable)
    terminal.until("2 differ")
    terminal.keys("4", "C-g")
    terminal.until("GO TO A LINE")
    terminal.keys("1", "0", "Enter")
    terminal.until("⟨10⟩")
    terminal.keys("End", "Left", "Left", "Left", "Left", "BSpace")


@BOTH_SIZES
def test_the_main_path(terminal):
    terminal.start("demo", "--python", sys.executable)
    terminal.until("2 differ")
    terminal.until("trace case 6")
    terminal.keys("t")
    terminal.until("TRACE TABLE")
    for _ in range(11):
        terminal.keys("Down")
    text = terminal.until("⟨10⟩")
    assert "True" in text
    terminal.keys("3")
    text = terminal.until("strong")
    assert "line 10" in text and "exactly" not in text
    terminal.keys("Enter")
    terminal.until("exactly")
    terminal.keys("Enter")
    terminal.until("trials in")  # the search is over
    terminal.keys("g")
    terminal.until("Which line do you suspect?")
    terminal.keys("1", "0", "Enter")
    terminal.gone("Which line do you suspect?")
    if terminal.size[0] > 80:  # in the small window it stands further down
        terminal.until("strongest lead")
    terminal.keys("q")
    terminal.until("IS THIS RIGHT?")
    terminal.keys("Escape")
    terminal.gone("IS THIS RIGHT?")
    terminal.keys("?")
    terminal.until("ALL KEYS IN PINPOINT")
    terminal.keys("Escape")
    terminal.keys("C-q")
    terminal.until("left")


def put_away(terminal: Terminal, *keys: str) -> None:
    """Esc and then other keys: sent at once, a terminal would take both for one with Alt."""
    terminal.keys("Escape")
    terminal.until("Next:")
    terminal.keys(*keys)


def test_a_trace_is_asked(terminal):
    terminal.start("demo lanes", "--python", sys.executable)
    terminal.until("3 differ")
    terminal.keys("t")
    terminal.until("TRACE TABLE")
    terminal.keys("End", "*")
    terminal.until("ROUNDS OF THE LOOPS")
    put_away(terminal, "Up", "x")
    terminal.until("LINE 13 TAKEN APART")
    put_away(terminal, "f")
    terminal.until("COMES FROM")
    put_away(terminal, "k")
    terminal.until("KEEP AN EYE ON")
    terminal.keys("needed * 2", "Enter")
    terminal.until("[needed * 2]")
    terminal.keys("a")
    terminal.until("WHAT MUST HOLD")
    terminal.keys("needed = 3", "Enter")
    terminal.until("it would change the program")
    put_away(terminal, "C-q")
    terminal.until("left")


@ONE_SIZE
def test_an_own_program_is_checked_again_when_saved(terminal, tmp_path):
    for path in FERRY.glob("tides.*"):
        shutil.copy(path, tmp_path)
    path = tmp_path / "tides.py"
    terminal.start(str(path), "--python", sys.executable)
    terminal.until("4 differ")
    mended = path.read_text().replace("low + high / 2", "(low + high) / 2")
    terminal.until("8 agree", doing=lambda: path.write_text(mended))
    terminal.keys("C-q")
    terminal.until("left")


def test_a_case_is_recorded_in_a_real_terminal_and_kept(terminal, tmp_path):
    path = tmp_path / "queue.py"
    path.write_text("n = int(input('Cars? '))\nprint('Lanes:', -(-n // 4))\n")
    record_live(terminal, path)
    terminal.until("Cars?")
    terminal.keys("1", "8", "BSpace", "3", "Enter")
    text = terminal.until("It ended by itself")
    assert "Cars? 13" in text and "Lanes: 4" in text
    terminal.keys("Enter")
    terminal.until("THE CASE YOU RECORDED")
    terminal.keys("thirteen", "C-s")
    terminal.until("1 agrees")
    terminal.keys("C-q")
    terminal.until("left")
    text = path.with_suffix(".cases.toml").read_text()
    assert 'name = "thirteen"' in text and "Cars? 13" in text


@ONE_SIZE
def test_a_runaway_program_is_stopped_by_ctrl_c(terminal, tmp_path):
    path = tmp_path / "tide.py"
    # It prints from inside the loop: once that is seen, an interruption falls in the program.
    path.write_text(
        "level = 0\nwhile level < 9:\n    print('rising') if not level else None\n    level = -1\n"
    )
    record_live(terminal, path)
    terminal.until("rising")
    terminal.keys("C-c")
    terminal.until("You stopped it. It was at line")
    terminal.keys("Escape", "C-q")
    terminal.until("left")


@ONE_SIZE
def test_leaving_while_a_program_waits_for_input_leaves_nothing_behind(terminal, tmp_path):
    path = tmp_path / "queue.py"
    path.write_text("import os\nprint('I am', os.getpid())\ninput('Cars? ')\n")
    record_live(terminal, path)
    text = terminal.until("Cars?")
    pid = int(text.partition("I am ")[2].split()[0])
    terminal.keys("C-q")
    terminal.until("left")
    for _ in range(50):
        if not psutil.pid_exists(pid):
            return
        time.sleep(0.1)
    raise AssertionError("the program still waits")


@ONE_SIZE
def test_watching_says_what_a_save_has_changed(terminal, tmp_path):
    for path in FERRY.glob("tides.*"):
        shutil.copy(path, tmp_path)
    path = tmp_path / "tides.py"
    terminal.start("check", str(path), "--watch", "--python", sys.executable)
    terminal.until("4 agree   4 differ")
    mended = path.read_text().replace("low + high / 2", "(low + high) / 2")
    terminal.until("8 agree   (+4 settled)", doing=lambda: path.write_text(mended))
    terminal.keys("C-c")
    terminal.until("left")


@ONE_SIZE
def test_a_change_is_tried_kept_and_recorded_in_a_real_terminal(terminal, demo):
    path = demo / "fares.py"
    mend_line_10(terminal, path)
    terminal.until("2 settled   0 broke   9 of 9 agree")
    assert "<= 16" in path.read_text()
    terminal.keys("C-s")
    terminal.until("9 of 9 agree   in the program as its file has it")
    assert "age < 16" in path.read_text()
    terminal.keys("C-l")
    terminal.until("pass  # off: if age < 16:")
    terminal.keys("C-q")
    terminal.until("A CHANGE IS NOT KEPT")
    terminal.keys("Escape")
    terminal.gone("A CHANGE IS NOT KEPT")
    terminal.keys("Escape")
    time.sleep(0.5)  # Esc alone, and not the beginning of another key
    terminal.keys("5")
    terminal.until("fares.py, line 10, in fare")
    terminal.until("settled: just sixteen")


@ONE_SIZE
def test_the_learner_s_own_editor_takes_the_screen_and_gives_it_back(terminal, demo, monkeypatch):
    script = demo / "editor.sh"
    script.write_text('#!/bin/sh\nsed -i "s/<= 16/< 16/" "$1"\n')
    script.chmod(0o755)
    monkeypatch.setenv("EDITOR", str(script))
    path = demo / "fares.py"
    terminal.start(str(path), "--python", sys.executable)
    terminal.until("2 differ")
    terminal.keys("4")
    terminal.until("CASES, BEFORE")
    terminal.keys("Escape")
    time.sleep(0.3)  # Esc alone, and not the beginning of another key
    terminal.keys("u")
    terminal.until("2 settled   0 broke")
    assert "<= 16" in path.read_text()
    script.write_text("#!/bin/sh\nexit 3\n")
    terminal.keys("u")
    terminal.until("status 3")
    terminal.until("2 settled   0 broke")


@ONE_SIZE
def test_a_terminal_closed_on_a_change_does_not_lose_it(terminal, demo):
    path = demo / "fares.py"
    mend_line_10(terminal, path)
    terminal.until("9 of 9 agree")
    terminal.close()
    terminal.start(str(path), "--python", sys.executable)
    terminal.until("A CHANGE FROM BEFORE")
    assert "<= 16" in path.read_text()
    terminal.keys("Right", "Enter")
    terminal.until("9 of 9 agree")
    terminal.keys("C-s")
    terminal.until("as its file has it")
    assert "age < 16" in path.read_text()


def test_the_first_time_a_walk_goes_over_the_stations(terminal, tmp_path):
    (tmp_path / "config" / "oddsum" / "settings.toml").unlink()
    terminal.start("demo", "--python", sys.executable)
    for station in ("CHECK", "TRACE", "PINPOINT", "MEND", "RECORD"):
        text = terminal.until(f"· {station}")
        assert "Something went wrong" not in text
        terminal.keys("Enter")
    terminal.gone("A WALK IN FIVE CARDS")
    terminal.keys("1")
    assert "Something went wrong" not in terminal.until("2 differ")
    terminal.keys("C-q")
    terminal.until("left")
