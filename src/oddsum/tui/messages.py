"""The messages that cross screens: what the workers tell. Each says which run it belongs to."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from pathlib import Path
from typing import Literal

from textual.message import Message

from oddsum.advise.advice import Advice
from oddsum.advise.pattern import Pattern
from oddsum.model.case import Case
from oddsum.model.claim import Broken, Claim
from oddsum.model.errors import OddSumError
from oddsum.model.history import Entry, PastRun, Try, Unkept, Version
from oddsum.model.lead import Lead, Pinpointing
from oddsum.model.outcome import CaseResult
from oddsum.run.interpreter import Interpreter
from oddsum.source.program import Source
from oddsum.trace.ask import Story
from oddsum.trace.inside import Web
from oddsum.trace.parts import Apart
from oddsum.tui.work import Traced


@dataclass
class InterpreterFound(Message):
    """The interpreter that will run the program, what is left out of its folder, and its texts.

    ``version`` is None where they cannot be read as text.
    """

    number: int
    interpreter: Interpreter
    left_out: str
    version: Version | None = None


@dataclass
class CaseFinished(Message):
    """One case of a check has ended."""

    number: int
    result: CaseResult


@dataclass
class CheckEnded(Message):
    """A check is over; ``fault`` says why it could not be carried out, None where it was."""

    number: int
    seconds: float
    fault: OddSumError | None


@dataclass
class PatternFound(Message):
    """What the odd cases share, None where nothing can be said."""

    number: int
    pattern: Pattern | None


@dataclass
class AdviceFound(Message):
    """What no case tries; or why that could not be found out."""

    number: int
    advice: Advice | None
    fault: OddSumError | None


@dataclass
class StepsRecorded(Message):
    """So many steps of the case are recorded."""

    number: int
    count: int

    def can_replace(self, message: Message) -> bool:
        """The newest count stands for the older ones."""
        return isinstance(message, StepsRecorded)


@dataclass
class TraceEnded(Message):
    """A recording is over: with a trace, or with what went wrong; neither where it was stopped."""

    number: int
    traced: Traced | None
    fault: OddSumError | None
    line: int | None = None  # where to go in it,
    at_the_end: bool = False  # or whether to go where it stopped


@dataclass
class SearchWent(Message):
    """How far the search is."""

    number: int
    doing: str
    done: int
    total: int

    def can_replace(self, message: Message) -> bool:
        """The newest stands for the older ones."""
        return isinstance(message, SearchWent)


@dataclass
class LeadsFound(Message):
    """The best leads so far."""

    number: int
    leads: tuple[Lead, ...]


@dataclass
class StoriesTold(Message):
    """The recordings of some odd cases, by number: values in them can be asked about."""

    number: int
    stories: dict[int, tuple[Case, Story]]


@dataclass
class SearchEnded(Message):
    """The search is over; neither found nor fault where it was stopped."""

    number: int
    found: Pinpointing | None
    fault: OddSumError | None


@dataclass
class FilesChanged(Message):
    """Files beside the program were saved."""

    paths: frozenset[Path]


@dataclass
class InsideFound(Message):
    """What lies inside of what after a step; else ``fault`` says why that is not known."""

    traced: Traced
    step: int
    web: Web | None
    fault: str = ""


@dataclass
class LineApart(Message):
    """A line was taken apart; None where it was stopped or could not be."""

    traced: Traced
    line: int
    apart: Apart | None
    fault: OddSumError | None


@dataclass
class LookedThrough(Message):
    """A search through a trace has come to a step."""

    what: str
    step: int

    def can_replace(self, message: Message) -> bool:
        """The newest stands for the older ones."""
        return isinstance(message, LookedThrough)


@dataclass
class MomentFound(Message):
    """A search through a trace is over: at a step, or nowhere."""

    traced: Traced
    what: str
    step: int | None


@dataclass
class ClaimsHeld(Message):
    """Claims were held against every case: the first that each one breaks, by number."""

    claims: tuple[Claim, ...]
    broken: dict[int, Broken]


@dataclass
class TryCaseFinished(Message):
    """A case has run on the copy that a change is tried on."""

    number: int
    result: CaseResult


@dataclass
class TryEnded(Message):
    """A try is over; ``fault`` says why the copy could not start, None where it did."""

    number: int
    seconds: float
    fault: OddSumError | None


@dataclass
class TriesRead(Message):
    """The list of tries as it is recorded."""

    tries: tuple[Try, ...]


@dataclass
class RecordRead(Message):
    """What is recorded of the program: the last checks of so many, tries, the notebook."""

    runs: tuple[PastRun, ...]
    count: int
    tries: tuple[Try, ...]
    entries: tuple[Entry, ...]


@dataclass
class UnkeptFound(Message):
    """Changes that windows which are gone had in hand, the newest first."""

    changes: tuple[Unkept, ...]


@dataclass
class UncoveredRead(Message):
    """How far leads of the program as it is were uncovered before, by file and lines."""

    levels: Mapping[tuple[str, tuple[int, ...]], int]


@dataclass
class EarlierRead(Message):
    """Checks ahead of those that are shown."""

    runs: tuple[PastRun, ...]


@dataclass
class RecordFailed(Message):
    """Something could not be recorded, or read from the record."""

    fault: OddSumError


@dataclass
class VersionsRead(Message):
    """Two versions of the program, None where one is not recorded."""

    numbers: tuple[int, int]
    versions: tuple[Version | None, Version | None]


@dataclass
class Kept(Message):
    """A change was written into its file, which reads like this now."""

    path: Path
    source: Source


@dataclass
class KeepRefused(Message):
    """A change was not written: the file was changed, the record cannot be had, or the disk."""

    why: Literal["changed", "record", "write"]
    fault: OddSumError


@dataclass
class ReportWritten(Message):
    """A report was written; ``fault`` says why it could not be."""

    path: Path
    fault: OddSumError | None
    remarks: tuple[str, ...]
