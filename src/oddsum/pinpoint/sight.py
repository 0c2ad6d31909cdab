"""What recordings of the cases show: which lines ran, and the types that variables had."""

from __future__ import annotations

import threading
from collections.abc import Iterable, Sequence

import msgspec

from oddsum.check.recorded import record_each
from oddsum.languages.language import Interpreter
from oddsum.model.case import Case, Plan
from oddsum.model.outcome import CaseResult, Outcome
from oddsum.model.trace import Trace
from oddsum.pinpoint.coverage import Coverage, Place
from oddsum.run.scratch import Bundle
from oddsum.trace.ask import Story
from oddsum.trace.nodes import type_of

MOST_RECORDED = 12  # cases
MOST_STEPS = 60_000  # of each
_MOST_KEPT = 4  # odd cases whose whole recording is kept, for lineage, loops and proofs
_MOST_CHANGES = 40_000  # of a recording, looked at for types


class Sight(msgspec.Struct, frozen=True):
    """Coverage of the recorded cases, types by column name, and the stories of some odd cases."""

    coverage: Coverage
    types: dict[str, frozenset[str]]
    stories: dict[int, tuple[Case, Story]]


class _Seen(msgspec.Struct, frozen=True):
    places: frozenset[Place]
    complete: bool
    steps: int
    types: dict[str, set[str]]
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

    def keep(case: Case, trace: Trace) -> _Seen:
        story = Story(trace)
        places = frozenset((s.file, s.line) for s in story.statements)
        story_kept = story if case.number in kept else None
        return _Seen(places, trace.complete, len(trace.steps), _types(story), story_kept)

    found = record_each(
        plan, chosen, interpreter, keep, files=files, stop=stop, most_steps=MOST_STEPS
    )
    cases = {c.number: c for c in plan.cases}
    types: dict[str, set[str]] = {}
    for seen in found.values():
        for name, some in seen.types.items():
            types.setdefault(name, set()).update(some)
    return Sight(
        Coverage(
            {number: seen.places for number, seen in found.items()},
            frozenset(number for number, seen in found.items() if not seen.complete),
            {number: seen.steps for number, seen in found.items()},
        ),
        {name: frozenset(some) for name, some in types.items()},
        {n: (cases[n], seen.story) for n, seen in found.items() if seen.story is not None},
    )


def _worth_recording(results: Iterable[CaseResult]) -> list[CaseResult]:
    """Odd cases first, those that end before those that do not; then some that agree."""
    order = sorted(results, key=lambda r: (not r.outcome.odd, r.outcome is Outcome.ENDLESS))
    odd = [r for r in order if r.outcome.odd][: MOST_RECORDED - 4]
    rest = [r for r in order if not r.outcome.odd]
    return [*odd, *rest][:MOST_RECORDED]


def _types(story: Story) -> dict[str, set[str]]:
    """The types each column was seen with."""
    found: dict[str, set[str]] = {}
    names, left = story.steps.column_names, _MOST_CHANGES
    for part in story.steps.parts:
        for column, ref in zip(part.column[:left], part.after[:left], strict=False):
            if ref >= 0:
                found.setdefault(names[column], set()).add(type_of(part.node(ref)))
        left -= min(left, len(part.column))
    return found
