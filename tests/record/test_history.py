"""The database: brought up to date, shared, set aside when damaged; nothing else is lost."""

from __future__ import annotations

import os
import signal
import sqlite3
import subprocess
import sys
import threading
from concurrent.futures import ThreadPoolExecutor

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from conftest import examples
from oddsum.model.history import Entry, PastRun, Try, Version
from oddsum.model.outcome import Outcome
from oddsum.record import store as stores
from oddsum.record.history import History, data_file
from oddsum.record.migrations import MIGRATIONS
from oddsum.record.store import Store, StoreError
from oddsum.record.versions import version_of

A, D = Outcome.AGREES, Outcome.DIFFERS
ONE = Version(files={"fares.py": "x = 1\n"})
NO_DATABASE = b"no database at all\n" * 99


def run(at: float = 0.0, **outcomes: Outcome) -> PastRun:
    return PastRun(
        at=at, seconds=0.5, plan="p", interpreter="Python", outcomes=outcomes or {"a": A}
    )


def history(tmp_path, name: str = "fares.py") -> History:
    return History(tmp_path / name, Store(tmp_path / "history.db"))


texts = st.text(max_size=20)
runs = st.builds(
    PastRun, at=st.floats(0, 2e9), seconds=st.floats(0, 9), plan=texts, interpreter=texts,
    outcomes=st.dictionaries(st.text(min_size=1, max_size=8), st.sampled_from(Outcome), min_size=1),
)  # fmt: skip


