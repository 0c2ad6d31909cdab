"""Whatever a run can read is watched: a save of it makes results old."""

from __future__ import annotations

import threading

import pytest

from oddsum.run.watch import changes


@pytest.fixture
def saves(program, tmp_path):
    """Start watching; what it notices comes in a list, and ``wait`` waits for a name."""
    (tmp_path / "data" / "deep").mkdir(parents=True)
    for name in (".venv", "oddsum", "oddsum-run-x"):
        (tmp_path / name).mkdir()
    path, stop, ready, seen = program("print(1)\n"), threading.Event(), threading.Event(), []
    news = threading.Condition()

    def watch() -> None:
        for found in changes(path, path.with_suffix(".cases.toml"), stop, ready.set):
            with news:
                seen.extend(p.name for p in found)
                news.notify_all()

    def wait(name: str, seconds: float = 20) -> bool:
        with news:
            return news.wait_for(lambda: name in seen, timeout=seconds)

    thread = threading.Thread(target=watch)
    thread.start()
    assert ready.wait(20)
    yield tmp_path, wait, seen
    stop.set()
    thread.join()


@pytest.mark.parametrize("name", [
    "ferry.py", "helper.py", "prices.json", "ages.dat", "fares.c", "data/tides.csv",
    "data/deep/log.txt", "ferry.cases.toml", "noending",
])  # fmt: skip
def test_a_save_of_what_a_run_can_read_is_noticed(saves, name):
    folder, wait, _ = saves
    (folder / name).write_text("x = 2\n")
    assert wait(name.rpartition("/")[2])


def test_a_new_folder_is_watched_from_then_on(saves):
    folder, wait, _ = saves
    (folder / "new").mkdir()
    (folder / "now.txt").write_text("x")
    assert wait("now.txt")  # the folder came before it
    for n in range(400):  # and is watched a moment later
        (folder / "new" / f"{n}.log").write_text("x")
        if wait(f"{n}.log", 0.05):
            return
    raise AssertionError("it never was")


def test_what_no_run_reads_is_passed_over(saves):
    folder, wait, seen = saves
    for name in ("report.html", ".ferry.py.swp", "ferry.py~", ".venv/x.py", "chart.svg",
                 "oddsum/record.db", "oddsum-run-x/ferry.py"):  # fmt: skip
        (folder / name).write_text("x")
    (folder / "last.txt").write_text("x")
    assert wait("last.txt") and set(seen) == {"last.txt"}
