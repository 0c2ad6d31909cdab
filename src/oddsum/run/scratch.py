"""The scratch copy a program runs in: made once a check, put back between cases by what changed."""

from __future__ import annotations

import contextlib
import os
import shutil
import tempfile
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field
from pathlib import Path
from types import TracebackType
from typing import Self

from oddsum.languages import language_of
from oddsum.model.case import Case, Plan
from oddsum.model.errors import RunError

MOST_BYTES = 20 * 1024 * 1024
MOST_FILES = 2000  # looked at beside the program: it may lie in a home folder
_SKIPPED_FOLDERS = {"__pycache__", "node_modules", "venv", "env", "site-packages", "dist", "build"}


@dataclass(frozen=True)
class Bundle:
    """The files a program may need, in memory: name within the folder to content.

    ``program`` is the program's own name; ``left_out`` a sentence, blank where all was taken.
    """

    program: str
    files: Mapping[str, bytes]
    left_out: str = ""
    modes: Mapping[str, int] = field(default_factory=dict)  # rights of files that can be started

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


class Removable:
    """Something that is taken away at the end of its ``with``."""

    def remove(self) -> None:
        """Take it away."""
        raise NotImplementedError

    def __enter__(self) -> Self:
        return self

    def __exit__(
        self,
        kind: type[BaseException] | None,
        error: BaseException | None,
        trace: TracebackType | None,
    ) -> None:
        self.remove()


class Scratch(Removable):
    """A folder with a bundle's files in it; a context manager that removes it at the end."""

    def __init__(self, bundle: Bundle) -> None:
        self.bundle = bundle
        self.folder = Path(tempfile.mkdtemp(prefix="oddsum-")).resolve()
        self._seen: dict[str, tuple[int, int]] = {}
        self._fill()

    def remove(self) -> None:
        """Remove the folder, also where the program took away the right to."""
        for base, folders, _ in os.walk(self.folder):
            for name in folders:
                with contextlib.suppress(OSError):
                    os.chmod(os.path.join(base, name), 0o700)
        shutil.rmtree(self.folder, ignore_errors=True)

    def lay(self, case: Case) -> None:
        """Write the files that a case brings along."""
        for name, content in case.files.items():
            self._write(name, content.encode("utf-8"))

    def content(self, name: str) -> str | None:
        """What stands in a file now; None where there is none."""
        try:
            return (self.folder / name).read_text(encoding="utf-8", errors="replace")
        except OSError:
            return None

    def put_back(self) -> None:
        """Make the folder what it was: only what changed is touched."""
        try:
            self._put_back()
        except OSError:  # rights taken away, a file where a folder was: begin anew
            self.remove()
            self.folder.mkdir(mode=0o700)
            self._fill()

    def _put_back(self) -> None:
        now = self._look()
        for name in now.keys() - self._seen.keys():
            (self.folder / name).unlink()
        for name, seen in self._seen.items():
            if now.get(name) != seen:
                self._write(name, self.bundle.files[name])
                self._seen[name] = self._stat(name)
        known = {str(p) for name in self._seen for p in Path(name).parents}
        for base, _folders, _files in os.walk(self.folder, topdown=False):
            relative = os.path.relpath(base, self.folder)
            if relative not in known and relative != ".":
                os.rmdir(base)

    def _fill(self) -> None:
        for name, data in self.bundle.files.items():
            self._write(name, data)
        self._seen = self._look()

    def _write(self, name: str, data: bytes) -> None:
        path = self.folder / name
        path.parent.mkdir(parents=True, exist_ok=True)
        path.write_bytes(data)
        if name in self.bundle.modes:
            path.chmod(self.bundle.modes[name])

    def _stat(self, name: str) -> tuple[int, int]:
        stat = (self.folder / name).lstat()
        return stat.st_size, stat.st_mtime_ns

    def _look(self) -> dict[str, tuple[int, int]]:
        found = {}
        for base, folders, files in os.walk(self.folder):
            linked = [f for f in folders if os.path.islink(os.path.join(base, f))]
            for file in [*files, *linked]:
                name = os.path.relpath(os.path.join(base, file), self.folder)
                found[name] = self._stat(name)
        return found
