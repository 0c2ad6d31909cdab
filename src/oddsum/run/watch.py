"""Notices when a file that the program may read is saved."""

from __future__ import annotations

import threading
from collections.abc import Callable, Iterator
from pathlib import Path

from oddsum.run.scratch import folders_under

_DEBOUNCE = 60  # milliseconds to gather what one save does to the disk
_STEP = 40
_WAKES = 200  # milliseconds after which it looks whether it is to stop
_MOST_FOLDERS = 500  # that are watched, those nearest to the program first
# What is made of a run and read by none: pages, pictures; what editors and interpreters leave.
_NEVER_READ = frozenset(
    {".html", ".pdf", ".svg", ".png", ".md", ".pyc", ".swp", ".swx", ".tmp", ".bak", ".orig"}
)


def changes(
    program: Path,
    plan: Path | None = None,
    stop: threading.Event | None = None,
    ready: Callable[[], None] = lambda: None,
) -> Iterator[frozenset[Path]]:
    """Yield an empty set at once, then the files changed by each save, until ``stop`` is set.

    Watched are the folders of the program and of the plan, and those below the program's: whatever
    is taken along into a run. Editors save by renaming, so folders are what has to be watched.
    ``ready`` is called once saves are noticed.
    """
    from watchfiles import watch

    yield frozenset()
    stop = stop or threading.Event()
    while not stop.is_set():
        watched = _folders(program, plan)
        for found in watch(
            *watched,
            debounce=_DEBOUNCE,
            step=_STEP,
            recursive=False,
            stop_event=stop,
            rust_timeout=_WAKES,
            yield_on_timeout=True,
        ):
            ready()
            ready = _nothing
            paths = {Path(p) for _, p in found}
            relevant = frozenset(p for p in paths if _may_be_read(p))
            if relevant:
                yield relevant
            if paths and _folders(program, plan) != watched:
                break  # a folder came or went: what is in it counts from now on


def _folders(program: Path, plan: Path | None) -> frozenset[Path]:
    folder = program.resolve().parent
    beside = {plan.resolve().parent} if plan is not None else set()
    return frozenset(folders_under(folder, _MOST_FOLDERS)) | beside


def _may_be_read(path: Path) -> bool:
    hidden = path.name.startswith((".", "#")) or path.name.endswith("~")
    return not hidden and path.suffix not in _NEVER_READ and not path.is_dir()


def _nothing() -> None:
    """What is called of ``ready`` after the first time."""
