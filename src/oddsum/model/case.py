"""The test plan: what is typed in, what should come out."""

from __future__ import annotations

from collections.abc import Iterable
from pathlib import Path
from typing import Literal, get_args

import msgspec

from oddsum.model.picture import Draws

Kind = Literal["normal", "boundary", "invalid"]
Rule = Literal["exact", "lines", "words", "numbers", "contains", "pattern", "unordered"]
Prompts = Literal["piped", "without", "terminal"]
Reveal = Literal["where", "what", "how"]
LEVELS: tuple[Reveal, ...] = get_args(Reveal)  # how far a lead is uncovered, the least first
TopLevel = Literal["needed", "all"]
Allow = Literal["network", "processes", "files"]  # what a run may do inside the fence
ALLOWING: dict[Allow, str] = {  # in words
    "network": "reach the network",
    "processes": "start other programs",
    "files": "write outside of their own folder",
}


def allowing(wanted: Iterable[Allow]) -> str:
    """What runs are to be allowed, in words: ``reach the network and start other programs``."""
    said = [words for kind, words in ALLOWING.items() if kind in set(wanted)]
    return " and ".join(filter(None, (", ".join(said[:-1]), *said[-1:])))


DEFAULT_TIMEOUT = 2.0  # seconds of processor time
WALL_FACTOR = 5.0  # wall clock seconds a case may take, per second of processor time
DEFAULT_MEMORY = 1024.0  # MB
DEFAULT_OUTPUT = 1.0  # MB
DEFAULT_TOLERANCE = 1e-9  # relative


class Settings(msgspec.Struct, frozen=True, kw_only=True):
    """How a case is run and compared. ``None`` means: nothing said here."""

    compare: Rule | None = None
    tolerance: float | None = None
    ignore_case: bool | None = None
    prompts: Prompts | None = None
    timeout: float | None = None
    seed: int | None = None
    today: str | None = None  # an ISO date, with a time or without: what the program takes for now
    memory: float | None = None
    output: float | None = None

    def over(self, other: Settings) -> Settings:
        """These settings, and the other's wherever these say nothing."""
        own = {f: getattr(self, f) for f in self.__struct_fields__}
        return Settings(**{f: getattr(other, f) if v is None else v for f, v in own.items()})


DEFAULTS = Settings(
    compare="lines",
    tolerance=DEFAULT_TOLERANCE,
    ignore_case=False,
    timeout=DEFAULT_TIMEOUT,
    seed=0,
    memory=DEFAULT_MEMORY,
    output=DEFAULT_OUTPUT,
)


class Case(msgspec.Struct, frozen=True, kw_only=True):
    """One case of the plan. ``number`` counts from 1 in the order of the file."""

    number: int
    name: str
    kind: Kind = "normal"
    note: str = ""
    disabled: bool = False
    stdin: str | None = None
    args: tuple[str, ...] = ()
    files: dict[str, str] = {}
    call: str | None = None
    before: str | None = None
    stdout: str | None = None
    returns: str | None = None
    raises: str | None = None
    exit: int | None = None
    writes: dict[str, str] | None = None
    draws: Draws | None = None
    check: str | None = None
    settings: Settings = Settings()

    def checked(self) -> tuple[str, ...]:
        """The keys that say what is expected, in the contract's order."""
        keys = ("stdout", "returns", "raises", "exit", "writes", "draws", "check")
        return tuple(k for k in keys if getattr(self, k) is not None)


class Plan(msgspec.Struct, frozen=True, kw_only=True):
    """A test plan and the program it belongs to. ``file`` is None for a plan made on the spot."""

    program: Path
    file: Path | None = None
    cases: tuple[Case, ...] = ()
    settings: Settings = Settings()
    top_level: TopLevel = "needed"
    fence: bool = False  # plain runs are fenced in as well
    allow: tuple[Allow, ...] = ()
    reveal: Reveal | None = None
    guess_first: bool = False
    author: str = ""
    build: tuple[str, ...] = ()  # for a program that is not Python: what makes it,
    run: tuple[str, ...] = ()  # and what runs it; commands with their arguments

    def active(self) -> tuple[Case, ...]:
        """The cases that are run: all that are not disabled."""
        return tuple(c for c in self.cases if not c.disabled)

    def settings_of(self, case: Case) -> Settings:
        """What holds for this case: its own word, then the plan's, then the defaults."""
        return case.settings.over(self.settings).over(DEFAULTS)
