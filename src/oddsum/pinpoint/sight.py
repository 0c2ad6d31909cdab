"""What recordings of the cases show: which lines ran, and the types that variables had."""

from __future__ import annotations

import threading
from collections import Counter
from collections.abc import Iterable, Mapping, Sequence
from typing import TypeVar

import msgspec

from oddsum.check.recorded import record_each
from oddsum.languages import language_for
from oddsum.languages.language import Asking, Interpreter
from oddsum.model.case import Case, Plan
from oddsum.model.outcome import CaseResult, Outcome
from oddsum.model.trace import Trace
from oddsum.pinpoint.coverage import Coverage, Place
from oddsum.run.scratch import Bundle
from oddsum.trace.ask import Story
from oddsum.trace.nodes import Node, type_of, value_of

MOST_RECORDED = 12  # cases
MOST_STEPS = 60_000  # of each
_MOST_ENDLESS = 3  # cases that never end: what they do is much the same
_MOST_KEPT = 4  # odd cases whose whole recording is kept, for lineage, loops and proofs
_MOST_LOOKS = 100  # at values of a column in a recording, for numbers
_LARGEST = 1e12  # number that a limit could be; no infinite one
_MOST_CHANGES = 40_000  # of a recording, looked at for types

T = TypeVar("T")


class Sight(msgspec.Struct, frozen=True):
    """Coverage of the recorded cases, types and numbers by column name, and the stories of some odd
    cases."""

    coverage: Coverage
    types: dict[str, frozenset[str]]
    numbers: dict[str, frozenset[int | float]]
    stories: dict[int, tuple[Case, Story]]


class _Seen(msgspec.Struct, frozen=True):
    places: frozenset[Place]
    complete: bool
    steps: int
    types: dict[str, set[str]]
    numbers: dict[str, set[int | float]]
    story: Story | None


def look(
    plan: Plan,
    results: Sequence[CaseResult],
    files: Bundle,
    interpreter: Interpreter,
    stop: threading.Event,
) -> Sight:
    """Record some of the cases again; raises ``Cancelled`` once ``stop`` is set."""
    chosen = _worth_recording(results)
    kept = {r.number for r in chosen if r.outcome.odd and r.outcome is not Outcome.ENDLESS}
    kept = set(sorted(kept)[:_MOST_KEPT]) or {r.number for r in chosen[:1]}

    asking = language_for(plan).asking

    def keep(case: Case, trace: Trace) -> _Seen:
        story = Story(trace)
        places = frozenset((s.file, s.line) for s in story.statements)
        story_kept = story if case.number in kept else None
        return _Seen(
            places, trace.complete, len(trace.steps), *_contents(story, asking), story_kept
        )

    found = record_each(
        plan, chosen, interpreter, keep, files=files, stop=stop, most_steps=MOST_STEPS
    )
    cases = {c.number: c for c in plan.cases}
    return Sight(
        Coverage(
            {number: seen.places for number, seen in found.items()},
            frozenset(number for number, seen in found.items() if not seen.complete),
            {number: seen.steps for number, seen in found.items()},
        ),
        _together(seen.types for seen in found.values()),
        _together(seen.numbers for seen in found.values()),
        {n: (cases[n], seen.story) for n, seen in found.items() if seen.story is not None},
    )


def _worth_recording(results: Iterable[CaseResult]) -> list[CaseResult]:
    """Odd cases first, those that end before those that do not; then some that agree."""
    order = sorted(results, key=lambda r: (not r.outcome.odd, r.outcome is Outcome.ENDLESS))
    endless = [r for r in order if r.outcome is Outcome.ENDLESS][_MOST_ENDLESS:]
    odd = [r for r in order if r.outcome.odd and r not in endless][: MOST_RECORDED - 4]
    rest = [r for r in order if not r.outcome.odd]
    return [*odd, *rest][:MOST_RECORDED]


def _together(some: Iterable[Mapping[str, set[T]]]) -> dict[str, frozenset[T]]:
    """What each column had, in any of the recordings."""
    found: dict[str, set[T]] = {}
    for each in some:
        for name, values in each.items():
            found.setdefault(name, set()).update(values)
    return {name: frozenset(values) for name, values in found.items()}


def _contents(
    story: Story, asking: Asking
) -> tuple[dict[str, set[str]], dict[str, set[int | float]]]:
    """The types that each column was seen with, and numbers that it had, not all where many."""
    types: dict[str, set[str]] = {}
    numbers: dict[str, set[int | float]] = {}
    looks: Counter[str] = Counter()
    names, left = story.steps.column_names, _MOST_CHANGES
    for part in story.steps.parts:
        for column, ref in zip(part.column[:left], part.after[:left], strict=False):
            if ref >= 0:
                name, node = names[column], part.node(ref)
                types.setdefault(name, set()).add(type_of(node))
                looks[name] += 1
                number = _number(node, asking) if looks[name] <= _MOST_LOOKS else None
                if number is not None and abs(number) < _LARGEST:
                    numbers.setdefault(name, set()).add(number)
        left -= min(left, len(part.column))
    return types, numbers


def _number(node: Node, asking: Asking) -> int | float | None:
    """The number that a value is, in its language; None for what is none."""
    if type(node) is tuple:
        return None
    value = value_of(node)
    return asking.as_number(value.type, value.text)
