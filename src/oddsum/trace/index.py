"""What has to be looked up in a trace again and again: made once, when it is first wanted."""

from __future__ import annotations

from array import array
from collections.abc import Iterator
from functools import cached_property
from typing import NamedTuple

from oddsum.model.trace import Statement, Step, Trace
from oddsum.trace.store import CONDITION, EVENTS, HELD, Part, Steps

Place = tuple[str, int]  # file and line
BLOCK = 1_000  # steps whose least depth is kept together, so that a long call is skipped quickly
INPUT = 1 << EVENTS.index("input")
CALL, RAISE = 1 << EVENTS.index("call"), 1 << EVENTS.index("raise")
RETURN = 1 << EVENTS.index("return")


class History(NamedTuple):
    """The changes of one variable: at which places, and as what of which part."""

    places: array[int]
    parts: bytearray
    positions: array[int]


class Index:
    """A trace with its indexes. Numbers of steps count from 1, places of kept steps from 0."""

    def __init__(self, trace: Trace) -> None:
        self.trace = trace
        assert isinstance(trace.steps, Steps)
        self.steps = trace.steps

    def __len__(self) -> int:
        return len(self.steps)

    @property
    def last(self) -> int:
        """The number of the last step, 0 where there is none."""
        return self.steps.number_at(len(self.steps) - 1) if len(self.steps) else 0

    def step(self, number: int) -> Step:
        """The step of this number; raises IndexError where there is none, or none kept."""
        return self.steps[self.place(number)]

    def place(self, number: int) -> int:
        """Where a step is among those kept, from 0; raises IndexError where it is not."""
        at = self.steps.index_of(number)
        if at is None:
            raise IndexError(number)
        return at

    def number(self, at: int) -> int:
        """The number of the step at a place."""
        return self.steps.number_at(at)

    def _edge(self, number: int) -> int:
        """The place of a step; -1 before the first, one more than there are after the last."""
        if number < 1:
            return -1
        return len(self.steps) if number > self.last else self.place(number)

    def nearest(self, number: int) -> int:
        """The number of the kept step that is nearest to this one."""
        number = min(max(number, 1), self.last)
        for part in self.steps.parts:
            if number < part.first + len(part):
                return max(number, part.first)
        return self.last

    def numbers(self, places: Iterator[int]) -> list[int]:
        """The numbers of the steps at these places."""
        return [self.number(at) for at in places]

    def column_owner(self, name: str, frame: int) -> int:
        """The call that a column's variable belongs to, seen from a call; 0 for the module."""
        found = next((c for c in self.steps.columns if c.title == name), None)
        return 0 if found is None else found.owner(frame)

    def frame_at(self, number: int) -> int:
        """The call that a step belongs to, 0 for the module."""
        part, row = self.steps.place(self.place(number))
        return part.frame[row]

    def depth(self, at: int) -> int:
        """The depth of the step at a place."""
        part, row = self.steps.place(at)
        return part.depth[row]

    def next_not_deeper(self, at: int, depth: int) -> int | None:
        """The place of the next step whose depth is at most this."""
        at, count = at + 1, len(self.steps)
        while at < count:
            if at % BLOCK == 0 and self.least_depths[at // BLOCK] > depth:
                at += BLOCK
            elif self.depth(at) <= depth:
                return at
            else:
                at += 1
        return None

    def caller_of(self, frame: int) -> int | None:
        """The place of the step that made a call, by the call's number; None for the module."""
        at = self._begins.get(frame)
        return at - 1 if at else None

    @cached_property
    def _begins(self) -> dict[int, int]:
        """Where each call begins, by its number."""
        found: dict[int, int] = {}
        for at in self.calls:
            part, row = self.steps.place(at)
            found[part.frame[row]] = at
        return found

    # -- indexes -------------------------------------------------------------------------------

    def parts(self) -> Iterator[tuple[int, Part]]:
        """The parts that were kept, each with the place of its first step."""
        start = 0
        for part in self.steps.parts:
            yield start, part
            start += len(part)

    @cached_property
    def columns(self) -> tuple[str, ...]:
        """Every variable, in the order of its first appearance."""
        found: dict[int, None] = {}
        for part in self.steps.parts:
            found.update(dict.fromkeys(part.column))
        return tuple(self.steps.column_names[c] for c in found)

    @cached_property
    def by_statement(self) -> dict[int, array[int]]:
        """Places of the visits of each statement; steps that are no visits are left out."""
        found: dict[int, array[int]] = {}
        for start, part in self.parts():
            for row, (statement, visit) in enumerate(zip(part.statement, part.visit, strict=True)):
                if visit:
                    if statement not in found:
                        found[statement] = array("i")
                    found[statement].append(start + row)
        return found

    @cached_property
    def at_line(self) -> dict[Place, array[int]]:
        """The places of the visits of each line."""
        found: dict[Place, array[int]] = {}
        for statement, places in self.by_statement.items():
            told = self.steps.statement_table[statement]
            at = found.setdefault((told.file, told.line), array("i"))
            found[told.file, told.line] = array("i", sorted([*at, *places])) if at else places
        return found

    def visits_between(self, places: set[Place], first: int, last: int) -> list[int]:
        """The same, of those from one step to another, both included."""
        low, high = self._edge(first), self._edge(last)
        found = [at for p in places for at in self.at_line.get(p, ()) if low <= at <= high]
        return self.numbers(iter(sorted(found)))

    @cached_property
    def histories(self) -> dict[tuple[int, int], History]:
        """The changes of each variable, by the frame it belongs to and its column's number."""
        found: dict[tuple[int, int], History] = {}
        for n, (start, part) in enumerate(self.parts()):
            changes = zip(part.owner, part.column, part.row, strict=True)
            for position, (owner, column, row) in enumerate(changes):
                history = found.get((owner, column))
                if history is None:
                    history = History(array("i"), bytearray(), array("i"))
                    found[owner, column] = history
                history.places.append(start + row)
                history.parts.append(n)
                history.positions.append(position)
        return found

    @cached_property
    def columns_of(self) -> dict[int, list[int]]:
        """The columns that each frame has changes in, in the order of their first change."""
        found: dict[int, list[int]] = {}
        for part in self.steps.parts:
            for frame, column in part.known:
                columns = found.setdefault(frame, [])
                if column not in columns:
                    columns.append(column)
        for frame, column in self.histories:
            columns = found.setdefault(frame, [])
            if column not in columns:
                columns.append(column)
        return found

    @cached_property
    def all_output(self) -> tuple[str, array[int], list[int]]:
        """All output; the places that print; how much there was after each of them."""
        texts: list[str] = []
        places, lengths, total = array("i"), [], 0
        for start, part in self.parts():
            for row, text in part.printed.items():
                total += len(text)
                texts.append(text)
                places.append(start + row)
                lengths.append(total)
        return "".join(texts), places, lengths

    @cached_property
    def least_depths(self) -> list[int]:
        """The least depth among each thousand steps."""
        depths: array[int] = array("i")
        for part in self.steps.parts:
            depths.extend(part.depth)
        return [min(depths[n : n + BLOCK]) for n in range(0, len(depths), BLOCK)]

    def flagged(self, bit: int) -> array[int]:
        """The places of the steps with an event, given by its flag."""
        found = array("i")
        for start, part in self.parts():
            found.extend(start + row for row, flags in enumerate(part.flags) if flags & bit)
        return found

    @cached_property
    def calls(self) -> array[int]:
        """The places at which a call begins."""
        return self.flagged(CALL)

    @cached_property
    def raises(self) -> array[int]:
        """The places at which an exception was raised."""
        return self.flagged(RAISE)

    @cached_property
    def statements(self) -> tuple[Statement, ...]:
        """Every statement that a step is at, in the order of its first step."""
        found: dict[int, None] = {}
        for part in self.steps.parts:
            found.update(dict.fromkeys(part.statement))
        return tuple(self.steps.statement_table[n] for n in found)

    @cached_property
    def outcomes(self) -> dict[Statement, frozenset[bool]]:
        """How the condition of each statement came out, among all its visits."""
        found: dict[int, set[bool]] = {}
        for part in self.steps.parts:
            for statement, flags in set(zip(part.statement, part.flags, strict=True)):
                if flags & CONDITION:
                    found.setdefault(statement, set()).add(bool(flags & HELD))
        return {self.steps.statement_table[n]: frozenset(f) for n, f in found.items()}

    def inputs(self) -> list[Step]:
        """The steps that read input."""
        return [self.steps[at] for at in self.flagged(INPUT)]
