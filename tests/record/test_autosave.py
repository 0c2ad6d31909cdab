"""A change in hand is held for its window, and offered once the window is gone."""

import os
import subprocess
import sys

import pytest

from oddsum.model.history import Autosaved
from oddsum.record.autosave import forget, keep_change, left_behind
from oddsum.record.history import History
from oddsum.record.migrations import MIGRATIONS
from oddsum.record.store import Store
from oddsum.run.running import is_running, own_process


@pytest.fixture
def history(tmp_path):
    return History(tmp_path / "fares.py", Store(tmp_path / "history.db"))


def change(window=7, text="fare = 6\n", at=1.0):
    return Autosaved(at=at, window=window, file="fares.py", before="fare = 5\n", text=text,
                  cursor=(3, 4))  # fmt: skip


def gone(window):
    return False


def test_a_change_comes_back_as_it_was_held(history):
    keep_change(history, change())
    assert left_behind(history, gone) == (change(),)


def test_a_window_holds_one_change_the_last(history):
    keep_change(history, change())
    keep_change(history, change(text="fare = 7\n", at=2.0))
    (left,) = left_behind(history, gone)
    assert left.text == "fare = 7\n"


def test_two_windows_do_not_write_over_each_other(history):
    keep_change(history, change(7, at=1.0))
    keep_change(history, change(8, at=2.0))
    assert [c.window for c in left_behind(history, gone)] == [8, 7]  # the newest first
    forget(history, 8)
    assert [c.window for c in left_behind(history, gone)] == [7]


def test_what_a_running_window_has_in_hand_is_its_own(history):
    keep_change(history, change(7))
    keep_change(history, change(8, at=2.0))
    assert [c.window for c in left_behind(history, lambda window: window == 8)] == [7]


def test_another_program_is_not_offered_it(history, tmp_path):
    keep_change(history, change())
    assert left_behind(History(tmp_path / "decks.py", history.store), gone) == ()
    forget(History(tmp_path / "decks.py", history.store), 7)
    assert left_behind(history, gone) == (change(),)


def test_a_record_from_before_it_held_changes_is_brought_up_to_date(tmp_path):
    old = History(tmp_path / "fares.py", Store(tmp_path / "history.db", MIGRATIONS[:2]))
    assert old.count() == 0
    new = History(tmp_path / "fares.py", Store(tmp_path / "history.db"))
    keep_change(new, change())
    assert left_behind(new, gone) == (change(),)


def test_a_process_is_running_until_it_ends_and_our_own_number_is_nobody_elses():
    other = subprocess.Popen([sys.executable, "-c", "input()"], stdin=subprocess.PIPE)
    assert is_running(other.pid)
    other.communicate(b"\n")
    assert not is_running(other.pid)
    assert own_process() == os.getpid() and not is_running(own_process())


def test_a_process_of_somebody_else_is_running(monkeypatch):
    def refused(process, signal):
        raise PermissionError

    monkeypatch.setattr(os, "kill", refused)
    assert is_running(1)
