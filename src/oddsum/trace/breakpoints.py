"""Lines that a walk through a trace stops at: always, under a condition, or in one round."""

from __future__ import annotations

import re
from bisect import bisect_left, bisect_right
from dataclasses import dataclass

from oddsum.languages import language_of
from oddsum.languages.outline import Loop
from oddsum.languages.questions import QuestionError
from oddsum.trace.ask import Story
from oddsum.trace.loops import passes
from oddsum.trace.search import Asking

_ROUND = re.compile(r"\s*round\s+(\d+)\s*$", re.IGNORECASE)


@dataclass(frozen=True)
class Breakpoint:
    """A line to stop at. ``condition`` as typed, blank for always; ``round`` from 1, 0 for any."""

    file: str
    line: int
    condition: str = ""
    round: int = 0

    @property
    def words(self) -> str:
        """When a walk stops there."""
        if self.round:
            return f"in round {self.round:,}"
        return f"where {self.condition}" if self.condition else "always"


def breakpoint_from(file: str, line: int, typed: str) -> Breakpoint:
    """Read what was typed: nothing, ``round 25`` or a condition. Raises QuestionError."""
    found = _ROUND.match(typed)
    if found:
        number = int(found.group(1))
        if not number:
            raise QuestionError("Rounds count from 1.")
        return Breakpoint(file, line, round=number)
    if typed.strip():
        language_of(file).asking.question(typed)
    return Breakpoint(file, line, typed.strip())


def hits(story: Story, stop: Breakpoint, loops: tuple[Loop, ...]) -> list[int]:
    """The steps at which a breakpoint stops a walk: each before the line has done anything."""
    visits = story.visits({(stop.file, stop.line)})
    if stop.round:
        return _in_round(story, stop, loops, visits)
    if not stop.condition:
        return visits
    asking = Asking(story, story.question(stop.condition))
    return [n for n in visits if asking.holds(_before(story, n))]


def _before(story: Story, number: int) -> int:
    at = story.place(number)
    return story.number(at - 1) if at else number


def _in_round(
    story: Story, stop: Breakpoint, loops: tuple[Loop, ...], visits: list[int]
) -> list[int]:
    around = [x for x in loops if x.file == stop.file and x.line <= stop.line <= x.end]
    if not around:
        return []
    loop = min(around, key=lambda x: x.end - x.line)
    wanted = [p for p in passes(story, loop) if p.rounds >= stop.round]
    of_frame: dict[int, list[int]] = {}
    for n in visits:
        of_frame.setdefault(story.frame_at(n), []).append(n)
    found: list[int] = []
    for one in wanted:
        mine, start = of_frame.get(one.frame, []), one.starts[stop.round - 1]
        end = one.starts[stop.round] if stop.round < one.rounds else one.ends + 1
        if stop.line == loop.line:  # its header's visit may call functions before the round begins
            found += mine[max(0, bisect_right(mine, start) - 1) : bisect_right(mine, start)]
        else:
            found += mine[bisect_left(mine, start) : bisect_left(mine, end)]
    return sorted(found)
