"""Asks a question at every step of a trace: where does it become true?"""

from __future__ import annotations

import threading
from collections.abc import Callable, Iterator
from typing import Any

from oddsum.languages.questions import Question, Unanswered
from oddsum.trace.ask import Story
from oddsum.trace.nodes import text_of
from oddsum.trace.plain import UNKNOWN
from oddsum.trace.sight import Sight
from oddsum.trace.store import NOTHING

_TOLD_EVERY = 20_000  # steps between two tellings of how far it is


class Asking:
    """One question asked of one story. Names mean what they meant at a step."""

    def __init__(self, story: Story, question: Question) -> None:
        self.story, self.question = story, question
        self.sight = Sight(story, question.names)
        self.watched = self.sight.columns | self._attributes()

    def _attributes(self) -> frozenset[int]:
        """Attributes of classes and the like, of which an answer may depend too."""
        columns = self.story.steps.columns
        return frozenset(n for n, c in enumerate(columns) if c.shared) if self.question.names else (
            frozenset()
        )  # fmt: skip

    def values(self, number: int) -> dict[str, Any]:
        """The question's names with their values after a step; those without one are left out."""
        at = self.story.place(number)
        part, _ = self.story.steps.place(at)
        found = {}
        for name in self.question.names:
            value = self.sight.value(name, at, part)
            if value is not UNKNOWN:
                found[name] = value
        return found

    def answer(self, number: int) -> Any:
        """The answer after a step; raises Unanswered."""
        return self.question.ask(self.values(number))

    def holds(self, number: int) -> bool:
        """Whether it is true after a step; what has no answer is not."""
        try:
            return bool(self.answer(number))
        except Unanswered:
            return False

    def moments(self, start: int, backwards: bool = False) -> Iterator[int]:
        """The places at which the answer can be another than at the place before."""
        steps, here = self.story.steps, -1
        places = range(start, -1, -1) if backwards else range(start, len(steps))
        for at in places:
            part, row = steps.place(at)
            frame = part.frame[row]
            changed = frame != here
            here = frame
            if not changed:
                changed = any(part.column[n] in self.watched for n in steps.changes_of(part, row))
            if changed:
                yield at


def first_true(
    story: Story,
    question: Question,
    after: int,
    *,
    stop: threading.Event | None = None,
    on_progress: Callable[[int], None] | None = None,
) -> int | None:
    """The first step after this one (0: of all) at which the question becomes true.

    None where there is none, or ``stop`` was set. Where it is true at ``after`` already, it has to
    become untrue first. ``on_progress`` is told step numbers.
    """
    asking = Asking(story, question)
    was = after > 0 and asking.holds(after)
    told = start = story.place(after) + 1 if after else 0
    for at in asking.moments(start):
        if at - told >= _TOLD_EVERY:
            told = at
            if on_progress is not None:
                on_progress(story.number(at))
            if stop is not None and stop.is_set():
                return None
        now = asking.holds(story.number(at))
        if now and not was:
            return story.number(at)
        was = now
    return None


def steps_where(story: Story, question: Question) -> list[int]:
    """Every step after which a question is true."""
    asking, found, holds = Asking(story, question), list[int](), False
    moments = set(asking.moments(0))
    for at in range(len(story)):
        number = story.number(at)
        if at in moments:
            holds = asking.holds(number)
        if holds:
            found.append(number)
    return found


def steps_with(
    story: Story, text: str, after: int, stop: threading.Event | None = None
) -> int | None:
    """The next step in which a value turns up: changed to, read, returned or printed; else None.

    ``text`` is the value as ``repr`` gives it.
    """
    start = story.place(after) + 1 if after else 0
    for at in range(start, len(story)):
        if stop is not None and at % _TOLD_EVERY == 0 and stop.is_set():
            return None
        part, row = story.steps.place(at)
        given = part.given.get(row)
        refs = [part.after[n] for n in story.steps.changes_of(part, row)]
        refs += [] if given is None else [given]
        told = [text_of(part.node(ref))[0] for ref in refs if ref != NOTHING]
        if text in told or text in part.printed.get(row, "").split():
            return story.number(at)
    return None
