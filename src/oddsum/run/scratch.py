"""The scratch copy a program runs in: made once a check, put back between cases by what changed."""

from __future__ import annotations

import contextlib
import os
import re
import stat
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field
from pathlib import Path

from oddsum.languages import language_of
from oddsum.model.case import Case, Plan
from oddsum.model.errors import RunError
from oddsum.run.removable import Removable
from oddsum.run.restore import FolderState, remove_tree
from oddsum.run.rooms import Room
from oddsum.run.terms import UNFENCED, Terms

MOST_BYTES = 20 * 1024 * 1024
MOST_FILES = 2000  # looked at beside the program: it may lie in a home folder
_SKIPPED_FOLDERS = {"__pycache__", "node_modules", "venv", "env", "site-packages", "dist", "build"}


@dataclass(frozen=True)
class Bundle:
    """The files a program may need, in memory: name within the folder to content.

    ``program`` is the program's own name; ``left_out`` a sentence, blank where all was taken;
    ``said`` what the plan's build wrote when it made some of them.
    """

    program: str
    files: Mapping[str, bytes]
    left_out: str = ""
    modes: Mapping[str, int] = field(default_factory=dict)  # rights of files that can be started
    said: str = ""

    @property
    def lines(self) -> int:
        """How many lines the program's own file has."""
        return self.files.get(self.program, b"").count(b"\n")

    def edited(self, files: Mapping[str, bytes]) -> Bundle:
        """The same bundle with some files replaced."""
        return Bundle(self.program, {**self.files, **files}, self.left_out, self.modes)


def bundle(plan: Plan) -> Bundle:
    """Gather what the program needs: its modules, what the plan names, and what lies beside it.

    Hidden folders, environments and caches are never taken; the rest up to 20 MB in all, what the
    program and the plan name first.
    """
    program = plan.program.resolve()
    folder = program.parent
    first = [*language_of(program).reading.own_files(program), *_named_by(plan, folder)]
    files: dict[str, bytes] = {}
    modes: dict[str, int] = {}
    missed: list[str] = []
    room = MOST_BYTES
    beside, more = _beside(folder)
    for path in dict.fromkeys([*first, *beside]):
        name = os.path.relpath(path, folder)
        data = _content(path, room, always=path == program)
        if data is None:
            missed.append(name)
            continue
        files[name] = data
        if os.access(path, os.X_OK):
            modes[name] = 0o755
        room -= len(data)
    return Bundle(program.name, files, _left_out(missed, more), modes)


def _content(path: Path, room: int, always: bool) -> bytes | None:
    try:
        if not always and path.stat().st_size > room:
            return None
        return path.read_bytes()
    except OSError as error:
        if always:
            raise RunError(f"{path} cannot be read: {error.strerror}.") from error
        return None


def _named_by(plan: Plan, folder: Path) -> Iterator[Path]:
    """Files of the folder whose names stand in a case's arguments or input."""
    for case in plan.cases:
        words = [*case.args, *(case.stdin or "").split()]
        for word in words:
            path = folder / word
            with contextlib.suppress(OSError, ValueError):  # too long for a name, or none at all
                if "/" not in word and path.is_file() and not word.startswith("."):
                    yield path


def _beside(folder: Path) -> tuple[list[Path], bool]:
    """Files in and under the folder, smallest first; and whether there were too many to look at."""
    found: list[tuple[int, Path]] = []
    for base, folders, files in os.walk(folder):
        folders[:] = sorted(f for f in folders if not _is_skipped(Path(base, f)))
        for file in files:
            if len(found) >= MOST_FILES:
                return [p for _, p in sorted(found)], True
            path = Path(base, file)
            if not file.startswith(".") and not file.endswith(".pyc"):
                with contextlib.suppress(OSError):
                    if path.is_file():
                        found.append((path.stat().st_size, path))
    return [p for _, p in sorted(found)], False


# Where we keep our record, and where we run programs: a save there is our own doing.
_OURS = re.compile(r"oddsum(-(run|chart|edit)-.*)?$")


def folders_under(folder: Path, most: int) -> list[Path]:
    """The folders whose saves matter to a program in this one, the nearest first; so many."""
    found, todo = [folder], [folder]
    while todo and len(found) < most:
        base = todo.pop(0)
        try:
            inside = sorted(p for p in base.iterdir() if p.is_dir() and not p.is_symlink())
        except OSError:
            continue
        mine = [p for p in inside if not (_is_skipped(p) or _OURS.match(p.name))]
        found += mine[: most - len(found)]
        todo += mine
    return found


def _is_skipped(folder: Path) -> bool:
    hidden = folder.name.startswith(".") or folder.name in _SKIPPED_FOLDERS
    return hidden or (folder / "pyvenv.cfg").exists()


def _left_out(missed: list[str], more: bool) -> str:
    if more:
        return f"Only the first {MOST_FILES} files beside the program were taken along."
    if not missed:
        return ""
    named = ", ".join(sorted(missed)[:3]) + (" and others" if len(missed) > 3 else "")
    return f"Not taken along, since all files may be 20 MB together: {named}."


class Scratch(Removable):
    """A room's ``work`` folder with a bundle's files in it; a context manager that removes it.

    Without a room of somebody's it has one of its own, on these terms. One at a time in a room.
    """

    def __init__(self, bundle: Bundle, room: Room | None = None, terms: Terms = UNFENCED) -> None:
        self.bundle, self._owns = bundle, room is None
        self.room = Room(terms) if room is None else room
        self.folder = self.room.work
        self._state = FolderState(self.folder, bundle.files, bundle.modes)
        self._temporary = FolderState(self.room.temporary, {})
        self._state.fill()
        self._temporary.fill()

    def remove(self) -> None:
        """Remove the folder, also where the program took away the right to."""
        if self._owns:
            self.room.remove()
        else:
            remove_tree(self.folder)

    def lay(self, case: Case) -> None:
        """Write the files that a case brings along."""
        for name, content in case.files.items():
            path = self.folder / name
            path.parent.mkdir(parents=True, exist_ok=True)
            path.unlink(missing_ok=True)
            path.write_bytes(content.encode("utf-8"))

    def content(self, name: str) -> str | None:
        """What stands in a file now; None where there is none, or something that is no file."""
        try:
            place = os.open(self.folder / name, os.O_RDONLY | os.O_NOFOLLOW | os.O_NONBLOCK)
        except (OSError, ValueError):
            return None  # a link leads elsewhere
        with os.fdopen(place, "rb") as file:
            if not stat.S_ISREG(os.fstat(place).st_mode):
                return None  # a pipe or a device would be waited for
            try:
                return file.read(MOST_BYTES).decode("utf-8", "replace")
            except OSError:
                return None

    def put_back(self) -> None:
        """Make the room what it was: only what changed is touched."""
        with contextlib.suppress(OSError):
            self.room.leave_only(self.room.work, self.room.temporary)
        for state in (self._state, self._temporary):
            try:
                state.put_back()
            except OSError:  # rights taken away, a link where a folder was: begin anew
                remove_tree(state.folder)
                with contextlib.suppress(OSError):
                    state.folder.unlink()
                state.fill()
