"""A program's text: read as the interpreter would, split into lines as it counts them."""

from __future__ import annotations

import codecs
import re
from dataclasses import dataclass
from functools import cached_property
from pathlib import Path

from oddsum.model.errors import ProgramError


@dataclass(frozen=True)
class Source:
    """A source file: its text with ``\\n`` line ends, and how it is written on disk.

    ``encoding`` is the one its coding line or BOM names (``utf-8`` without), ``newline`` the line
    end that most of its lines have. ``name`` is what is shown and what edits are filed under.
    """

    name: str
    text: str
    encoding: str = "utf-8"
    newline: str = "\n"

    @cached_property
    def lines(self) -> tuple[str, ...]:
        """The lines without their ends; line n is ``lines[n - 1]``."""
        return tuple(self.text.split("\n")[:-1] if self.text.endswith("\n") else
                     self.text.split("\n"))  # fmt: skip

    @cached_property
    def kept(self) -> dict[str, object]:
        """What a language has read off this text, so that it need not read it again."""
        return {}

    @cached_property
    def line_starts(self) -> tuple[int, ...]:
        """Offset in characters of each line's start, from 0."""
        starts, at = [], 0
        for line in self.text.split("\n"):
            starts.append(at)
            at += len(line) + 1
        return tuple(starts)

    def around(self, line: int) -> tuple[tuple[int, str], ...]:
        """A line and the one before it, with their numbers; nothing for a line there is not."""
        if not 1 <= line <= len(self.lines):
            return ()
        return tuple((n, self.lines[n - 1]) for n in range(max(1, line - 1), line + 1))

    def offset(self, line: int, byte_column: int) -> int:
        """Turn a place (line from 1, column in UTF-8 bytes from 0) into a character offset."""
        start = self.line_starts[line - 1]
        text = self.text[start : start + byte_column + 1]
        if text.isascii():
            return start + byte_column
        line_text = self.text[start:].split("\n", 1)[0]
        return start + len(line_text.encode()[:byte_column].decode("utf-8", "ignore"))

    def encoded(self) -> bytes:
        """The bytes of the file, in its own encoding and line ends."""
        return self.text.replace("\n", self.newline).encode(self.encoding)

    def edited(self, text: str) -> Source:
        """The same file with another text."""
        return Source(self.name, text, self.encoding, self.newline)


def find_program(path: Path) -> Path:
    """Return the program's path; raises ProgramError where it is no file one could run."""
    if path.is_dir():
        raise ProgramError(
            f"{path} is a folder, not a program.",
            hint=f"Name the program file in it, for example {path / 'fares.py'}.",
        )
    if not path.exists():
        near = _nearest(path)
        hint = f"Did you mean {near}?" if near else "Check the name and the folder you are in."
        raise ProgramError(f"There is no file {path}.", hint=hint)
    if not path.is_file():
        raise ProgramError(f"{path} is no file that could hold a program.")
    if path.suffixes[-2:] == [".cases", ".toml"]:
        raise ProgramError(
            f"{path.name} is a plan, and the program is wanted.",
            hint=f"Name the program that it is for: {_program_of(path)}.",
        )
    return path


def _program_of(plan: Path) -> str:
    """The file beside a plan that has its name."""
    stem = plan.name.split(".")[0]
    beside = sorted(p.name for p in plan.parent.glob(f"{stem}.*") if p.suffix != ".toml")
    return beside[0] if beside else stem


def _nearest(path: Path) -> str:
    import difflib

    try:
        names = [p.name for p in path.parent.iterdir() if p.is_file() and p.suffix != ".toml"]
    except OSError:
        return ""
    close = difflib.get_close_matches(path.name, names, n=1)
    return str(path.with_name(close[0])) if close else ""


def read_source(path: Path, name: str | None = None) -> Source:
    """Read a source file: BOM, coding line, and any line end; raises ProgramError."""
    try:
        data = path.read_bytes()
    except OSError as error:
        raise ProgramError(f"{path} cannot be read: {error.strerror}.") from error
    return decode_source(data, name or path.name)


_CODING = re.compile(rb"^[ \t\f]*(?:#|//).*?coding[:=][ \t]*([-\w.]+)")
_BLANK = re.compile(rb"^[ \t\f]*(?:(?:#|//).*)?$")


def _encoding_of(data: bytes) -> str:
    """The encoding that a mark at the start names, or a comment in the first two lines.

    A name that nobody knows, or one that the mark speaks against, counts as none.
    """
    marked = data.startswith(codecs.BOM_UTF8)
    usual = "utf-8-sig" if marked else "utf-8"
    first, _, rest = data.removeprefix(codecs.BOM_UTF8).replace(b"\r\n", b"\n").partition(b"\n")
    lines = [first, rest.partition(b"\n")[0]] if _BLANK.match(first) else [first]
    named = next((m.group(1).decode() for line in lines if (m := _CODING.match(line))), "")
    if not named:
        return usual
    try:
        known = codecs.lookup(named).name
    except LookupError:
        return usual
    if marked or known == "utf-8":
        return usual
    return "iso-8859-1" if known in ("iso8859-1", "latin-1") else named.lower().replace("_", "-")


def decode_source(data: bytes, name: str) -> Source:
    """Decode a source file by its mark, its coding line, or as UTF-8; raises ProgramError."""
    encoding = _encoding_of(data)
    try:
        text = data.decode(encoding)
    except (UnicodeDecodeError, LookupError) as error:
        line = data[: getattr(error, "start", 0)].count(b"\n") + 1
        raise ProgramError(
            f"{name} is not text in {encoding}: line {line} has a byte that does not belong.",
            hint="Save the file as UTF-8, or name its encoding in the first line: "
            "# -*- coding: latin-1 -*-",
            file=name,
            line=line,
        ) from error
    ends = {e: data.count(e.encode()) for e in ("\r\n", "\n", "\r")}
    newline = "\r\n" if ends["\r\n"] * 2 > ends["\n"] else "\n"
    text = text.replace("\r\n", "\n").replace("\r", "\n")
    return Source(name, text, encoding, newline)
