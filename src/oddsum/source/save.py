"""Replaces a file in one move: a crash leaves the old one or the new one, never half of it."""

from __future__ import annotations

import contextlib
import errno
import os
import re
import tempfile
from pathlib import Path

from oddsum.model.errors import OddSumError

_ROOM = "Make room, or check that you may write in that folder; then try once more."


# What is being written has the file's name in it, and the process that writes it.
_PREFIX, _NAMED = ".%s.oddsum-%d-", re.compile(r"\..+\.oddsum-(\d+)-\w+")


class SaveError(OddSumError):
    """A file that cannot be written; what stood in it stands there still."""


def replace_file(path: Path, data: bytes) -> None:
    """Write a file whole, or, where a device or a pipe is meant, into it.

    Its rights stay; a link to it stays a link. Raises SaveError. A file that may not be written is
    refused, although its folder would let it be replaced: who took the right away meant it.
    """
    path = path.resolve()
    temporary = ""
    try:
        if path.exists() and not path.is_file():  # a device, a pipe: nothing to put in its place
            path.write_bytes(data)
            return
        if path.exists() and not (os.access(path, os.W_OK) and path.stat().st_mode & 0o222):
            raise PermissionError(errno.EACCES, "it is read-only")
        handle, temporary = tempfile.mkstemp(
            dir=path.parent, prefix=_PREFIX % (path.name[:80], os.getpid())
        )
        with os.fdopen(handle, "wb") as file:
            file.write(data)
            file.flush()
            os.fsync(file.fileno())
        os.chmod(temporary, path.stat().st_mode & 0o777 if path.exists() else 0o644)
        os.replace(temporary, path)
    except OSError as error:
        if temporary:
            with contextlib.suppress(OSError):
                os.unlink(temporary)
        why = (error.strerror or str(error)).lower()
        raise SaveError(
            f"{path.name} cannot be written: {why}. Nothing in it has changed.",
            hint=_ROOM,
            file=path.name,
        ) from error


def writer_of(name: str) -> int:
    """The process that was writing a file when it got this name; 0 for any other file."""
    found = _NAMED.fullmatch(name)
    return int(found[1]) if found else 0
