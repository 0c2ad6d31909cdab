"""Whatever stands in a row of the record, the rest can be read and nothing stops."""

from __future__ import annotations

import sqlite3
import zlib
from pathlib import Path
from typing import Any

import pytest

from oddsum.model.errors import OddSumError
from oddsum.model.history import Autosaved, Entry, PastRun, Try, Version
from oddsum.model.outcome import Outcome
from oddsum.record.autosave import keep_change, left_behind
from oddsum.record.history import History
from oddsum.record.revealed import recall, remember
from oddsum.record.store import Store

COLUMNS = [
    ("version", "files"), ("version", "digest"), ("run", "at"), ("run", "seconds"),
    ("run", "version"), ("run", "plan"), ("run", "interpreter"), ("run", "outcomes"),
    ("try", "told"), ("try", "key"), ("try", "at"), ("entry", "told"), ("entry", "at"),
    ("unkept", "told"), ("unkept", "window"), ("unkept", "at"), ("uncovered", "told"),
    ("program", "path"),
]  # fmt: skip
DAMAGE: list[Any] = [b"\xff\x00\xfe", "", "[", "[[1]]", '[["a", "z"]]', "{}", -1, 2**62, 1.5e300,
                     float("inf"), zlib.compress(b"[]"), "\x1b[2J"]  # fmt: skip
VERSION = Version(files={"ferry.py": "print(1)\n"})


@pytest.fixture
def history(tmp_path: Path) -> History:
    made = History(tmp_path / "ferry.py", Store(tmp_path / "history.db"))
    run = PastRun(at=1.0, seconds=0.1, outcomes={"a": Outcome.AGREES})
    made.add_run(run, VERSION)
    made.add_run(run, VERSION)
    for key in "kl":
        made.add_try(Try(at=1.0, key=key, edits=()))
        made.write_entry(Entry(at=1.0, where="line 8"))
    keep_change(made, Autosaved(at=1.0, window=2**22 + 1, file="ferry.py", before="", text="x"))
    remember(made, VERSION, {("ferry.py", (8,)): 2})
    return made


def read_all(history: History) -> None:
    """Everything that a screen or a report reads, and what a check writes."""
    asked = (
        history.runs, history.count, lambda: history.version(1), history.tries, history.entries,
        lambda: left_behind(history, lambda process: False), lambda: recall(history, VERSION),
        lambda: history.add_run(PastRun(at=2.0, seconds=1.0, outcomes={}), VERSION),
        lambda: history.add_try(Try(at=2.0, key="k", edits=())),
        lambda: history.write_entry(Entry(at=2.0)),
    )  # fmt: skip
    for ask in asked:
        try:
            ask()
        except OddSumError as error:
            assert error.text.endswith((".", ")"))  # a sentence, and never anything else


@pytest.mark.parametrize(("table", "column"), COLUMNS)
def test_a_damaged_row_stops_nothing(history, table, column):
    for damage in DAMAGE:
        with sqlite3.connect(history.store.path) as link:
            link.execute("PRAGMA ignore_check_constraints = ON")
            first = f"id = (SELECT min(id) FROM {table})" if table != "uncovered" else "1"
            try:
                link.execute(f"UPDATE {table} SET {column} = ? WHERE {first}", (damage,))
            except sqlite3.IntegrityError:
                continue  # the database itself does not let such a thing in
        link.close()
        read_all(history)


def test_what_is_whole_beside_a_damaged_row_is_there(history):
    with sqlite3.connect(history.store.path) as link:
        for table, column in (("run", "outcomes"), ("try", "told"), ("entry", "told")):
            link.execute(f"UPDATE {table} SET {column} = '[[' WHERE id = 1")
    assert [r.number for r in history.runs()] == [2]
    assert [t.key for t in history.tries()] == ["l"]
    assert [e.number for e in history.entries()] == [2]
    assert history.count() == 2  # nothing was thrown away


def test_a_record_that_another_process_holds_is_told_and_stops_nothing(history, monkeypatch):
    monkeypatch.setattr("oddsum.record.store.WAIT", 0.1)
    other = sqlite3.connect(history.store.path, isolation_level=None)
    other.execute("BEGIN EXCLUSIVE")
    with pytest.raises(OddSumError, match="record"):
        history.add_run(PastRun(at=2.0, seconds=1.0, outcomes={}), VERSION)
    other.execute("ROLLBACK")
    other.close()
    assert history.add_run(PastRun(at=2.0, seconds=1.0, outcomes={}), VERSION) == 3
