"""Two runs side by side: where do they part?"""

from __future__ import annotations

import difflib
from collections.abc import Mapping
from dataclasses import dataclass

from oddsum.model.column import short_name
from oddsum.model.trace import Step
from oddsum.source.program import Source
from oddsum.trace.ask import Story
from oddsum.trace.words import counted, short

LineMap = Mapping[tuple[str, int], int]  # (file, line) of the first run to the line of the second


def same_steps(one: Story, other: Story) -> bool:
    """Whether two recordings went through the same statements, step by step."""
    mine, others = one.steps.parts, other.steps.parts
    return len(mine) == len(others) and all(
        a.statement == b.statement and a.first == b.first for a, b in zip(mine, others, strict=True)
    )


@dataclass(frozen=True)
class Parting:
    """Where two runs part: the step of each at which they first go different ways, and the first
    at which they hold different values. None where they do not; a run that ends earlier has None.
    """

    left: int | None
    right: int | None
    same: int
    left_values: int | None
    right_values: int | None
    words: str


def parting(left: Story, right: Story, lines: LineMap | None = None) -> Parting:
    """Compare two runs step by step, by what they execute; ``lines`` where the program changed."""
    count = min(len(left), len(right))
    values: tuple[int, int] | None = None
    for at in range(count):
        one, other = left.steps[at], right.steps[at]
        if not _same_place(one, other, lines):
            return _told(left, right, at, values)
        if values is None and _holds(one) != _holds(other):
            values = one.number, other.number
    return _told(left, right, count, values)


def _same_place(one: Step, other: Step, lines: LineMap | None) -> bool:
    line = one.line
    if lines is not None:
        line = lines.get((one.statement.file, line), -1)
    return (
        line == other.line
        and one.statement.file == other.statement.file
        and ("call" in one.events, "back" in one.events)
        == ("call" in other.events, "back" in other.events)
    )


def _holds(step: Step) -> tuple[object, ...]:
    changes = tuple((c.name, c.after and c.after.text) for c in step.changes)
    return changes, step.condition, step.value and step.value.text, step.output


def _told(left: Story, right: Story, at: int, values: tuple[int, int] | None) -> Parting:
    one = left.number(at) if at < len(left) else None
    other = right.number(at) if at < len(right) else None
    left_values, right_values = values or (None, None)
    return Parting(one, other, at, left_values, right_values, _words(left, right, at, one, other))


def _words(left: Story, right: Story, at: int, one: int | None, other: int | None) -> str:
    same = f"The first {counted(at, 'step')} run the same lines"
    if one is None and other is None:
        return f"{same}, and so do all: the two runs never part."
    if one is None or other is None:
        ended = "left" if one is None else "right"
        return f"{same}; then the run on the {ended} has ended."
    lines = left.step(one).line, right.step(other).line
    went = "then the left goes to line {}, the right to line {}".format(*lines)
    return f"{same}; {went}{_because(left, right, at)}."


def _because(left: Story, right: Story, at: int) -> str:
    """What decided it: a condition that came out differently in the step before."""
    if at == 0:
        return ""
    one, other = left.steps[at - 1], right.steps[at - 1]
    outcomes = one.condition, other.condition
    if None not in outcomes and one.condition != other.condition:
        return ", for the condition on line {} was {} and {}".format(one.line, *outcomes)
    if one.round is not None and other.round is not None and bool(one.round) != bool(other.round):
        return f", for the loop on line {one.line} goes on in one of them only"
    return ""


def first_difference(left: Story, right: Story, parted: Parting) -> str:
    """The first values that differ, in words; blank where none do before the runs part."""
    if parted.left_values is None or parted.right_values is None:
        return ""
    one, other = left.step(parted.left_values), right.step(parted.right_values)
    told = {c.name: c.after.text if c.after else "gone" for c in one.changes}
    for change in other.changes:
        here = change.after.text if change.after else "gone"
        if told.get(change.name) != here:
            name, there = short_name(change.name), told.get(change.name, "not set")
            sides = f"{short(there)} on the left, {short(here)} on the right"
            return f"{name} differs first, on line {one.line}: {sides}."
    return f"They differ first on line {one.line}."


_ALIKE = 0.6  # of two lines: how much of them must be the same for one to be the other, changed


def lines_between(before: Source, after: Source) -> dict[tuple[str, int], int]:
    """Which line of the program after a change each line before it is."""
    matcher = difflib.SequenceMatcher(None, before.lines, after.lines, autojunk=False)
    found: dict[tuple[str, int], int] = {}
    for tag, a, b, c, d in matcher.get_opcodes():
        if tag == "equal":
            found.update({(before.name, a + n + 1): c + n + 1 for n in range(b - a)})
        elif tag == "replace":
            start = c
            for old in range(a, b):
                alike = [n for n in range(start, d) if _likeness(before, after, old, n) >= _ALIKE]
                if alike:
                    found[before.name, old + 1] = alike[0] + 1
                    start = alike[0] + 1
    return found


def _likeness(before: Source, after: Source, old: int, new: int) -> float:
    return difflib.SequenceMatcher(None, before.lines[old], after.lines[new]).ratio()
