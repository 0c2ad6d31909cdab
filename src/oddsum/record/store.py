"""The database: opened, brought up to date, set aside where it is damaged.

SQLite writes a change whole or not at all, which is what a crash, or a second window on the same
program, needs. Whoever keeps history here goes on without it where it cannot be had: every failure
is a StoreError with a sentence.
"""

from __future__ import annotations

import contextlib
import fcntl
import os
import sqlite3
import time
from collections.abc import Iterator, Sequence
from itertools import chain, count
from pathlib import Path

from oddsum.model.errors import OddSumError
from oddsum.record.migrations import MIGRATIONS

WAIT = 3.0  # seconds another window may take to write
_ENDINGS = ("", "-wal", "-shm")


class StoreError(OddSumError):
    """The record cannot be read or written just now; the work itself is not touched by it."""


class Store:
    """The database at a path. ``set_aside`` names the file that a damaged one was moved to."""

    def __init__(self, path: Path, migrations: Sequence[str] = MIGRATIONS) -> None:
        self.path, self._migrations = path, migrations
        self.set_aside: Path | None = None
        self._ready = False

    @contextlib.contextmanager
    def open(self) -> Iterator[sqlite3.Connection]:
        """A connection; what is changed in its ``with`` is kept whole or not at all.

        Raises StoreError. A damaged database is moved aside and a new one begun, once.
        """
        with contextlib.ExitStack() as held:
            link, file = self._connected(held)
            try:
                with link:
                    yield link
            except sqlite3.OperationalError as error:
                raise _told(self.path, error) from error
            except sqlite3.DatabaseError as error:
                if isinstance(error, sqlite3.IntegrityError):
                    raise
                held.close()
                self._move_aside(file)
                raise StoreError(self.damage or _MOVED) from error

    def _connected(self, held: contextlib.ExitStack) -> tuple[sqlite3.Connection, int]:
        """A connection, and which file it is to. It is closed, and lets that be moved, with
        ``held``.
        """
        for anew in (False, True):
            try:
                self.path.parent.mkdir(parents=True, exist_ok=True)
                held.enter_context(self._stands(fcntl.LOCK_SH))
                file = self._file()
                link = self._connect()
            except sqlite3.DatabaseError as error:
                if anew or isinstance(error, sqlite3.OperationalError):
                    raise _told(self.path, error) from error
                held.close()
                self._move_aside(file)
            except OSError as error:
                raise StoreError(
                    f"The record cannot be kept: {self.path.parent} cannot be made "
                    f"({(error.strerror or str(error)).lower()})."
                ) from error
            else:
                held.callback(link.close)
                return link, file
        raise AssertionError("two tries come to an answer")

    @property
    def damage(self) -> str:
        """What is said of a record that was damaged; blank where none was."""
        if self.set_aside is None:
            return ""
        name = self.set_aside.name
        return f"The record was damaged. It was set aside as {name}, and a new one is begun."

    def _connect(self) -> sqlite3.Connection:
        link = sqlite3.connect(self.path, timeout=WAIT, isolation_level="IMMEDIATE")
        try:
            link.text_factory = lambda data: data.decode("utf-8", "replace")  # one that is none
            link.execute("PRAGMA foreign_keys = ON")
            if not self._ready:
                self._migrate(link)
                self._ready = True
        except BaseException:
            link.close()
            raise
        return link

    def _migrate(self, link: sqlite3.Connection) -> None:
        """Bring the database up to date, one step a transaction.

        What another window has done meanwhile is seen, for the count is read inside of it.
        """
        with contextlib.suppress(sqlite3.OperationalError):  # another window is about the same
            link.execute("PRAGMA journal_mode = WAL")
        while True:
            done = self._done(link)
            if done >= len(self._migrations):
                return
            link.execute("BEGIN IMMEDIATE")
            with link:
                if self._done(link) == done:
                    for statement in self._migrations[done].split(";"):
                        link.execute(statement)
                    link.execute(f"PRAGMA user_version = {done + 1}")

    def _done(self, link: sqlite3.Connection) -> int:
        done: int = link.execute("PRAGMA user_version").fetchone()[0]
        if done > len(self._migrations):
            raise StoreError(
                f"The record was written by a newer Odd Sum (its form is {done}; this one knows "
                f"{len(self._migrations)}). It is left as it is, and nothing is added to it.",
                hint="Use the newer Odd Sum to see it.",
            )
        return done

    def _file(self) -> int:
        """Which file stands there now, by its number; 0 for none."""
        try:
            return self.path.stat().st_ino
        except OSError:
            return 0

    def _move_aside(self, damaged: int) -> None:
        """Move that file aside; where another stands there by now, somebody else has done so."""
        with self._stands(fcntl.LOCK_EX):
            if self._file() != damaged:
                return
            aside = self._name_aside()
            for ending in _ENDINGS:
                with contextlib.suppress(OSError):
                    Path(f"{self.path}{ending}").rename(f"{aside}{ending}")
            self.set_aside, self._ready = aside, False

    def _name_aside(self) -> Path:
        """A name that no other damaged one has."""
        stem = f"{self.path.stem}-damaged-{time.strftime('%Y%m%d-%H%M%S')}"
        more = chain([""], (f"-{n}" for n in count(2)))
        names = (f"{stem}{one}{self.path.suffix}" for one in more)
        return next(p for name in names if not (p := self.path.with_name(name)).exists())

    @contextlib.contextmanager
    def _stands(self, how: int) -> Iterator[None]:
        """While nobody moves the database (``LOCK_SH``), or nobody else has it open (``LOCK_EX``).

        Whoever has a moved one open would go on with what is written beside the new one, and write
        that into the old.
        """
        with contextlib.ExitStack() as held:
            with contextlib.suppress(OSError):  # not every file system has locks
                folder = os.open(self.path.parent, os.O_RDONLY | os.O_CLOEXEC)
                held.callback(os.close, folder)
                fcntl.flock(folder, how)
            yield


_MOVED = "The record was damaged; it has been set aside just now, and a new one is begun."


def _told(path: Path, error: Exception) -> StoreError:
    text = str(error)
    if "locked" in text or "busy" in text:
        return StoreError(
            "The record is in use by another program and was not written to.",
            hint="Close what else has it open; the next check is recorded again.",
        )
    if "full" in text:
        return StoreError(
            "The record was not written: the disk is full.", hint="Make room; then check again."
        )
    return StoreError(
        f"The record cannot be kept in {path.parent}: {text}.",
        hint="Check that you may write there. All else works without it.",
    )
