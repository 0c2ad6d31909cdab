"""Mend and Record: a key in the editor, a try of 20 cases, a history of 10,000 runs."""

from __future__ import annotations

import os
import subprocess
import sys
import tempfile
import time
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

from figures import Figure, in_turn, middle, ratio

from oddsum.languages.language import Interpreter
from oddsum.mend.attempt import attempt
from oddsum.model.case import Case, Plan
from oddsum.model.history import PastRun, Version
from oddsum.model.outcome import Outcome
from oddsum.plan.write import case_text
from oddsum.record.history import History
from oddsum.record.store import Store
from oddsum.source.program import read_source
from terminal import Terminal

ROUNDS = 7
OWN = Interpreter(sys.executable, tuple(sys.version_info[:3]))
# A beginner's program of some 130 lines, all alike but for their names.
PART = """\
def pier_{n}(cars):
    total = 0
    for length in cars:
        total = total + length
        if total > 24:
            return -1
    return total


"""
MAIN = "".join(PART.format(n=n) for n in range(16)) + "print(pier_3([int(input())]))\n"


def measure() -> list[Figure]:
    return [*_typed(), _tried(), *_long_history()]


def _program() -> tuple[Path, Plan]:
    path = Path(tempfile.mkdtemp()) / "piers.py"
    path.write_text(MAIN)
    cases = tuple(
        Case(number=n, name=f"car of {n}", stdin=f"{n}\n", stdout=f"{n}") for n in range(1, 21)
    )
    path.with_suffix(".cases.toml").write_text("\n".join(case_text(c) for c in cases))
    return path, Plan(program=path, cases=cases)


def _typed() -> list[Figure]:
    """A key typed in the editor, and what comes of a change, in a terminal of our own."""
    path, _ = _program()
    home = tempfile.mkdtemp()
    os.environ["XDG_DATA_HOME"] = os.environ["XDG_CONFIG_HOME"] = home
    with Terminal(str(path)) as terminal:
        terminal.until(b"20 agree")
        terminal.key(b"4")
        terminal.until(b"BEFORE")
        terminal.key(b"\x1b[1;5F")  # to the end of the program
        text = b"# how long may a line of cars be, and"
        taken = [terminal.typed(bytes([c]), gap=0.015, pace=0.2) for c in text]
        terminal.quiet(10)
        settled = terminal.key(b",")  # what the try before showed goes away as well
        terminal.quiet(10)
        terminal.seen = b""
        started = time.monotonic()
        os.write(terminal.end, b"!")
        terminal.until(b"tried on a copy in")
        shown = time.monotonic() - started
    from oddsum.workspace.mending import PAUSE

    keys = sorted(taken)
    how = "130 lines; from the key to the end of its picture; the median of 37, five a second"
    return [
        Figure("a key in the editor", keys[len(keys) // 2] * 1000, "ms", "under 50", how),
        Figure("  the slowest but two", keys[-3] * 1000, "ms", "", "of the same keys"),
        Figure("  after a try, until all is settled", settled * 1000, "ms", "",
               "the first key; the cases go back to how they stood"),
        Figure("a try of 20 cases is shown after", shown - PAUSE, "s", "under 0.5",
               f"after the pause of {PAUSE} s; from the last key {shown:.2f} s"),
    ]  # fmt: skip


def _tried() -> Figure:
    """A try of 20 cases against 20 bare runs, on as many cores."""
    path, plan = _program()
    source = read_source(path)
    texts = iter([source.text + f"# {n}\n" for n in range(100)])

    def ours() -> None:
        found = list(attempt(plan, source, next(texts), OWN))
        assert all(r.outcome is Outcome.AGREES for r in found) and len(found) == 20

    def bare() -> None:
        with ThreadPoolExecutor(os.cpu_count()) as pool:
            list(pool.map(lambda case: _bare(path, case.stdin), plan.cases))

    bare_times, our_times = in_turn(ROUNDS, bare, ours)
    how = f"{middle(our_times):.2f} s for the try, {middle(bare_times):.2f} s for 20 bare runs"
    return Figure("20 bare runs / a try of 20", ratio(bare_times, our_times), "x", "", how)


def _bare(path: Path, typed: str | None) -> None:
    subprocess.run([sys.executable, path], input=typed, text=True, capture_output=True, check=True)


def _long_history() -> list[Figure]:
    """10,000 runs of 20 cases, a version for every tenth."""
    path, _ = _program()
    file = Path(tempfile.mkdtemp()) / "history.db"
    history = History(path, Store(file))
    names = [f"car of {n}" for n in range(1, 21)]
    with history.store.open():
        pass
    started = time.monotonic()
    for n in range(200):
        _add(history, names, n)
    one = (time.monotonic() - started) / 200
    _fill(file, 9_800)

    def open_it() -> None:
        kept = History(path, Store(file))
        assert kept.count() == 10_000 and len(kept.runs()) == 200
        kept.tries(), kept.entries()

    times = in_turn(ROUNDS, open_it, lambda: None)[0]
    size = file.stat().st_size / 1e6
    how = f"opened, counted, the last 200 read; the median of {ROUNDS}; the file has {size:.1f} MB"
    return [
        Figure("a history of 10,000 runs opens", middle(times) * 1000, "ms", "under 300", how),
        Figure("  a run is written down", one * 1000, "ms", "", "behind the scenes"),
    ]


def _add(history: History, names: list[str], n: int) -> None:
    outcomes = {name: Outcome.AGREES if (n + k) % 7 else Outcome.DIFFERS
                for k, name in enumerate(names)}  # fmt: skip
    text = MAIN + f"# {n // 10}\n"
    history.add_run(
        PastRun(at=n, seconds=0.3, outcomes=outcomes), Version(files={"piers.py": text})
    )


def _fill(file: Path, more: int) -> None:
    """Copies of the runs that are there, for syncing each of 10,000 would take minutes."""
    import sqlite3

    with sqlite3.connect(file) as link:
        while more > 0:
            link.execute(
                "INSERT INTO run (program, version, at, seconds, plan, interpreter, outcomes) "
                "SELECT program, version, at, seconds, plan, interpreter, outcomes FROM run "
                "LIMIT ?",
                (more,),
            )
            more -= link.execute("SELECT changes()").fetchone()[0]
