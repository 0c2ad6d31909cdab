"""The history of a program: its checks, its versions, what was tried, and the notebook."""

from __future__ import annotations

import hashlib
import sqlite3
import threading
import time
import zlib
from functools import partial
from pathlib import Path
from typing import TypeVar

import msgspec
from platformdirs import user_data_path

from oddsum.model.history import Entry, PastRun, Try, Version
from oddsum.model.outcome import Outcome
from oddsum.model.typed import convert, from_json
from oddsum.record.rows import first_whole, whole
from oddsum.record.store import Store

_LETTERS = {outcome: outcome.value[0] for outcome in Outcome}  # a, d, s, e, o: all different
Kept = TypeVar("Kept", Try, Entry)
_OUTCOMES = {letter: outcome for outcome, letter in _LETTERS.items()}


def data_file() -> Path:
    """Where the record is kept."""
    return user_data_path("oddsum") / "history.db"


class History:
    """What is recorded of one program. Everything here may raise StoreError."""

    def __init__(self, program: Path, store: Store | None = None) -> None:
        self.program = program.resolve()
        self.store = store or Store(data_file())
        # For whoever writes and then tells what is there: what is told last was read last.
        self.turn = threading.Lock()

    # -- checks ------------------------------------------------------------------------------

    def add_run(self, run: PastRun, version: Version) -> int:
        """Keep a check of a version; returns its number."""
        with self.store.open() as link:
            program = self.number(link, make=True)
            text = msgspec.json.encode([(n, _LETTERS[o]) for n, o in run.outcomes.items()]).decode()
            values = (program, self.keep(link, version), run.at, run.seconds, run.plan,
                      run.interpreter, text)  # fmt: skip
            cursor = link.execute(
                "INSERT INTO run (program, version, at, seconds, plan, interpreter, outcomes) "
                "VALUES (?, ?, ?, ?, ?, ?, ?)",
                values,
            )
            return cursor.lastrowid or 0

    def keep_version(self, version: Version) -> int:
        """Keep a version of which no check may be recorded, as of one that cannot start.

        It stands among the checks then, one without a case: else nobody could find it again.
        Returns its number.
        """
        with self.store.open() as link:
            program, number = self.number(link, make=True), self.keep(link, version)
            known = link.execute(
                "SELECT 1 FROM run WHERE program = ? AND version = ?", (program, number)
            ).fetchone()
            if known is None:
                link.execute(
                    "INSERT INTO run (program, version, at, seconds, plan, interpreter, outcomes) "
                    "VALUES (?, ?, ?, 0, '', '', '[]')",
                    (program, number, time.time()),
                )
            return number

    def count(self) -> int:
        """How many checks are recorded."""
        with self.store.open() as link:
            found = link.execute(
                "SELECT count(*) FROM run WHERE program = ?", (self.number(link),)
            ).fetchone()
            return int(found[0])

    def runs(self, most: int = 200, before: int | None = None) -> tuple[PastRun, ...]:
        """The last checks, oldest first; ``before``: only those ahead of this number."""
        with self.store.open() as link:
            rows = link.execute(
                "SELECT id, at, seconds, version, plan, interpreter, outcomes FROM run "
                "WHERE program = ? AND id < ? ORDER BY id DESC LIMIT ?",
                (self.number(link), before or 2**62, most),
            ).fetchall()
        return tuple(whole(reversed(rows), _run))

    def version(self, number: int) -> Version | None:
        """A version of the program by its number."""
        with self.store.open() as link:
            row = link.execute("SELECT files FROM version WHERE id = ?", (number,)).fetchone()
        return first_whole(row, lambda data: Version(number=number, files=_files(data)))

    # -- tries -------------------------------------------------------------------------------

    def add_try(self, tried: Try) -> Try:
        """Keep a try; the same change tried before is counted once more and moves to the end."""
        with self.store.open() as link:
            program = self.number(link, make=True)
            before = _try_of(link, program, tried.key)
            if before is not None:
                tried = msgspec.structs.replace(
                    tried, times=before.times + 1, kept=tried.kept or before.kept
                )
            _put_try(link, program, tried)
        return tried

    def keep_try(self, tried: Try) -> None:
        """Say of a try that it was kept; one that is not in the list yet is put there."""
        with self.store.open() as link:
            program = self.number(link, make=True)
            tried = _try_of(link, program, tried.key) or tried
            _put_try(link, program, msgspec.structs.replace(tried, kept=True))

    def tries(self) -> tuple[Try, ...]:
        """What was tried, the oldest first."""
        with self.store.open() as link:
            rows = link.execute(
                "SELECT id, told FROM try WHERE program = ? ORDER BY at, id", (self.number(link),)
            ).fetchall()
        return tuple(whole(rows, partial(_numbered, Try)))

    # -- the notebook ------------------------------------------------------------------------

    def write_entry(self, entry: Entry) -> Entry:
        """Keep a page of the notebook: a new one, or in the place of the one with its number."""
        with self.store.open() as link:
            values = (self.number(link, make=True), entry.at, msgspec.json.encode(entry).decode())
            if entry.number:
                link.execute(
                    "UPDATE entry SET program = ?, at = ?, told = ? WHERE id = ?",
                    (*values, entry.number),
                )
                return entry
            cursor = link.execute("INSERT INTO entry (program, at, told) VALUES (?, ?, ?)", values)
            return msgspec.structs.replace(entry, number=cursor.lastrowid or 0)

    def take_out(self, entry: Entry) -> None:
        """Take a page out of the notebook."""
        with self.store.open() as link:
            link.execute("DELETE FROM entry WHERE id = ?", (entry.number,))

    def entries(self) -> tuple[Entry, ...]:
        """The notebook, the oldest page first."""
        with self.store.open() as link:
            rows = link.execute(
                "SELECT id, told FROM entry WHERE program = ? ORDER BY at, id",
                (self.number(link),),
            ).fetchall()
        return tuple(whole(rows, partial(_numbered, Entry)))

    def number(self, link: sqlite3.Connection, make: bool = False) -> int:
        """The program's number, 0 where nothing of it is recorded; to write, it is given one."""
        path = str(self.program)
        if make:
            link.execute("INSERT OR IGNORE INTO program (path) VALUES (?)", (path,))
        row = link.execute("SELECT id FROM program WHERE path = ?", (path,)).fetchone()
        return int(row[0]) if row else 0

    def keep(self, link: sqlite3.Connection, version: Version) -> int:
        """Keep a version, if it is not kept yet; returns its number."""
        digest, data = _digest(version)
        link.execute(
            "INSERT OR IGNORE INTO version (program, digest, files) VALUES (?, ?, ?)",
            (self.number(link, make=True), digest, zlib.compress(data)),
        )
        return self._with(link, digest)

    def known(self, link: sqlite3.Connection, version: Version) -> int:
        """The number under which a version is kept, 0 where it is not."""
        return self._with(link, _digest(version)[0])

    def _with(self, link: sqlite3.Connection, digest: str) -> int:
        row = link.execute(
            "SELECT id FROM version WHERE program = ? AND digest = ?", (self.number(link), digest)
        ).fetchone()
        return int(row[0]) if row else 0


