"""Where programs run: one folder for this process, and in it a room for each line of runs.

A room has the copy of the program (``work``) and what it writes to the system's folder for
temporary files (``tmp``); a fenced run may write there and nowhere else. The folder is held by a
lock as long as this process lives, however it ends; what dead ones have left is swept away by the
next to begin.
"""

from __future__ import annotations

import fcntl
import itertools
import os
import stat
import tempfile
import threading
from pathlib import Path

from oddsum.run.fence.layers import Fence
from oddsum.run.removable import Removable
from oddsum.run.restore import FolderState, remove_entry, remove_tree
from oddsum.run.terms import Terms

PREFIX = "oddsum-run-"
_LOCK_NAME = "held"
_LOCK = threading.Lock()
_NUMBERS = itertools.count(1)
_mine: tuple[int, Path, int] | None = None  # process, folder, the descriptor that holds its lock


def rooms_folder() -> Path:
    """The folder of this process, made when it is first asked for."""
    global _mine  # noqa: PLW0603  (one a process)
    with _LOCK:
        if _mine is None or _mine[0] != os.getpid() or not _mine[1].exists():
            sweep()
            folder = Path(tempfile.mkdtemp(prefix=PREFIX)).resolve()
            held = os.open(folder / _LOCK_NAME, os.O_CREAT | os.O_RDWR | os.O_CLOEXEC, 0o600)
            fcntl.flock(held, fcntl.LOCK_EX)
            _mine = os.getpid(), folder, held
        return _mine[1]


def leave_rooms() -> None:
    """Take the folder of this process away, where it has one."""
    if _mine is not None and _mine[0] == os.getpid():
        remove_tree(_mine[1])


def sweep() -> int:
    """Take away the folders of processes that are gone; returns how many there were."""
    swept = 0
    for folder in Path(tempfile.gettempdir()).glob(PREFIX + "*"):
        if _is_left_over(folder):
            remove_tree(folder)
            swept += not folder.exists()
    return swept


def _is_left_over(folder: Path) -> bool:
    """Whether it is ours, with a lock that nobody holds: no other's folder is touched."""
    try:
        about = folder.lstat()
        if not stat.S_ISDIR(about.st_mode) or about.st_uid != os.getuid():
            return False
        held = os.open(folder / _LOCK_NAME, os.O_RDWR | os.O_CLOEXEC | os.O_NOFOLLOW)
    except OSError:
        return False
    try:
        fcntl.flock(held, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except OSError:
        return False
    finally:
        os.close(held)
    return True


class Room(Removable):
    """A room and the terms on which programs run in it; a context manager that takes it away."""

    def __init__(self, terms: Terms) -> None:
        self.terms = terms
        self.folder = rooms_folder() / str(next(_NUMBERS))
        self.work, self.temporary = self.folder / "work", self.folder / "tmp"
        for folder in (self.folder, self.temporary):
            folder.mkdir(mode=0o700)

    @property
    def fence(self) -> Fence | None:
        """The fence around it, where there is to be one."""
        terms = self.terms
        return Fence((str(self.folder),), terms.allow) if terms.fenced else None

    def clear(self) -> bool:
        """Make it as it was when it was new; says whether that could be done."""
        try:
            self.leave_only(self.temporary)
            FolderState(self.temporary, {}).put_back()
        except OSError:
            return False
        return True

    def leave_only(self, *folders: Path) -> None:
        """Take away what is in it beside these; raises OSError."""
        for name in set(os.listdir(self.folder)) - {folder.name for folder in folders}:
            remove_entry(self.folder / name)

    def remove(self) -> None:
        """Take it away."""
        remove_tree(self.folder)
