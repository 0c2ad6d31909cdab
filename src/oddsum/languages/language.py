"""What a language must offer, so that programs in it go through the stations.

A new language is a folder beside this file with an object of this kind, and one line in
``registry.py``. It may offer less than all stations: ``can`` says which, and for the others
``refusal`` says so in a sentence. Everything else in the house speaks of lines, names, values,
conditions, calls and output alone.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import TYPE_CHECKING, Any, Literal, Protocol

import msgspec

if TYPE_CHECKING:  # what it speaks of is loaded by those who read sources: 15 ms
    from oddsum.languages.outline import CallText, Fork, Function, Limit, Loop, Reads
    from oddsum.languages.questions import Question
    from oddsum.languages.scene import Numbers, Scene, Types
    from oddsum.model.case import Case
    from oddsum.model.lead import Note, TrialEdit
    from oddsum.source.program import Source

# Edits that write a line anew or hide a difference, or were made to give certain values.
Invents = Literal["", "a line", "a value"]
Gap = Literal["before", "behind"]  # where no statement stands: on which side of one that does
Station = Literal["check", "trace", "pinpoint", "mend", "advice"]


class Interpreter(msgspec.Struct, frozen=True):
    """What runs programs: the file to start, its version, and a remark on how it was chosen."""

    path: str
    version: tuple[int, int, int]
    remark: str = ""
    language: str = "Python"

    @property
    def title(self) -> str:
        """How it is named on screen."""
        return f"{self.language} " + ".".join(map(str, self.version[:2]))


@dataclass(frozen=True)
class Probe:
    """What runs inside the learner's interpreter: a script that speaks the wire.

    It is started as ``INTERPRETER OPTIONS SCRIPT REQUEST WIRE``, the last two being descriptors.
    ``forks``: started with ``host SOCKET`` it waits with all that a case needs, and forks for each.
    ``live``: it can run a program before somebody who types. ``dates``: it can tell a program
    another date than that of the day.
    ``values``: on trial it can put other values in the place of an expression's, and look for
    expressions that give them. ``keeps_time``: it ends what takes too long itself, and says where
    that was, and what the variables are where a program stops. One that does not is run a second
    time for that, in the mode ``watch``.
    ``network``: names of the environment that the interpreter reads for the network alone, and that
    cost it time as it starts.
    """

    script: str
    options: tuple[str, ...] = ()
    forks: bool = False
    live: bool = False
    keeps_time: bool = True
    values: bool = False
    dates: bool = False
    network: tuple[str, ...] = ()


class Running(Protocol):
    """What runs programs of the language, and what is started inside it."""

    def find_interpreter(self, program: Path, named: str | None) -> Interpreter:
        """What runs the program: the one named, else the learner's own. Raises InterpreterError."""

    def interpreters(self) -> tuple[Interpreter, ...]:
        """All that this machine offers to run programs of the language, each once."""

    def probe(self) -> Probe:
        """What is started inside it."""

    def made_ready(
        self, request: Mapping[str, Any], files: Mapping[str, bytes]
    ) -> Mapping[str, Any]:
        """What a request has besides: what its probe cannot make of the program's files itself."""

    def loaded(
        self,
        texts: Mapping[str, str],
        edits: Sequence[Mapping[str, Sequence[tuple[int, int, str]]]],
        program: str,
        files: Mapping[str, bytes],
        top: str,
    ) -> Mapping[str, Any]:
        """What a process for trials is told besides the edits: what its probe cannot make itself.

        ``top``: what of the top level a call runs, as plans have it.
        """

    def last_words(self, errors: str) -> tuple[str, str] | None:
        """What an interpreter that the system ended says of it: a type of error, and its message;
        None where it says nothing that we know.
        """

    def unpack(self, data: bytes) -> list[Any]:
        """The events of a packed log of a recording (see ``trace/decode.py``); a probe that sends
        them as json needs none. Raises ValueError where they are none.
        """


class Reading(Protocol):
    """What can be read off a source; nothing, where it cannot be read as a program."""

    def own_files(self, program: Path) -> tuple[Path, ...]:
        """The learner's files that the program is made of, itself first; absolute paths."""

    def functions(self, source: Source) -> tuple[Function, ...]:
        """Every function and method, outermost first; ``Class.method``, ``outer.inner``."""

    def loops(self, source: Source) -> tuple[Loop, ...]:
        """Every loop, in the order of the lines."""

    def limits(self, source: Source) -> tuple[Limit, ...]:
        """Every comparison with a number, in the order of the lines, each once."""

    def forks(self, source: Source) -> tuple[Fork, ...]:
        """Every condition and loop, in the order of the lines."""

    def reads(self, source: Source) -> dict[int, Reads]:
        """What each statement reads and sets, by its first line; of several, the first's."""

    def statements(self, source: Source) -> tuple[int, ...]:
        """First lines of the statements that do something; definitions are left out."""

    def statement_at(self, source: Source, line: int) -> int:
        """First line of the innermost statement that holds a line; itself outside of any."""

    def asks_for_input(self, source: Source) -> bool:
        """Whether the program reads what is typed in."""

    def prompts(self, source: Source) -> tuple[str, ...]:
        """What the program asks with, as far as it stands in its text, each once."""

    def unsteady_calls(self, source: Source) -> tuple[tuple[int, str], ...]:
        """Calls whose result is another one each time: a line, and the call as it is written."""

    def unseeded_calls(self, source: Source) -> tuple[tuple[int, str], ...]:
        """Of these, the calls that draw lots which the plan's seed does not decide."""

    def grouped(self, line: str) -> str:
        """A line's expression with the parentheses that the language puts there in its mind."""

    def example_of(self, function: Function, parameter: str, source: Source) -> str:
        """A value of the sort that a function's text treats a parameter as, as it is written."""

    def plain_mistake(self, message: str, text: str = "", column: int = 0) -> str:
        """What the interpreter says of a program that cannot start, in plain words; else blank.

        ``text`` is the line that it means, ``column`` where in it, from 1; blank and 0: not known.
        """

    def plain_stop(self, kind: str, message: str) -> str:
        """What an error that stopped a program means, by its type and message; else blank."""

    def opened_at(self, source: Source, message: str) -> str:
        """Where the bracket or text that the message is about was opened; else blank."""


