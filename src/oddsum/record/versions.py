"""A program's version: the texts of its own files, as they are on disk."""

from __future__ import annotations

import os
from pathlib import Path

from oddsum.languages import language_of
from oddsum.model.history import Version
from oddsum.source.program import find_program, read_source


def version_of(program: Path) -> Version:
    """The program with all modules of its own; raises ProgramError where it cannot be read."""
    folder = find_program(program).resolve().parent
    paths = dict.fromkeys(
        [program.resolve(), *language_of(program).reading.own_files(program.resolve())]
    )
    return Version(
        files={os.path.relpath(p, folder): read_source(p).text for p in paths if p.is_file()}
    )
