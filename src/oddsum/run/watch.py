"""Notices when the learner saves a file of the program."""

from __future__ import annotations

import threading
from collections.abc import Callable, Iterator
from pathlib import Path

from oddsum.languages import is_source

_DEBOUNCE = 60  # milliseconds to gather what one save does to the disk
_STEP = 40
_WAKES = 200  # milliseconds after which it looks whether it is to stop
_DATA = (".toml", ".txt", ".csv")


def changes(
    program: Path,
    plan: Path | None = None,
    stop: threading.Event | None = None,
    ready: Callable[[], None] = lambda: None,
) -> Iterator[frozenset[Path]]:
    """Yield an empty set at once, then the files changed by each save, until ``stop`` is set.

    Watched are the program's folder and the plan's, not what lies below them: editors save by
    renaming, so the folder is what has to be watched. ``ready`` is called once saves are noticed.
    """
    from watchfiles import watch

    yield frozenset()
    folders = {program.resolve().parent}
    if plan is not None:
        folders.add(plan.resolve().parent)
    for found in watch(
        *folders,
        debounce=_DEBOUNCE,
        step=_STEP,
        recursive=False,
        stop_event=stop,
        rust_timeout=_WAKES,
        yield_on_timeout=True,
    ):
        ready()
        ready = _nothing
        paths = frozenset(Path(p) for _, p in found)
        relevant = {p for p in paths if is_source(p) or p.suffix in _DATA}
        if relevant:
            yield frozenset(relevant)


def _nothing() -> None:
    """What is called of ``ready`` after the first time."""
