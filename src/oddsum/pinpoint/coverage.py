"""Which lines ran in which cases, from our own recordings."""

from __future__ import annotations

import threading
from collections.abc import Iterable

import msgspec

from oddsum.check.recorded import record_each
from oddsum.model.case import Plan
from oddsum.model.outcome import CaseResult
from oddsum.model.trace import Trace
from oddsum.run.interpreter import Interpreter
from oddsum.run.scratch import Bundle
from oddsum.source.outline import statement_at
from oddsum.source.program import Source
from oddsum.trace.ask import Story

Place = tuple[str, int]


class Coverage(msgspec.Struct, frozen=True):
    """For each recorded case, by number: the places (file, first line) of statements visited."""

    ran: dict[int, frozenset[Place]]

    def cases_at(self, place: Place, numbers: Iterable[int]) -> tuple[int, ...]:
        """Those of these cases in which a place ran."""
        return tuple(n for n in numbers if place in self.ran.get(n, frozenset()))

    def anywhere(self, numbers: Iterable[int]) -> frozenset[Place]:
        """Places that ran in at least one of these cases."""
        found: frozenset[Place] = frozenset()
        for number in numbers:
            found |= self.ran.get(number, frozenset())
        return found


def places_of(trace: Trace) -> frozenset[Place]:
    """The places a trace visits."""
    return frozenset((s.file, s.line) for s in Story(trace).statements)


def record_coverage(
    plan: Plan,
    results: Iterable[CaseResult],
    files: Bundle,
    interpreter: Interpreter,
    stop: threading.Event,
) -> Coverage:
    """Record the cases of these results again; raises ``Cancelled`` once ``stop`` is set."""
    ran = record_each(
        plan, results, interpreter, lambda _, trace: places_of(trace), files=files, stop=stop
    )
    return Coverage(ran)


def place_of(source: Source, line: int) -> Place:
    """The place whose visits say whether a line ran: the first line of its statement."""
    return source.name, statement_at(source, line)
