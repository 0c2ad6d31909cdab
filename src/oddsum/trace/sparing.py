"""Conditions that left something as it was: had they come out otherwise, it might be another."""

from __future__ import annotations

from collections.abc import Callable, Iterator

from oddsum.languages.outline import Reads
from oddsum.model.column import short_name
from oddsum.model.trace import Step
from oddsum.trace.ask import Story
from oddsum.trace.claims import effect_of

StatementsOf = Callable[[str], dict[int, Reads]]  # of a file
_MOST = 50  # of one value
_LOOPS = ("for", "while")


class Sparing:
    """Looks for them in one story."""

    def __init__(self, story: Story, statements_of: StatementsOf) -> None:
        self.story, self._statements_of = story, statements_of
        self._deciders: dict[tuple[str, str, str], frozenset[int]] = {}

    def between(self, name: str, made: int, step: Step) -> list[int]:
        """Those between the step that made a value and one of the same call that reads it."""
        lines = self._could_set(step.statement.file, step.function, name)
        places = {(step.statement.file, line) for line in lines}
        found = [
            n
            for n in self.story.visits_between(places, made + 1, step.number)
            if self.story.frame_at(n) == step.frame and n != step.number
        ]
        return [effect_of(self.story, n) for n in found[-_MOST:]]

    def set_again(self, column: str, made: int, step: Step, until: int) -> tuple[int, bool] | None:
        """The last step after a change that set a name, in the call of the step that reads it, to
        what it was already; and whether it gave it a whole value."""
        every, name = self._statements_of(step.statement.file), short_name(column)
        lines = {
            line
            for line, f in every.items()
            if name in f.sets and f.defines is None and name and line == f.line
        }
        places = {(step.statement.file, line) for line in lines}
        found = [
            n
            for n in self.story.visits_between(places, made + 1, until)
            if self.story.frame_at(n) == step.frame and effect_of(self.story, n) <= until
            and column not in [c.name for c in self.story.step(effect_of(self.story, n)).changes]
        ]  # fmt: skip
        if not found:
            return None
        last = effect_of(self.story, found[-1])
        facts = every[self.story.step(found[-1]).line]
        return last, name in facts.binds and self.story.step(last).round != 0

    def _could_set(self, file: str, function: str, name: str) -> frozenset[int]:
        """The lines of a function's headers that decide whether a name is set there."""
        key = file, function, name
        if key not in self._deciders:
            self._deciders[key] = frozenset(self._headers_of(file, function, name))
        return self._deciders[key]

    def _headers_of(self, file: str, function: str, name: str) -> Iterator[int]:
        every = self._statements_of(file)
        mine = {
            s.line
            for s in self.story.statements
            if (s.file, s.function) == (file, function) and s.kind != "call"
        }
        loops: set[int] = set()
        for facts in every.values():
            if name in facts.sets and facts.defines is None:
                for header in around(every, facts):
                    if header.line in mine:
                        yield header.line
                        loops.update([header.line] if header.kind in _LOOPS else [])
        for facts in every.values():  # what ends a loop ends what would have been set in it
            headers = list(around(every, facts)) if facts.leaves else []
            inside = [h.line for h in headers if h.line in loops]
            if inside:
                yield from (h.line for h in headers if h.line > min(inside))


def around(every: dict[int, Reads], facts: Reads) -> Iterator[Reads]:
    """The headers around a statement, the nearest first."""
    while facts.header and facts.header in every:
        facts = every[facts.header]
        yield facts
