"""Writes a change into the program's file, if nobody else has changed it meanwhile."""

from __future__ import annotations

from pathlib import Path

from oddsum.mend.attempt import encoded
from oddsum.model.errors import OddSumError
from oddsum.source.program import Source, decode_source, read_source
from oddsum.source.save import replace_file


class ChangedMeanwhile(OddSumError):
    """The file is no longer what was read here; nothing was written."""


def keep(path: Path, source: Source, text: str, *, over: bool = False) -> Source:
    """Write a text in the place of a file that was read as ``source``; returns what stands there.

    In one move: half a program is never there. ``over`` writes although the file was changed.
    Raises ChangedMeanwhile, ProgramError, SaveError; then the file is as it was.
    """
    data = encoded(source, text)
    if not over and _now(path, source.name) != source.text:
        raise ChangedMeanwhile(
            f"{path.name} was changed outside of Odd Sum since it was read here.", file=path.name
        )
    replace_file(path, data)
    return decode_source(data, source.name)


def _now(path: Path, name: str) -> str | None:
    """The file's text on disk; None where it is gone."""
    return read_source(path, name).text if path.exists() else None
