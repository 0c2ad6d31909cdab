"""A recording as columns of numbers: some 30 bytes a step, and 24 a change, besides the values.

A run is kept in parts, each able to stand alone: of a very long run the first part and the last
ones are kept, and what lies between is let go.
"""

from __future__ import annotations

from array import array
from bisect import bisect_left
from collections.abc import Iterator, Mapping, Sequence
from functools import lru_cache
from types import MappingProxyType
from typing import overload

from oddsum.model.column import Column
from oddsum.model.trace import Change, Event, Statement, Step, Value
from oddsum.trace.nodes import Node, value_of
from oddsum.trace.objects import Life

EVENTS: tuple[Event, ...] = ("call", "back", "input", "raise", "return")
CONDITION, HELD = 32, 64  # flags besides the events' own bits: there is one; it was True
NOTHING = -1  # a reference to no value
_OBJECT = 1 << 28  # a reference is an index into ``values``, or an object's number and version
_KEPT_STEPS = 4096


def object_ref(number: int, version: int) -> int:
    """A reference to an object as it was at a version."""
    return number << 29 | _OBJECT | version


def is_object(ref: int) -> bool:
    """Whether a reference is one to an object."""
    return ref >= _OBJECT


class Part:
    """Steps in a row, from step ``first`` on. See the module."""

    def __init__(self, first: int) -> None:
        self.first = first
        self.statement, self.depth, self.frame = array("i"), array("i"), array("i")
        self.visit, self.round = array("i"), array("i")
        self.flags, self.thread = array("B"), array("B")
        # One entry a change, in the order they came; ``row`` counts the part's steps from 0.
        self.row, self.column, self.owner = array("i"), array("i"), array("i")
        self.before, self.after = array("q"), array("q")
        self.values: list[Node] = []
        self.lives: dict[int, Life] = {}
        self.printed: dict[int, str] = {}  # by row
        self.given: dict[int, int] = {}  # what a step returned, raised or read: row to reference
        self.known: dict[tuple[int, int], int] = {}  # (frame, column) to reference, at the start

    def __len__(self) -> int:
        return len(self.statement)

    def add_value(self, node: Node) -> int:
        """Keep a value; returns its reference."""
        self.values.append(node)
        return len(self.values) - 1

    def node(self, ref: int) -> Node:
        """What a reference stands for."""
        if ref < _OBJECT:
            return self.values[ref]
        return self.lives[ref_number(ref)].version(ref & (_OBJECT - 1))

    def value(self, ref: int) -> Value | None:
        """What a reference stands for, as a Value; None for nothing."""
        if ref == NOTHING:
            return None
        return value_of(self.node(ref), ref_number(ref))


def ref_number(ref: int) -> int:
    """The number of the object that a reference is one to, 0 for a plain value."""
    return ref >> 29 if ref >= _OBJECT else 0


class Steps(Sequence[Step]):
    """The steps of a run, each made when it is looked at."""

    def __init__(
        self,
        parts: Sequence[Part],
        statements: Sequence[Statement],
        columns: Sequence[Column],
        threads: Sequence[str] = ("",),
        homes: Mapping[str, str] = MappingProxyType({}),
        closures: Mapping[int, Mapping[str, int]] = MappingProxyType({}),
        bases: Mapping[str, tuple[str, ...]] = MappingProxyType({}),
    ) -> None:
        """``homes``: what the columns of a file's module begin with, blank for the program's;
        ``closures``: for a call of a function made inside of another, by its number, the calls
        it was made in, by their functions; ``bases``: the classes that a class is made from."""
        self.parts = [p for p in parts if len(p)]
        self.statement_table, self.columns = statements, columns
        self.column_names = tuple(c.title for c in columns)
        self.homes, self.closures, self.bases = homes, closures, bases
        self.threads = threads
        self._starts: list[int] = []
        total = 0
        for part in self.parts:
            self._starts.append(total)
            total += len(part)
        self._count = total
        self._step = lru_cache(maxsize=_KEPT_STEPS)(self._made)

    def __len__(self) -> int:
        return self._count

    @overload
    def __getitem__(self, at: int) -> Step: ...
    @overload
    def __getitem__(self, at: slice) -> list[Step]: ...
    def __getitem__(self, at: int | slice) -> Step | list[Step]:
        if isinstance(at, slice):
            return [self._step(n) for n in range(*at.indices(self._count))]
        if at < 0:
            at += self._count
        if not 0 <= at < self._count:
            raise IndexError(at)
        return self._step(at)

    def __iter__(self) -> Iterator[Step]:
        return (self._made(n) for n in range(self._count))

    def __eq__(self, other: object) -> bool:
        return isinstance(other, Sequence) and list(self) == list(other)

    __hash__ = None  # type: ignore[assignment]

    def place(self, at: int) -> tuple[Part, int]:
        """The part that a step is in, and its row there; ``at`` counts kept steps from 0."""
        for start, part in zip(reversed(self._starts), reversed(self.parts), strict=True):
            if at >= start:
                return part, at - start
        raise IndexError(at)

    def number_at(self, at: int) -> int:
        """The number of a kept step; those of a part that was let go are left out."""
        part, row = self.place(at)
        return part.first + row

    def index_of(self, number: int) -> int | None:
        """Where a step is among those kept, None where it was let go."""
        for start, part in zip(self._starts, self.parts, strict=True):
            if part.first <= number < part.first + len(part):
                return start + number - part.first
        return None

    def changes_of(self, part: Part, row: int) -> list[int]:
        """The changes of a step, as positions in the part's columns of changes.

        Where before and after are one reference, the name holds another object that reads the same.
        """
        positions = range(bisect_left(part.row, row), bisect_left(part.row, row + 1))
        return [n for n in positions if part.before[n] != part.after[n]]

    def _made(self, at: int) -> Step:
        part, row = self.place(at)
        flags = part.flags[row]
        return Step(
            number=part.first + row,
            statement=self.statement_table[part.statement[row]],
            depth=part.depth[row],
            frame=part.frame[row],
            visit=part.visit[row] or None,
            events=_events_of(flags & 31),
            condition=bool(flags & HELD) if flags & CONDITION else None,
            round=None if part.round[row] < 0 else part.round[row],
            output=part.printed.get(row, ""),
            changes=tuple(self._change(part, n) for n in self.changes_of(part, row)),
            value=part.value(part.given.get(row, NOTHING)),
            thread=self.threads[part.thread[row]],
        )

    def _change(self, part: Part, n: int) -> Change:
        return Change(
            self.column_names[part.column[n]],
            part.value(part.before[n]),
            part.value(part.after[n]),
            part.owner[n],
        )


@lru_cache(maxsize=32)
def _events_of(bits: int) -> tuple[Event, ...]:
    return tuple(name for n, name in enumerate(EVENTS) if bits >> n & 1)
