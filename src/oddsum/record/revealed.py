"""How far the leads of a program were uncovered: it stands for as long as the program is the same.

What was seen cannot be unseen, so closing a window does not cover it again; and a report that is
written later tells as much as its writer has seen.
"""

from __future__ import annotations

import sqlite3
from collections.abc import Mapping

import msgspec

from oddsum.model.history import Version
from oddsum.model.typed import from_json
from oddsum.record.history import History
from oddsum.record.rows import first_whole

# By a lead's file and lines: an index into model.case.LEVELS.
Levels = Mapping[tuple[str, tuple[int, ...]], int]


def remember(history: History, version: Version, levels: Levels) -> None:
    """Write down how far leads of a version are uncovered, no less than before.

    Raises StoreError.
    """
    with history.store.open() as link:
        number = history.keep(link, version)
        known = _known(link, number)
        most = {place: max(level, known.get(place, 0)) for place, level in levels.items()}
        told = [(file, lines, level) for (file, lines), level in (known | most).items()]
        link.execute(
            "INSERT OR REPLACE INTO uncovered (version, told) VALUES (?, ?)",
            (number, msgspec.json.encode(told).decode()),
        )


def recall(history: History, version: Version) -> Levels:
    """How far leads of a version were uncovered; empty where none was. Raises StoreError."""
    with history.store.open() as link:
        return _known(link, history.known(link, version))


def _known(link: sqlite3.Connection, number: int) -> dict[tuple[str, tuple[int, ...]], int]:
    row = link.execute("SELECT told FROM uncovered WHERE version = ?", (number,)).fetchone()
    return first_whole(row, _levels) or {}


def _levels(told: str) -> dict[tuple[str, tuple[int, ...]], int]:
    rows = from_json(told, list[tuple[str, tuple[int, ...], int]])
    return {(file, lines): level for file, lines, level in rows}
