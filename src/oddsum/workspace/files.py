"""The program's own files as they are on disk."""

from __future__ import annotations

from pathlib import Path

from oddsum.languages import language_of
from oddsum.languages.outline import Loop, Reads
from oddsum.model.errors import OddSumError
from oddsum.source.program import Source, find_program, read_source


class Files:
    """Reads the program's files, and knows which of them were written from here."""

    def __init__(self, program: Path) -> None:
        self.program = program
        self.source: Source | None = None
        self._sources: dict[str, Source | None] = {}
        self._written: dict[Path, str] = {}  # what was saved here, as it was then

    @property
    def folder(self) -> Path:
        """Where the program and its modules stand."""
        return self.program.resolve().parent

    def read(self) -> None:
        """Read the program anew; raises ProgramError."""
        self._sources = {}
        self.source = read_source(find_program(self.program))

    def source_of(self, file: str) -> Source | None:
        """One of the learner's files, by its name in steps and leads; None: it cannot be read."""
        if file not in self._sources:
            try:
                self._sources[file] = read_source(self.folder / file, file)
            except OddSumError:
                self._sources[file] = None
        return self._sources[file]

    def loops_of(self, file: str) -> tuple[Loop, ...]:
        """The loops of one of the program's files."""
        source = self.source_of(file)
        return language_of(file).reading.loops(source) if source is not None else ()

    def reads_of(self, file: str) -> dict[int, Reads]:
        """What the statements of one of the program's files read and set."""
        source = self.source_of(file)
        return language_of(file).reading.reads(source) if source is not None else {}

    # -- whose saves they are ----------------------------------------------------------------

    def will_write(self, path: Path, text: str) -> None:
        """Said ahead of a write: news of the save may come before the word that it was written."""
        self._written[path] = text

    def foreign(self, paths: frozenset[Path]) -> frozenset[Path]:
        """Which of these files are not as they were written here. They are somebody else's from
        now on, even if they become the same again.
        """
        others = frozenset(p for p in paths if not self._as_written(p))
        for path in others:
            self._written.pop(path, None)
        return others

    def _as_written(self, path: Path) -> bool:
        text = self._written.get(path)
        if text is None:
            return False
        try:
            return read_source(path).text == text
        except OddSumError:
            return False
