"""Asks a question at every step of a trace: where does it become true?"""

from __future__ import annotations

import threading
from bisect import bisect_right
from collections.abc import Callable, Iterator
from typing import Any

from oddsum.languages.questions import Question, Unanswered
from oddsum.model.column import short_name
from oddsum.trace.ask import Story
from oddsum.trace.nodes import Node, text_of
from oddsum.trace.plain import plain
from oddsum.trace.store import NOTHING, Part

_TOLD_EVERY = 20_000  # steps between two tellings of how far it is


class Asking:
    """One question asked of one story. Names mean what they meant at a step: the function's own
    before the module's."""

    def __init__(self, story: Story, question: Question) -> None:
        self.story, self.question = story, question
        names = story.steps.column_names
        ending = {n: [c for c, name in enumerate(names) if short_name(name) == n]
                  for n in question.names}  # fmt: skip
        self._columns = {n: [c for c in columns if names[c] == n] for n, columns in ending.items()}
        self._local = {
            n: {names[c].rpartition(".")[0]: c for c in columns if "." in names[c]}
            for n, columns in ending.items()
        }
        self.watched = frozenset(c for columns in ending.values() for c in columns)

    def values(self, number: int) -> dict[str, Any]:
        """The question's names with their values after a step; those without one are left out."""
        story = self.story
        at = story.place(number)
        part, row = story.steps.place(at)
        function = story.steps.statement_table[part.statement[row]].function
        found = {}
        for name in self.question.names:
            node = self._node(name, function, part.frame[row], at, part)
            if node is not _UNKNOWN:
                found[name] = plain(node)
        return found

    def _node(self, name: str, function: str, frame: int, at: int, part: Part) -> Node:
        title = function
        while title:  # a nested function sees the names of the one around it
            column = self._local[name].get(title)
            if column is not None:
                owner = frame if title == function else self._owner(title, at)
                told = self.story.ref_at(owner, column, at, part)
                if told is not None:
                    return told[0].node(told[1])
            title = title.rpartition(".")[0]
        for column in self._columns[name]:
            told = self.story.ref_at(0, column, at, part)
            if told is not None:
                return told[0].node(told[1])
        return _UNKNOWN

    def _owner(self, title: str, at: int) -> int:
        """The newest call of a function that began before a place."""
        calls = self.story.calls
        for n in range(bisect_right(calls, at) - 1, -1, -1):
            part, row = self.story.steps.place(calls[n])
            if self.story.steps.statement_table[part.statement[row]].function == title:
                return part.frame[row]
        return -1

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


_UNKNOWN = object()


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
