"""The database: opened, brought up to date, set aside where it is damaged.

SQLite writes a change whole or not at all, which is what a crash, or a second window on the same
program, needs. Whoever keeps history here goes on without it where it cannot be had: every failure
is a StoreError with a sentence.
"""

from __future__ import annotations

import contextlib
import sqlite3
import time
from collections.abc import Iterator, Sequence
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
        try:
            link = self._connect()
        except sqlite3.OperationalError as error:
            raise _told(self.path, error) from error
        except sqlite3.DatabaseError:
            link = self._begin_anew()
        except OSError as error:
            raise StoreError(
                f"The record cannot be kept: {self.path.parent} cannot be made "
                f"({(error.strerror or str(error)).lower()})."
            ) from error
        try:
            with link:
                yield link
        except sqlite3.OperationalError as error:
            raise _told(self.path, error) from error
        except sqlite3.DatabaseError as error:
            if isinstance(error, sqlite3.IntegrityError):
                raise
            link.close()
            self._move_aside()
            raise StoreError(self.damage) from error
        finally:
            link.close()

    @property
    def damage(self) -> str:
        """What is said of a record that was damaged; blank where none was."""
        if self.set_aside is None:
            return ""
        name = self.set_aside.name
        return f"The record was damaged. It was set aside as {name}, and a new one is begun."

    def _connect(self) -> sqlite3.Connection:
        self.path.parent.mkdir(parents=True, exist_ok=True)
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

    def _begin_anew(self) -> sqlite3.Connection:
        self._move_aside()
        try:
            return self._connect()
        except (sqlite3.Error, OSError) as error:
            raise _told(self.path, error) from error

    def _move_aside(self) -> None:
        stamp = time.strftime("%Y%m%d-%H%M%S")
        aside = self.path.with_name(f"{self.path.stem}-damaged-{stamp}{self.path.suffix}")
        for ending in _ENDINGS:
            with contextlib.suppress(OSError):
                Path(f"{self.path}{ending}").rename(f"{aside}{ending}")
        self.set_aside, self._ready = aside, False


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
