"""A folder made what it was, whatever a program did in it: nothing outside of it is touched.

What a program leaves may lead elsewhere: a link in the place of a file or of a folder, a second
name for a file of somebody's, a pipe that would be waited for. So nothing is opened that is there;
what is not as it was is taken away by its name and written anew.
"""

from __future__ import annotations

import contextlib
import errno
import itertools
import os
import stat
from collections.abc import Iterator, Mapping
from pathlib import Path
from typing import NamedTuple

_FILE, _FOLDER = 0o644, 0o755


class Look(NamedTuple):
    """How a file or folder looks: kind and mode, size, when it and when its entry was changed.

    The last cannot be set by a program: what was changed and then set back in time shows there.
    """

    mode: int
    size: int
    modified: int
    changed: int


class FolderState:
    """The files of a folder as they are meant to be: their contents and modes, by their names."""

    def __init__(
        self, folder: Path, files: Mapping[str, bytes], modes: Mapping[str, int] | None = None
    ) -> None:
        self.folder, self._files, self._modes = folder, files, modes or {}
        self._folders = {str(p) for name in files for p in Path(name).parents} - {"."}
        self._seen: dict[str, Look] = {}
        self._times: dict[str, int] = {}

    def fill(self) -> None:
        """Make the folder and write everything; raises OSError."""
        self.folder.mkdir(mode=0o700, parents=True, exist_ok=True)
        for name in sorted(self._folders):
            (self.folder / name).mkdir(mode=_FOLDER)
        for name in self._files:
            self._write(name)
        self._seen = {name: look for name, look in _entries(self.folder) if look is not None}
        self._times = {name: look.modified for name, look in self._seen.items()}

    def put_back(self) -> None:
        """Make the folder what it was after ``fill``; raises OSError where that cannot be done."""
        if not stat.S_ISDIR(self.folder.lstat().st_mode):
            raise NotADirectoryError(self.folder)
        os.chmod(self.folder, 0o700)
        if dict(_entries(self.folder)) == self._seen:
            return
        self._take_away()
        for name in sorted(self._folders):
            if name not in self._seen:
                (self.folder / name).mkdir(mode=_FOLDER)
        for name in self._files:
            if name not in self._seen:
                self._write(name)
        for name in sorted(self._folders, reverse=True):  # inner ones first: they touch the outer
            path = self.folder / name
            os.chmod(path, _FOLDER, follow_symlinks=True)
            os.utime(path, ns=(self._times[name],) * 2)
        self._seen = {name: look for name, look in _entries(self.folder) if look is not None}

    def _take_away(self) -> None:
        """Remove what was not there, and what is not as it was."""
        for name, look in list(_entries(self.folder)):
            was = self._seen.get(name)
            if name in self._folders and look is not None and stat.S_ISDIR(look.mode):
                continue  # what is in it comes by itself; its mode and times are set at the end
            if look is None or look != was:
                remove_entry(self.folder / name)
                self._seen.pop(name, None)
        there = dict(_entries(self.folder))
        for name in [n for n in self._seen if n not in there]:
            del self._seen[name]

    def _write(self, name: str) -> None:
        path = self.folder / name
        new = os.O_WRONLY | os.O_CREAT | os.O_EXCL | os.O_NOFOLLOW | os.O_CLOEXEC
        with os.fdopen(os.open(path, new, _FILE), "wb") as file:
            file.write(self._files[name])
            file.flush()
            os.fchmod(file.fileno(), self._modes.get(name, _FILE))
            if name in self._times:
                os.utime(file.fileno(), ns=(self._times[name],) * 2)


def _entries(folder: Path) -> Iterator[tuple[str, Look | None]]:
    """Every name below a folder, outer ones first, with its look; no link is followed.

    A folder that cannot be looked into has no look: it has to go.
    """
    todo = [""]
    while todo:
        base = todo.pop()
        try:
            with os.scandir(folder / base) as found:
                entries = list(found)
        except OSError as error:
            if error.errno != errno.ENAMETOOLONG:
                raise
            yield base.partition(os.sep)[0], None  # no path leads there: all of it has to go
            continue
        for entry in entries:
            name = os.path.join(base, entry.name)
            about = entry.stat(follow_symlinks=False)
            is_folder = stat.S_ISDIR(about.st_mode)
            size = 0 if is_folder else about.st_size
            look = Look(about.st_mode, size, about.st_mtime_ns, about.st_ctime_ns)
            if is_folder and not os.access(entry.path, os.R_OK | os.X_OK | os.W_OK):
                yield name, None
                continue
            yield name, look
            if is_folder:
                todo.append(name)


def remove_entry(path: Path) -> None:
    """Take a name away, with all that is below it where it is a folder."""
    try:
        about = path.lstat()
    except FileNotFoundError:
        return  # it went with what it was in
    if stat.S_ISDIR(about.st_mode):
        _remove_folder(path)
    else:
        path.unlink()


def _remove_folder(top: Path) -> None:
    """Take a folder away with all below it, however deep that is; no link is followed.

    A path can be longer than the system takes, and a tree deeper than calls go: so what lies below
    is brought up first, and each folder is emptied where it stands. Raises OSError.
    """
    os.chmod(top, 0o700)
    numbers = itertools.count()
    folders = _emptied(top)
    while folders:
        for folder in folders:
            os.chmod(folder, 0o700)
            for inner in _emptied(folder):
                os.chmod(inner, 0o700)
                os.rename(inner, _free(top, numbers))
            os.rmdir(folder)
        folders = _emptied(top)
    os.rmdir(top)


def _emptied(folder: str | Path) -> list[str]:
    """Remove what is no folder from a folder; returns the folders in it."""
    with os.scandir(folder) as found:
        entries = list(found)
    for entry in entries:
        if not entry.is_dir(follow_symlinks=False):
            os.unlink(entry.path)
    return [e.path for e in entries if e.is_dir(follow_symlinks=False)]


def _free(folder: Path, numbers: Iterator[int]) -> Path:
    """A name that nothing in a folder has."""
    return next(p for p in (folder / str(n) for n in numbers) if not os.path.lexists(p))


def remove_tree(folder: Path) -> None:
    """Take a folder away with all in it, as far as that can be done."""
    with contextlib.suppress(OSError):
        remove_entry(folder)
