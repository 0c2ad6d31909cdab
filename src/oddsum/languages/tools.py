"""How programs of languages that are only checked are built and run, by the ending of their file.

These are offers: a plan's own ``build`` and ``run`` hold, and people may write there what they
like. A further language of this sort is one line of the table.
"""

from __future__ import annotations

import re
import shutil
from dataclasses import dataclass
from pathlib import Path

# The class whose main a Java program begins with, as its text has it.
_MAIN_CLASS = re.compile(r"\bclass\s+(\w+)(?:(?!\bclass\b).)*?\bvoid\s+main\s*\(", re.DOTALL)


@dataclass(frozen=True)
class Commands:
    """What makes a program, blank for nothing, and what runs it; in words, as a plan has them."""

    build: tuple[str, ...]
    run: tuple[str, ...]

    @property
    def missing(self) -> str:
        """The first of the tools that this machine does not have; blank where it has them."""
        tools = (words[0] for words in (self.build, self.run) if words and "/" not in words[0])
        return next((tool for tool in tools if shutil.which(tool) is None), "")


@dataclass(frozen=True)
class Tool:
    """A language, by its name, and how a file of it is built and run.

    In the words, ``{file}`` is the file's name, ``{stem}`` the name without its ending, and
    ``{main}`` the class that holds ``main``.
    """

    name: str
    build: tuple[str, ...]
    run: tuple[str, ...]
    comment: str = "//"  # what a comment begins with

    def commands(self, program: Path, text: str = "") -> Commands:
        """The commands for a program with this text."""
        main = _MAIN_CLASS.search(text)
        words = {
            "file": program.name,
            "stem": program.stem,
            "main": main[1] if main else program.stem,
        }
        build, run = (
            tuple(word.format(**words) for word in command) for command in (self.build, self.run)
        )
        return Commands(build, run)


def _compiled(name: str, *compiler: str) -> Tool:
    return Tool(name, compiler, ("./{stem}",))


_CPP = _compiled("C++", "c++", "{file}", "-o", "{stem}")
_R = Tool("R", (), ("Rscript", "{file}"), "#")
TOOLS: dict[str, Tool] = {
    ".c": _compiled("C", "cc", "{file}", "-o", "{stem}", "-lm"),
    ".cpp": _CPP,
    ".cc": _CPP,
    ".cxx": _CPP,
    ".java": Tool("Java", ("javac", "{file}"), ("java", "-cp", ".", "{main}")),
    ".ts": Tool("TypeScript", (), ("node", "--experimental-strip-types", "{file}")),
    ".go": _compiled("Go", "go", "build", "-o", "{stem}", "{file}"),
    ".rs": _compiled("Rust", "rustc", "{file}", "-o", "{stem}"),
    ".rb": Tool("Ruby", (), ("ruby", "{file}"), "#"),
    ".r": _R,
    ".R": _R,
    ".m": Tool("Octave", (), ("octave", "--quiet", "--no-gui", "{file}"), "%"),
    ".sh": Tool("shell", (), ("sh", "{file}"), "#"),
    ".bash": Tool("bash", (), ("bash", "{file}"), "#"),
}


def tool_of(file: str | Path) -> Tool | None:
    """The tool for a file, by its ending; None for an ending that is not in the table."""
    return TOOLS.get(Path(file).suffix)