@settings(max_examples=examples(25), suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(st.lists(runs, min_size=1, max_size=4), st.dictionaries(texts, texts, max_size=2))
def test_what_is_written_is_read_again(tmp_path_factory, several, files):
    kept = history(tmp_path_factory.mktemp("record"))
    for one in several:
        kept.add_run(one, Version(files=files))
    found = kept.runs()
    version = kept.version(found[-1].version)
    assert [r.outcomes for r in found] == [r.outcomes for r in several]
    assert [(r.at, r.seconds, r.plan) for r in found] == [(r.at, r.seconds, r.plan)
                                                          for r in several]  # fmt: skip
    assert version is not None and version.files == files
    assert len({r.version for r in found}) == 1 and kept.count() == len(several)


def test_programs_are_kept_apart_and_read_in_pages(tmp_path):
    kept, other = history(tmp_path), history(tmp_path, "lanes.py")
    for n in range(5):
        kept.add_run(run(at=n), ONE)
    other.add_run(run(at=9), ONE)
    last = kept.runs(2)
    assert [r.at for r in last] == [3, 4]
    assert [r.at for r in kept.runs(2, before=last[0].number)] == [1, 2]
    assert (kept.count(), other.count(), history(tmp_path, "new.py").count()) == (5, 1, 0)
    assert kept.version(999) is None


def test_the_same_try_is_counted_and_kept_once(tmp_path):
    kept = history(tmp_path)
    one = Try(at=1.0, key="k", edits=(), settled=("a",), agreeing=1, cases=2)
    kept.add_try(one)
    kept.add_try(Try(at=0.5, key="other", edits=()))
    kept.keep_try(one)
    kept.keep_try(Try(at=0.2, key="new", edits=()))
    again = kept.add_try(Try(at=2.0, key="k", edits=(), agreeing=2, cases=2))
    assert again.times == 2 and again.kept
    assert [(t.key, t.times, t.kept) for t in kept.tries()] == [
        ("new", 1, True),
        ("other", 1, False),
        ("k", 2, True),
    ]


def test_pages_of_the_notebook_are_written_changed_and_taken_out(tmp_path):
    kept = history(tmp_path)
    page = kept.write_entry(Entry(at=1.0, where="line 8", known=(("proof", "so"),)))
    kept.write_entry(Entry(at=2.0))
    changed = Entry(number=page.number, at=1.0, where="line 8", own="I see.")
    kept.write_entry(changed)
    first, second = kept.entries()
    assert first == changed and second.number != first.number
    kept.take_out(first)
    assert kept.entries() == (second,)


def test_a_database_of_each_earlier_form_still_opens(tmp_path):
    for done in range(1, len(MIGRATIONS)):
        path = tmp_path / f"{done}.db"
        old = History(tmp_path / "fares.py", Store(path, MIGRATIONS[:done]))
        old.add_run(run(at=7), ONE)
        kept = History(tmp_path / "fares.py", Store(path))
        assert [r.at for r in kept.runs()] == [7]
        kept.add_try(Try(at=1.0, key="k", edits=()))
        assert len(kept.tries()) == 1


def test_migrations_give_what_they_gave(tmp_path):
    """The statements never change: what was released is in somebody's folder."""
    import hashlib

    told = [hashlib.sha256(m.encode()).hexdigest()[:12] for m in MIGRATIONS]
    assert told == ["a2e1d22aff71", "546a8b2cce2e", "6ec67b512a47", "3b767333b470"]


def test_one_of_a_newer_tool_is_left_alone(tmp_path):
    kept = history(tmp_path)
    kept.add_run(run(), ONE)
    with sqlite3.connect(tmp_path / "history.db") as link:
        link.execute("PRAGMA user_version = 99")
    before = (tmp_path / "history.db").read_bytes()
    with pytest.raises(StoreError, match="written by a newer Odd Sum"):
        history(tmp_path).add_run(run(), ONE)
    assert (tmp_path / "history.db").read_bytes() == before


@pytest.mark.parametrize("damage", ["text", "middle"])
def test_a_damaged_one_is_set_aside_and_a_new_one_begun(tmp_path, damage):
    kept = history(tmp_path)
    for n in range(200):
        kept.add_run(run(at=n, **{f"case {i}": A for i in range(20)}), ONE)
    path = tmp_path / "history.db"
    with sqlite3.connect(path) as link:
        link.execute("PRAGMA wal_checkpoint(TRUNCATE)")
    data = path.read_bytes()
    path.write_bytes(NO_DATABASE if damage == "text"
                     else data[:100] + b"\xff" * (len(data) - 100))  # fmt: skip
    anew = history(tmp_path)
    try:
        anew.add_run(run(at=1), ONE)
    except StoreError as told:  # met in the middle of work: told, and from then on anew
        assert "set aside" in str(told)
    anew.add_run(run(at=2), ONE)
    assert anew.runs()[-1].at == 2
    assert anew.store.set_aside is not None and anew.store.set_aside.exists()


def test_many_that_find_a_damaged_one_at_once_begin_one_anew(tmp_path):
    """Two threads, or two windows: what the first has begun is not the damaged one of the next."""
    for folder in (tmp_path / str(n) for n in range(12)):
        folder.mkdir()
        (folder / "history.db").write_bytes(NO_DATABASE)
        windows = [history(folder, f"{n}.py") for n in range(4)] * 2
        together = threading.Barrier(len(windows))

        def write(window, together=together):
            together.wait()
            window.add_run(run(), ONE)

        with ThreadPoolExecutor(len(windows)) as pool:
            list(pool.map(write, windows))
        assert [window.count() for window in windows] == [2] * len(windows)
        (aside,) = folder.glob("history-damaged-*.db")
        assert aside.read_bytes() == NO_DATABASE


def test_one_in_use_is_told_and_not_waited_for_long(tmp_path, monkeypatch):
    monkeypatch.setattr(stores, "WAIT", 0.05)
    kept = history(tmp_path)
    kept.add_run(run(), ONE)
    holder = sqlite3.connect(tmp_path / "history.db")
    holder.execute("BEGIN IMMEDIATE")
    with pytest.raises(StoreError, match="in use"):
        kept.add_run(run(), ONE)
    assert kept.count() == 1  # reading goes on
    holder.close()
    kept.add_run(run(), ONE)


def test_a_full_disk_and_a_folder_that_cannot_be_made_are_told(tmp_path):
    kept = history(tmp_path)
    kept.add_run(run(), ONE)
    noise = Version(files={"x.py": "".join(chr(33 + (n * n * 7919) % 9000) for n in range(60_000))})
    with pytest.raises(StoreError, match="full"), kept.store.open() as link:
        link.execute(f"PRAGMA max_page_count = {link.execute('PRAGMA page_count').fetchone()[0]}")
        link.execute("INSERT INTO version (program, digest, files) VALUES (1, 'd', ?)",
                     (noise.files["x.py"].encode(),))  # fmt: skip
    assert kept.count() == 1
    (tmp_path / "file").write_text("")
    with pytest.raises(StoreError, match="cannot be kept"):
        History(tmp_path / "x.py", Store(tmp_path / "file" / "sub" / "h.db")).count()


KILLED = """
import sqlite3, sys, time
from pathlib import Path
from oddsum.record.history import History
from oddsum.record.versions import version_of
from oddsum.record.store import Store
from oddsum.model.history import PastRun, Version
from oddsum.model.outcome import Outcome
kept = History(Path(sys.argv[1]) / "fares.py", Store(Path(sys.argv[1]) / "history.db"))
kept.add_run(PastRun(at=1, seconds=0, outcomes={"a": Outcome.AGREES}), Version(files={"x": "1"}))
with kept.store.open() as link:
    link.execute("INSERT INTO run VALUES (99, 1, 1, 2, 0, '', '', '[]')")
    print("written", flush=True)
    time.sleep(60)
"""


def test_a_crash_in_the_middle_of_writing_leaves_all_that_was_whole(tmp_path):
    one = subprocess.Popen([sys.executable, "-c", KILLED, str(tmp_path)], stdout=subprocess.PIPE)
    assert one.stdout is not None and one.stdout.readline() == b"written\n"
    os.kill(one.pid, signal.SIGKILL)
    one.wait()
    kept = history(tmp_path)
    assert [r.at for r in kept.runs()] == [1]
    kept.add_run(run(at=2), ONE)
    assert [r.at for r in kept.runs()] == [1, 2]


def test_two_windows_write_at_once_and_both_are_kept(tmp_path):
    def window(n: int) -> None:
        mine = history(tmp_path)  # a store of its own: the tables are made by whoever comes first
        for k in range(10):
            mine.add_run(run(at=n * 100 + k), ONE)

    with ThreadPoolExecutor(4) as pool:
        list(pool.map(window, range(4)))
    assert history(tmp_path).count() == 40


def test_the_record_is_kept_in_the_user_s_data_folder(monkeypatch, tmp_path):
    monkeypatch.setenv("XDG_DATA_HOME", str(tmp_path))
    assert data_file().parent.parent == tmp_path or sys.platform == "darwin"


def test_a_version_that_was_never_checked_stands_among_the_checks(tmp_path):
    program = tmp_path / "ferry.py"
    program.write_text("if True\n")
    history = History(program, Store(tmp_path / "record.db"))
    number = history.keep_version(version_of(program))
    assert history.keep_version(version_of(program)) == number  # and once
    (kept,) = history.runs()
    assert (kept.version, kept.outcomes) == (number, {})
    assert history.version(kept.version).files == {"ferry.py": "if True\n"}
