"""What this machine offers: interpreters, the layers of the fence, and folders to write in."""

from __future__ import annotations

import os
import platform
import shutil
import subprocess
import tempfile
from pathlib import Path

import msgspec

from oddsum.languages.registry import LANGUAGES
from oddsum.run.fence.layers import layers

_SECONDS = 10.0  # that a program may take to say its version


class Offered(msgspec.Struct, frozen=True):
    """Something that runs programs: ``version`` is blank and ``path`` too where it is missing."""

    what: str
    path: str
    version: str


class LayerHere(msgspec.Struct, frozen=True):
    """A layer of the fence: what it holds, whether it is here, and what there is to say of it."""

    name: str
    holds: str
    here: bool
    detail: str


class Folder(msgspec.Struct, frozen=True):
    """A folder that is written in: what for, and how many MB are free there.

    ``fault`` says why nothing can be written there, blank where it can.
    """

    what: str
    path: str
    free: int | None
    fault: str


class Machine(msgspec.Struct, frozen=True):
    """All of it. ``user`` is 0 for the one who may do everything, whom some layers hold less."""

    system: str
    user: int
    interpreters: tuple[Offered, ...]
    layers: tuple[LayerHere, ...]
    folders: tuple[Folder, ...]

    @property
    def fenced(self) -> bool:
        """Whether what a trial writes is held by the system and not by our words alone."""
        return any(one.here for one in self.layers if one.name in ("namespaces", "Landlock"))


def look_around(kept: dict[str, Path]) -> Machine:
    """Look at everything; ``kept`` are folders of the tool's own by what is kept there."""
    folders = {"programs run in": Path(tempfile.gettempdir()), **kept}
    return Machine(
        system=f"{platform.system()} {platform.release()}, {platform.machine()}",
        user=os.getuid(),
        interpreters=(*_interpreters(), _node()),
        layers=tuple(LayerHere(one.name, one.holds, one.here, one.detail) for one in layers()),
        folders=tuple(_folder(what, path) for what, path in folders.items()),
    )


def _interpreters() -> list[Offered]:
    return [
        Offered(language.name, one.path, ".".join(map(str, one.version)))
        for language in LANGUAGES
        for one in language.running.interpreters()
    ]


def _node() -> Offered:
    """Node runs programs in JavaScript, for a plan with ``run``."""
    path = shutil.which("node")
    if path is None:
        return Offered("node", "", "")
    try:
        said = subprocess.run(
            [path, "--version"], capture_output=True, text=True, timeout=_SECONDS, check=True
        ).stdout
    except (OSError, subprocess.SubprocessError):
        return Offered("node", path, "")
    return Offered("node", path, said.strip().removeprefix("v"))


def _folder(what: str, path: Path) -> Folder:
    """Try to write there, or in the nearest folder above that there is."""
    there = next(p for p in (path, *path.absolute().parents) if p.exists())
    try:
        with tempfile.TemporaryFile(dir=there) as file:
            file.write(b"=")
            file.flush()
        return Folder(what, str(path), shutil.disk_usage(there).free >> 20, "")
    except OSError as error:
        return Folder(what, str(path), None, (error.strerror or str(error)).lower())
