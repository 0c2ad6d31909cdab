"""What the workspace needs of whatever shows it: a narrow door, with plain functions in it."""

from __future__ import annotations

import enum
from collections.abc import Callable
from dataclasses import dataclass
from typing import Literal, Protocol

StationName = Literal["check", "trace", "pinpoint", "mend", "record"]
Weight = Literal["information", "warning", "error"]


class Part(enum.Enum):
    """What can have changed. A screen repaints the panels that show one of the parts named."""

    PROGRAM = enum.auto()  # the program's text, and whether it can be run
    CASES = enum.auto()  # the plan, its results, the case in hand
    TRACE = enum.auto()  # the recording, or the step in hand
    LEADS = enum.auto()  # what Pinpoint found, and how far it is uncovered
    DRAFT = enum.auto()  # the change in hand, and what its try showed
    TRIES = enum.auto()  # the list of tries
    RECORD = enum.auto()  # runs, notebook, versions
    COUNT = enum.auto()  # only how far something is that is under way
    MARKS = enum.auto()  # how everything is drawn


EVERYTHING = frozenset(Part) - {Part.COUNT}


@dataclass(frozen=True)
class Choice:
    """A question with a few answers: each a word for the program and one to show, mildest first."""

    title: str
    said: tuple[str, ...]
    answers: tuple[tuple[str, str], ...]


class Interface(Protocol):
    """Whatever shows the workspace. All but ``post`` is called on the interface's own thread."""

    def post(self, call: Callable[[], None]) -> None:
        """From any thread: carry out a call on the interface's thread, in order."""

    def later(self, seconds: float, call: Callable[[], None]) -> Callable[[], None]:
        """Carry out a call after a time; returns what takes that back."""

    def changed(self, *parts: Part) -> None:
        """These parts are not as they were: show them anew."""

    def say(self, text: str, weight: Weight = "information", seconds: float = 5.0) -> None:
        """Tell the user something in passing."""

    def choose(self, choice: Choice, then: Callable[[str], None]) -> None:
        """Ask; ``then`` gets the answer's word, and is not called where there was none."""

    def go(self, station: StationName) -> None:
        """Show a station."""
