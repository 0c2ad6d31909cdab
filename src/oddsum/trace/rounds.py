"""The rounds of the loop around a step, read off the columns of a recording alone.

The run's line asks at every key, so this looks at numbers only; what a loop went over, how it ended
and what it missed is for ``loops.py``, which reads the source as well.
"""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Iterator

from oddsum.model.trace import Statement
from oddsum.trace.ask import Story
from oddsum.trace.store import CONDITION, HELD

_LOOK_BACK = 5_000  # steps that are gone through for the loop around one: a key waits for it


def loop_around(story: Story, number: int) -> Statement | None:
    """The innermost loop, of this call or of one that it came from, that a step is in."""
    here = story.place(number)
    outer = story.depth(here)
    passed: set[int] = set()
    for at in range(here, max(-1, here - _LOOK_BACK), -1):
        part, row = story.steps.place(at)
        depth, statement = part.depth[row], part.statement[row]
        outer = min(outer, depth)
        told = story.steps.statement_table[statement]
        if depth > outer or told.kind not in ("for", "while"):
            continue
        ended = part.round[row] == 0 or part.flags[row] & (CONDITION | HELD) == CONDITION
        if ended or statement in passed:
            passed.add(statement)
            continue
        return told
    return None


def round_starts(story: Story, loop: Statement, around: int) -> list[int]:
    """Steps at which the rounds of a loop begin: of the one time it is gone through around a step.

    Empty where the step is in no such time.
    """
    passes = rounds_of(story, loop)
    at = bisect_right(passes, around, key=lambda starts: starts[0])
    return passes[at - 1] if at else []


def rounds_of(story: Story, loop: Statement) -> list[list[int]]:
    """For each time a loop is gone through, the steps at which its rounds begin, in order.

    Times it made no round are left out. Worked out once a recording.
    """
    (key,) = story.statement_numbers(loop)[:1] or (-1,)
    if key not in story.rounds:
        story.rounds[key] = sorted(_passes(story, key))
    return story.rounds[key]


def _passes(story: Story, statement: int) -> Iterator[list[int]]:
    """A call that calls itself goes through the loop anew before it is done: each has its own."""
    under_way: dict[int, list[int]] = {}  # by the number of the call's frame
    for start, part in story.parts():
        for row, (one, number) in enumerate(zip(part.statement, part.round, strict=True)):
            if one != statement:
                continue
            frame, begins = part.frame[row], number > 0 or part.flags[row] & HELD
            if number == 1 or not begins:
                starts = under_way.pop(frame, None)
                if starts:
                    yield starts
            if begins:
                under_way.setdefault(frame, []).append(story.number(start + row))
    yield from under_way.values()
