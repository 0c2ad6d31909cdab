"""What a fault looks like in this program's own values: the case and step that show it best."""

from __future__ import annotations

from collections.abc import Iterator, Mapping

import msgspec

from oddsum.languages import language_of
from oddsum.languages.questions import QuestionError, Unanswered
from oddsum.model.case import Case
from oddsum.model.lead import TrialEdit
from oddsum.pinpoint.coverage import place_of
from oddsum.source.program import Source
from oddsum.source.quoting import quoted
from oddsum.trace.ask import Story
from oddsum.trace.nodes import scalar_text
from oddsum.trace.search import Asking
from oddsum.trace.words import counted, ordinal, short

_MOST_VISITS = 400  # of a line in one case, that are looked at
_MOST_NAMES = 4  # values told in a sentence


class Proof(msgspec.Struct, frozen=True):
    """``text`` is a sentence; ``case`` and ``step`` say where it can be seen, ``then`` what the
    mend would give there (blank where that is not known)."""

    text: str
    case: int | None = None
    step: int | None = None
    then: str = ""


Stories = Mapping[int, tuple[Case, Story]]


def prove(edit: TrialEdit, source: Source, stories: Stories) -> Proof:
    """Show an edit at the first step at which the edit makes a difference; else where it runs."""
    place = place_of(source, edit.line)
    for number in stories:
        found = _difference(edit, source, stories, number, place)
        if found is not None:
            return found
    return running_at(source, edit.line, stories)


def running_at(source: Source, line: int, stories: Stories) -> Proof:
    """How often a line runs in the first case in which it does, and with which values."""
    place = place_of(source, line)
    for number, (_case, story) in stories.items():
        visits = story.visits({place})
        if visits:
            return _running(story, number, visits, source, line)
    return Proof("")


def _difference(
    edit: TrialEdit, source: Source, stories: Stories, number: int, place: tuple[str, int]
) -> Proof | None:
    """The first visit of the line at which the edit gives the expression another value."""
    story = stories[number][1]
    if not edit.asks:
        return None
    try:
        now, then = (Asking(story, story.question(t)) for t in (edit.asks, edit.would))
    except QuestionError:
        return None
    for visit, step in enumerate(story.visits({place})[:_MOST_VISITS], 1):
        before = story.number(max(0, story.place(step) - 1))
        try:
            value, other = now.answer(before), then.answer(before)
        except (Unanswered, IndexError):
            continue
        if type(value) is type(other) and _same(value, other):
            continue
        time = f", the {ordinal(visit)} time," if visit > 1 else ""
        has = f"In case {number}, line {edit.line}{time} has {quoted(edit.asks)}"
        text = f"{has}{_giving(edit.asks, _told(value), _values(now, before))}"
        if edit.asks == _told(value):  # a constant: that it gives what it is says nothing
            text = running_at(source, edit.line, {number: stories[number]}).text
        return Proof(text, number, step, f"There it would give {_told(other)}.")
    return None


def _giving(asks: str, gives: str, values: str) -> str:
    if values == f"{asks} is {gives}":
        return f", which is {gives}."
    where = f" where {values}" if values else ""
    return f"{where}: that gives {gives}."


def _same(value: object, other: object) -> bool:
    """Whether two values are the same; what their class would have to compare, by its content."""
    try:
        return bool(value == other)
    except Unanswered:
        return repr(value) == repr(other)


def _values(asking: Asking, number: int) -> str:
    told = [f"{n} is {_told(v)}" for n, v in asking.values(number).items()][:_MOST_NAMES]
    return " and ".join([", ".join(told[:-1]), told[-1]] if len(told) > 1 else told)


def _told(value: object) -> str:
    return short(scalar_text(value), 40)


def _running(story: Story, number: int, visits: list[int], source: Source, line: int) -> Proof:
    """How often the line runs in a case, and what its names were the first time."""
    names = [n for n in _names(source, line)]
    before = story.number(max(0, story.place(visits[0]) - 1))
    values = []
    for name in names:
        try:
            asking = Asking(story, story.question(name))
        except QuestionError:
            continue
        now = asking.values(before)
        if name in now:
            values.append(f"{name} is {_told(now[name])}")
        if len(values) == _MOST_NAMES:
            break
    told = " and ".join(values)
    if len(visits) == 1:  # that it runs once is worth no sentence
        text = f"In case {number}, just before line {line} runs, {told}." if values else ""
        return Proof(text, number, visits[0])
    most = "" if story.trace.complete else "at least "
    times = f"In case {number}, line {line} runs {most}{counted(len(visits), 'time')}."
    first = f" The first time, {told} just before it." if values else ""
    return Proof(times + first, number, visits[0])


def _names(source: Source, line: int) -> Iterator[str]:
    """The names read on a line, in the order they stand there."""
    facts = language_of(source.name).reading.reads(source).get(line)
    seen = dict.fromkeys(r.name for r in facts.all_reads) if facts is not None else {}
    return iter(seen)