class Asking(Protocol):
    """Expressions and values, as texts of the language."""

    def question(self, text: str) -> Question:
        """A question as it was typed; raises QuestionError where it cannot be asked."""

    def expression_fault(self, text: str) -> str | None:
        """What is wrong with an expression of a plan, None where it can be read."""

    def statements_fault(self, text: str) -> str | None:
        """What is wrong with statements of a plan, None where they can be read."""

    def call_of(self, text: str) -> CallText | None:
        """A call taken apart; None where it is no plain call."""

    def with_argument(self, call: str, at: int, argument: str) -> str:
        """A call with another argument at a place, from 0."""

    def names_in(self, expression: str) -> tuple[str, ...]:
        """The variables in an expression, each once."""

    def value_of(self, text: str) -> Any:
        """Plain data from the text of a value; raises ValueError, SyntaxError or TypeError."""

    def text_of(self, value: Any) -> str:
        """The text of plain data."""

    def as_number(self, kind: str, text: str) -> int | float | None:
        """The number that a recorded value, of a type and with a text, is compared as; None for
        what is compared as none.
        """

    def length_of(self, text: str) -> str:
        """How the number of items of an expression is asked."""

    @property
    def nothing(self) -> str:
        """The text of what a function gives that gives nothing back."""

    def type_words(self, value: Any) -> str:
        """What the type of plain data is called, for people."""


class Edits(Protocol):
    """Small edits of the kinds that beginners make, and what a reader would question."""

    def scene(
        self, source: Source, types: Types, wanted: frozenset[str], numbers: Numbers
    ) -> Scene:
        """A source as edits and notes see it."""

    def edits(self, scene: Scene) -> Iterator[tuple[TrialEdit, str]]:
        """Every small edit worth trying, with the whole text after it."""

    def instead(
        self, scene: Scene, start: int, stop: int, text: str, likely: float
    ) -> TrialEdit | None:
        """Another expression from one offset to another; None where no expression stands there.
        Asked only where the probe tells values.
        """

    def guarded(
        self, scene: Scene, start: int, stop: int, condition: str, result: str, likely: float
    ) -> TrialEdit | None:
        """Another result where a condition holds, ahead of the statement that gives back what
        stands from one offset to another; None where none does. Asked only where the probe tells
        values.
        """

    def printed(
        self, scene: Scene, start: int, gap: Gap, condition: str, text: str, likely: float
    ) -> TrialEdit | None:
        """Lines printed before or behind the statement that begins at an offset, where a condition
        holds, unless it is blank; None where they cannot stand there. Asked only where the probe
        tells gaps.
        """

    def notes(self, scenes: Sequence[Scene]) -> Iterable[Note]:
        """What a reader would question, found without running the program."""

    def invents(self, kind: str) -> Invents:
        """Whether edits of a kind put in what is not there; blank where they change what is."""

    def kind_words(self, kind: str) -> tuple[str, str]:
        """What a kind of edit is called, and how such a fault comes about; blank where unknown."""


class Writing(Protocol):
    """What an editor and an importer ask."""

    def examples(self, source: Source) -> tuple[tuple[Case, ...], tuple[str, ...]]:
        """Cases that stand in the program's own text, numbered from 1; and what was left out."""

    def switched(self, source: Source, line: int) -> tuple[str, bool]:
        """The text with the statement on a line switched off, or on again; and which of the two.
        Raises OddSumError where that cannot be done.
        """

    def off_lines(self, text: str) -> tuple[int, ...]:
        """The lines that are switched off."""

    def commented(self, rows: list[str]) -> list[str]:
        """Rows made comments, or no longer."""

    def next_indent(self, before: str) -> str:
        """The blanks that a line after this one begins with."""


class Language(Protocol):
    """One language: what it is called, how far its programs go, and its parts."""

    @property
    def name(self) -> str:
        """What it is called."""

    @property
    def suffixes(self) -> frozenset[str]:
        """The endings of its files, with their dot."""

    @property
    def can(self) -> frozenset[Station]:
        """The stations that its programs go through."""

    @property
    def setting(self) -> str:
        """The key of the user's settings that names what runs it."""

    @property
    def grammar(self) -> str:
        """What a highlighter calls it; blank for none."""

    @property
    def running(self) -> Running:
        """How its programs are started: plain, recorded, and on trial."""

    @property
    def reading(self) -> Reading:
        """What is read off its sources."""

    @property
    def asking(self) -> Asking:
        """Its expressions and values."""

    @property
    def edits(self) -> Edits:
        """What Pinpoint tries and notes."""

    @property
    def writing(self) -> Writing:
        """What Mend and the plan need of it."""


def function_at(language: Language, source: Source, line: int) -> str:
    """Name of the innermost function that holds the line; blank in the module."""
    around = [f for f in language.reading.functions(source) if f.line <= line <= f.end]
    return max(around, key=lambda f: f.line).name if around else ""


def plain_functions(language: Language, source: Source) -> tuple[Function, ...]:
    """Functions that one can call by their name: no methods, none inside others."""
    return tuple(f for f in language.reading.functions(source) if "." not in f.name)
