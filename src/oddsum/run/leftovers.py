"""Half-written files of processes that are gone: a save is written beside its file, then moved."""

from __future__ import annotations

import contextlib
import os
import stat
from pathlib import Path

from oddsum.run.running import is_running
from oddsum.source.save import writer_of


def sweep_saves(folder: Path) -> int:
    """Take away what saves of dead processes have left in a folder; returns how much that was.

    Only plain files of this user with a name that only a save of ours has.
    """
    swept = 0
    with contextlib.suppress(OSError), os.scandir(folder) as entries:
        for entry in entries:
            writer = writer_of(entry.name)
            if writer and not is_running(writer) and _is_ours(entry):
                with contextlib.suppress(OSError):
                    os.unlink(entry.path)
                    swept += 1
    return swept


def _is_ours(entry: os.DirEntry[str]) -> bool:
    try:
        about = entry.stat(follow_symlinks=False)
    except OSError:
        return False
    return stat.S_ISREG(about.st_mode) and about.st_uid == os.getuid()
