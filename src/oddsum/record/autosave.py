"""Changes in hand that are in no file yet: they outlive a terminal that is closed on them.

A row a window. What a window that still runs has in hand is its own; what one that is gone left
behind is there to be taken up.
"""

from __future__ import annotations

import zlib
from collections.abc import Callable

import msgspec

from oddsum.model.history import Autosaved
from oddsum.model.typed import from_json
from oddsum.record.history import History
from oddsum.record.rows import whole
from oddsum.run.running import is_running


def keep_change(history: History, change: Autosaved) -> None:
    """Keep a change in hand, in the place of the one its window had before. Raises StoreError."""
    told = zlib.compress(msgspec.json.encode(change))
    with history.store.open() as link:
        link.execute(
            "INSERT OR REPLACE INTO unkept (program, window, at, told) VALUES (?, ?, ?, ?)",
            (history.number(link, make=True), change.window, change.at, told),
        )


def forget(history: History, window: int) -> None:
    """Forget what a window had in hand. Raises StoreError."""
    with history.store.open() as link:
        link.execute(
            "DELETE FROM unkept WHERE program = ? AND window = ?", (history.number(link), window)
        )


def left_behind(
    history: History, runs: Callable[[int], bool] = is_running
) -> tuple[Autosaved, ...]:
    """What windows that are gone had in hand, the newest first. Raises StoreError."""
    with history.store.open() as link:
        rows = link.execute(
            "SELECT told FROM unkept WHERE program = ? ORDER BY at DESC", (history.number(link),)
        ).fetchall()
    found = list(whole(rows, _saved))
    return tuple(change for change in found if not runs(change.window))


def _saved(told: bytes) -> Autosaved:
    return from_json(zlib.decompress(told), Autosaved)
