"""What a recording shows of a program's limits, conditions and loops, case by case."""

from __future__ import annotations

import threading
from collections.abc import Iterable
from pathlib import Path

import msgspec

from oddsum.check.recorded import record_each
from oddsum.languages import language as spoken
from oddsum.languages import language_of
from oddsum.languages.language import Interpreter, Language
from oddsum.languages.outline import Fork, Limit, Number
from oddsum.languages.questions import QuestionError, Unanswered
from oddsum.model.case import Case, Plan
from oddsum.model.errors import ProgramError
from oddsum.model.outcome import CaseResult
from oddsum.model.trace import Trace, Value
from oddsum.run.scratch import Bundle
from oddsum.source.program import Source, read_source
from oddsum.trace.ask import Story
from oddsum.trace.nodes import value_of
from oddsum.trace.plain import UNKNOWN
from oddsum.trace.search import Asking
from oddsum.trace.sight import Sight

Place = tuple[str, int]
MOST_STEPS = 20_000  # of each case that is looked at; longer ones are known as incomplete
_MOST_VISITS = 2_000  # of one condition in one case


class Subject(msgspec.Struct, frozen=True):
    """What a limit's subject was at one visit, and at which step."""

    step: int
    value: Number


class Typed(msgspec.Struct, frozen=True):
    """One line that the program read: at which step, and its text."""

    step: int
    text: str


class Seen(msgspec.Struct, frozen=True):
    """One case: what each limit's subject was, how conditions came out, how often loops went round.

    ``subjects`` goes by the limit's place in ``Forks.limits``. ``rounds`` has a number for every
    time a loop was gone through.
    """

    complete: bool
    subjects: dict[int, tuple[Subject, ...]]
    conditions: dict[Place, frozenset[bool]]
    rounds: dict[Place, tuple[int, ...]]
    typed: tuple[Typed, ...]
    lines: frozenset[Place]


class Forks(msgspec.Struct, frozen=True):
    """What the program's own files say: every limit, every condition and loop."""

    limits: tuple[Limit, ...]
    forks: tuple[Fork, ...]
    sources: tuple[Source, ...]
    program: str = "x.py"

    @property
    def asking(self) -> spoken.Asking:
        """The language of the program and of its plan."""
        return language_of(self.program).asking


def forks_of(program: Path) -> Forks:
    """Read the limits, conditions and loops of a program and its own modules."""
    folder = program.resolve().parent
    sources = []
    for path in language_of(program).reading.own_files(program):
        try:
            sources.append(read_source(path, path.relative_to(folder).as_posix()))
        except (ProgramError, ValueError):
            continue  # the run says what is wrong with it
    return Forks(
        tuple(x for s in sources for x in language_of(s.name).reading.limits(s)),
        tuple(x for s in sources for x in language_of(s.name).reading.forks(s)),
        tuple(sources),
        program.name,
    )


def see(
    plan: Plan,
    results: Iterable[CaseResult],
    interpreter: Interpreter,
    known: Forks,
    stop: threading.Event | None = None,
    files: Bundle | None = None,
) -> dict[int, Seen]:
    """Record the cases of these results and say what was seen of each, by case number.

    ``files`` are those of the program, where they have been gathered already.
    """
    return record_each(
        plan, results, interpreter, lambda case, trace: seen_in(known, case, trace), stop=stop,
        files=files, most_steps=MOST_STEPS,
    )  # fmt: skip


def seen_in(known: Forks, _case: Case, trace: Trace) -> Seen:
    """What one recording shows."""
    story = Story(trace)
    conditions = {
        (s.file, s.line): frozenset(found) for s, found in story.outcomes.items() if found
    }
    visited = all(len(story.visits({(x.file, x.line)})) <= _MOST_VISITS for x in known.limits)
    return Seen(
        complete=trace.complete and visited,
        subjects={n: _subjects(story, limit) for n, limit in enumerate(known.limits)},
        conditions=conditions,
        rounds={(f.file, f.line): _rounds(story, f) for f in known.forks if f.kind != "if"},
        typed=tuple(
            Typed(s.number, _plain(s.value, known.asking))
            for s in story.inputs()
            if s.value is not None
        ),
        lines=frozenset((s.file, s.line) for s in story.statements),
    )


def _plain(value: Value, asking: spoken.Asking) -> str:
    """The text that was read: a recording has it as a text's repr."""
    try:
        text = asking.value_of(value.text)
    except (ValueError, SyntaxError):
        return value.text
    return text if isinstance(text, str) else value.text


def _rounds(story: Story, fork: Fork) -> tuple[int, ...]:
    """How many rounds each going-through of a loop made."""
    return tuple(p.rounds for p in story.passes.of(fork.file, fork.line, fork.kind))


def _subjects(story: Story, limit: Limit) -> tuple[Subject, ...]:
    found = []
    language = language_of(limit.file)
    others = [asked for text in limit.others if (asked := _asked(story, text)) is not None]
    for number in story.visits({(limit.file, limit.line)})[:_MOST_VISITS]:
        value = _worked_out(language, limit, story, number)
        if value is not None and all(_may_hold(other, number) for other in others):
            found.append(Subject(number, value))
    return tuple(found)


def _asked(story: Story, text: str) -> Asking | None:
    """A condition to be asked of recorded values; None where it cannot be."""
    try:
        return Asking(story, story.question(text))
    except QuestionError:
        return None


def _may_hold(asked: Asking, number: int) -> bool:
    """Whether a condition holds at a step, as far as recorded values tell."""
    try:
        return bool(asked.answer(number))
    except Unanswered:
        return True


def _worked_out(language: Language, limit: Limit, story: Story, number: int) -> Number | None:
    """A subject's value from recorded values, None where they do not tell it."""
    values: dict[str, Number] = {}
    names = tuple(language.asking.names_in(limit.subject))
    sight = Sight(story, names)
    for name in names:
        node = sight.node_of(name, number)
        value = None if node is UNKNOWN else value_of(node)
        # A length is asked of the size: a recording may not have all of a long text.
        if value is not None and limit.length_of == name:
            return value.size
        known = language.asking.as_number(value.type, value.text) if value is not None else None
        if known is not None:
            values[name] = known
    try:
        answer = language.asking.question(limit.subject).ask(values)
    except (QuestionError, Unanswered):
        return None
    return answer if isinstance(answer, (int, float)) else None