def _digest(version: Version) -> tuple[str, bytes]:
    """What a version is known by, and its files as they are kept."""
    data = msgspec.json.encode(dict(sorted(version.files.items())))
    return hashlib.sha256(data).hexdigest(), data


def _try_of(link: sqlite3.Connection, program: int, key: str) -> Try | None:
    """The try with this key, None where there is none yet."""
    row = link.execute(
        "SELECT told FROM try WHERE program = ? AND key = ?", (program, key)
    ).fetchone()
    return first_whole(row, lambda told: from_json(told, Try))


def _put_try(link: sqlite3.Connection, program: int, tried: Try) -> None:
    link.execute(
        "INSERT OR REPLACE INTO try (program, key, at, told) VALUES (?, ?, ?, ?)",
        (program, tried.key, tried.at, msgspec.json.encode(tried).decode()),
    )


def _files(data: bytes) -> dict[str, str]:
    return from_json(zlib.decompress(data), dict[str, str])


def _numbered(kind: type[Kept], number: int, told: str) -> Kept:
    return msgspec.structs.replace(from_json(told, kind), number=number)


def _run(
    number: int, at: float, seconds: float, version: int, plan: str, interpreter: str, told: str
) -> PastRun:
    pairs = from_json(told, list[tuple[str, str]])
    fields = {
        "number": number, "at": at, "seconds": seconds, "version": version, "plan": plan,
        "interpreter": interpreter, "outcomes": {name: _OUTCOMES[letter] for name, letter in pairs},
    }  # fmt: skip
    return convert(fields, PastRun)
