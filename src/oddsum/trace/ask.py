"""Questions to a trace, answered from indexes made once, when first asked. Steps count from 1.

Of a very long run some steps in the middle were let go: there a step's *number* runs ahead of its
*place*, which counts the steps that were kept, from 0. Everything outside speaks of numbers.
"""

from __future__ import annotations

from array import array
from bisect import bisect_left, bisect_right
from collections.abc import Iterator
from functools import cached_property
from typing import NamedTuple

from oddsum.model.trace import Statement, Step, Trace, Value
from oddsum.trace.nodes import Node, value_of
from oddsum.trace.store import CONDITION, EVENTS, HELD, NOTHING, Part, Steps, ref_number

Place = tuple[str, int]  # file and line
_LOOK_BACK = 5_000  # steps that are gone through to find the loop around one: a key waits for it
_BLOCK = 1_000  # steps whose least depth is kept together, so that a long call is skipped quickly
_INPUT = 1 << EVENTS.index("input")
_CALL, _RAISE = 1 << EVENTS.index("call"), 1 << EVENTS.index("raise")


class History(NamedTuple):
    """The changes of one variable: at which places, and as what of which part."""

    places: array[int]
    parts: bytearray
    positions: array[int]


class Story:
    """A trace with what has to be looked up in it again and again."""

    def __init__(self, trace: Trace) -> None:
        self.trace = trace
        assert isinstance(trace.steps, Steps)
        self.steps = trace.steps
        self._loops: dict[int, list[list[int]]] = {}

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

    def _numbers(self, places: Iterator[int]) -> list[int]:
        return [self.number(at) for at in places]

    # -- indexes -------------------------------------------------------------------------------

    def _parts(self) -> Iterator[tuple[int, Part]]:
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
    def _by_statement(self) -> dict[int, array[int]]:
        """Places of the visits of each statement; steps that are no visits are left out."""
        found: dict[int, array[int]] = {}
        for start, part in self._parts():
            for row, (statement, visit) in enumerate(zip(part.statement, part.visit, strict=True)):
                if visit:
                    if statement not in found:
                        found[statement] = array("i")
                    found[statement].append(start + row)
        return found

    @cached_property
    def _at_line(self) -> dict[Place, array[int]]:
        found: dict[Place, array[int]] = {}
        for statement, places in self._by_statement.items():
            told = self.steps.statement_table[statement]
            at = found.setdefault((told.file, told.line), array("i"))
            found[told.file, told.line] = array("i", sorted([*at, *places])) if at else places
        return found

    @cached_property
    def histories(self) -> dict[tuple[int, int], History]:
        """The changes of each variable, by the frame it belongs to and its column's number."""
        found: dict[tuple[int, int], History] = {}
        for n, (start, part) in enumerate(self._parts()):
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
    def _columns_of(self) -> dict[int, list[int]]:
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
    def _output(self) -> tuple[str, array[int], list[int]]:
        """All output; the places that print; how much there was after each of them."""
        texts: list[str] = []
        places, lengths, total = array("i"), [], 0
        for start, part in self._parts():
            for row, text in part.printed.items():
                total += len(text)
                texts.append(text)
                places.append(start + row)
                lengths.append(total)
        return "".join(texts), places, lengths

    @cached_property
    def _least_depths(self) -> list[int]:
        depths: array[int] = array("i")
        for part in self.steps.parts:
            depths.extend(part.depth)
        return [min(depths[n : n + _BLOCK]) for n in range(0, len(depths), _BLOCK)]

    def _flagged(self, bit: int) -> array[int]:
        found = array("i")
        for start, part in self._parts():
            found.extend(start + row for row, flags in enumerate(part.flags) if flags & bit)
        return found

    @cached_property
    def calls(self) -> array[int]:
        """The places at which a call begins."""
        return self._flagged(_CALL)

    @cached_property
    def raises(self) -> array[int]:
        """The places at which an exception was raised."""
        return self._flagged(_RAISE)

    def prepare(self) -> None:
        """Make the indexes now: behind the scenes, so that no key waits for one."""
        _ = self._at_line, self._columns_of, self._output, self._least_depths, self.calls

    # -- lines ---------------------------------------------------------------------------------

    def times_run(self, file: str, line: int, until: int | None = None) -> int:
        """How often a line's statement was visited, in all or up to a step.

        Of a run of which some steps were let go, those are not counted.
        """
        steps = self._at_line.get((file, line))
        if steps is None:
            return 0
        return len(steps) if until is None else bisect_right(steps, self.place(until))

    def next_at(self, places: set[Place], after: int) -> int | None:
        """The next step that visits one of these lines, after this one."""
        here, found = self._edge(after), []
        for place in places:
            steps = self._at_line.get(place, ())
            at = bisect_right(steps, here)
            if at < len(steps):
                found.append(steps[at])
        return self.number(min(found)) if found else None

    def last_at(self, places: set[Place], before: int) -> int | None:
        """The last step before this one that visits one of these lines."""
        here, found = self._edge(before), []
        for place in places:
            steps = self._at_line.get(place, ())
            at = bisect_left(steps, here)
            if at:
                found.append(steps[at - 1])
        return self.number(max(found)) if found else None

    def visits(self, places: set[Place]) -> list[int]:
        """The steps that visit one of these lines, in order."""
        return self._numbers(iter(sorted(n for p in places for n in self._at_line.get(p, ()))))

    def visits_of(self, statement: Statement) -> list[int]:
        """The steps that visit one statement, in order."""
        for number in self.statement_numbers(statement):
            return self._numbers(iter(self._by_statement.get(number, ())))
        return []

    def statement_numbers(self, statement: Statement) -> list[int]:
        """The numbers by which a statement goes in the columns of the recording."""
        return [n for n, s in enumerate(self.steps.statement_table) if s == statement]

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
        return [self.steps[at] for at in self._flagged(_INPUT)]

    # -- calls ---------------------------------------------------------------------------------

    def into(self, number: int) -> int | None:
        """The first step of the call that this statement makes; None where it makes none."""
        at = self.place(number) + 1
        if at < len(self.steps) and self._flags(at) & _CALL:
            return self.number(at)
        return None

    def _flags(self, at: int) -> int:
        part, row = self.steps.place(at)
        return part.flags[row]

    def depth(self, at: int) -> int:
        """The depth of the step at a place."""
        part, row = self.steps.place(at)
        return part.depth[row]

    def _next_not_deeper(self, at: int, depth: int) -> int | None:
        """The place of the next step whose depth is at most this."""
        at, count = at + 1, len(self.steps)
        while at < count:
            if at % _BLOCK == 0 and self._least_depths[at // _BLOCK] > depth:
                at += _BLOCK
            elif self.depth(at) <= depth:
                return at
            else:
                at += 1
        return None

    def out(self, number: int) -> int | None:
        """The step where the caller goes on; None in the module."""
        at = self.place(number)
        depth = self.depth(at)
        found = self._next_not_deeper(at, depth - 1) if depth else None
        return None if found is None else self.number(found)

    def over(self, number: int) -> int | None:
        """The next step that is not inside a call made here."""
        at = self.place(number)
        found = self._next_not_deeper(at, self.depth(at))
        return None if found is None else self.number(found)

    def next_call(self, number: int) -> int | None:
        """The first step of the next call made from this call or the module, None for none."""
        at = self.place(number)
        depth = self.depth(at)
        end = self._next_not_deeper(at, depth - 1) if depth else len(self.steps)
        for n in range(bisect_right(self.calls, at), len(self.calls)):
            if end is not None and self.calls[n] >= end:
                break
            if self.depth(self.calls[n]) == depth + 1:
                return self.number(self.calls[n])
        return None

    # -- values --------------------------------------------------------------------------------

    def refs_at(self, number: int, frame: int | None = None) -> dict[str, tuple[Part, int]]:
        """What every variable in sight refers to after a step: the module's and one call's own."""
        at = self.place(number)
        part, row = self.steps.place(at)
        frame = part.frame[row] if frame is None else frame
        found: list[tuple[int, str, tuple[Part, int]]] = []
        for owner in {0, frame}:
            for column in self._columns_of.get(owner, ()):
                told = self._ref_at(owner, column, at, part)
                if told is not None:
                    found.append((told[0], self.steps.column_names[column], told[1]))
        return {name: told for _, name, told in sorted(found, key=lambda f: f[0])}

    def _ref_at(
        self, owner: int, column: int, at: int, part: Part
    ) -> tuple[int, tuple[Part, int]] | None:
        history = self.histories.get((owner, column))
        n = bisect_right(history.places, at) - 1 if history is not None else -1
        if history is not None and n >= 0 and self.steps.parts[history.parts[n]] is part:
            ref = part.after[history.positions[n]]
            return None if ref == NOTHING else (history.places[0], (part, ref))
        known = part.known.get((owner, column), NOTHING)
        return None if known == NOTHING else (-1, (part, known))

    def values_at(self, number: int) -> dict[str, Value]:
        """What every variable in sight holds after a step."""
        return {
            name: value_of(part.node(ref), ref_number(ref))
            for name, (part, ref) in self.refs_at(number).items()
        }

    def nodes_at(self, number: int, frame: int | None = None) -> dict[str, Node]:
        """The same as structure; not to be changed."""
        return {n: part.node(ref) for n, (part, ref) in self.refs_at(number, frame).items()}

    def node_of(self, name: str, number: int) -> Node | None:
        """What one variable holds after a step, as structure; None for nothing."""
        at = self.place(number)
        part, row = self.steps.place(at)
        column = self.column_number(name)
        owner = part.frame[row] if "." in name else 0
        told = self._ref_at(owner, column, at, part) if column is not None else None
        return None if told is None else told[1][0].node(told[1][1])

    def column_number(self, name: str) -> int | None:
        """The number of a variable's column."""
        names = self.steps.column_names
        return names.index(name) if name in names else None

    def changes_of(self, name: str, frame: int | None = None) -> list[int]:
        """The steps that change a variable: of one call, or of all."""
        column = self.column_number(name)
        owners = [frame] if frame is not None else [o for o, c in self.histories if c == column]
        places: set[int] = set()
        for owner in owners:
            history = self.histories.get((owner, -1 if column is None else column))
            if history is not None:
                told = zip(*history, strict=True)
                places.update(at for at, n, position in told if self._is_inked(n, position))
        return self._numbers(iter(sorted(places)))

    def _is_inked(self, part: int, position: int) -> bool:
        columns = self.steps.parts[part]
        return columns.before[position] != columns.after[position]

    # -- output --------------------------------------------------------------------------------

    def output_until(self, number: int) -> str:
        """All that was printed up to and with a step; blank for step 0."""
        if not number:
            return ""
        text, places, lengths = self._output
        n = bisect_right(places, self.place(number))
        return text[: lengths[n - 1]] if n else ""

    def printing(self, offset: int) -> int | None:
        """The step that printed the character at an offset of the whole output, from 0.

        An offset past the end is the last step's: what should have come did not. None for a trace
        without steps.
        """
        _, places, lengths = self._output
        n = bisect_right(lengths, offset)
        if n < len(places):
            return self.number(places[n])
        return self.last or None

    @cached_property
    def where_raised(self) -> int | None:
        """The step in which the last exception was raised."""
        return self.number(self.raises[-1]) if self.raises else None

    # -- loops ---------------------------------------------------------------------------------

    def loop_around(self, number: int) -> Statement | None:
        """The innermost loop, of this call or of one that it came from, that a step is in."""
        here = self.place(number)
        outer = self.depth(here)
        passed: set[int] = set()
        for at in range(here, max(-1, here - _LOOK_BACK), -1):
            part, row = self.steps.place(at)
            depth, statement = part.depth[row], part.statement[row]
            outer = min(outer, depth)
            told = self.steps.statement_table[statement]
            if depth > outer or told.kind not in ("for", "while"):
                continue
            ended = part.round[row] == 0 or part.flags[row] & (CONDITION | HELD) == CONDITION
            if ended or statement in passed:
                passed.add(statement)
                continue
            return told
        return None

    def round_starts(self, loop: Statement, around: Step) -> list[int]:
        """Steps at which the rounds of a loop begin: of the one time it is gone through around a
        step."""
        passes = self.passes(loop)
        at = bisect_right(passes, around.number, key=lambda starts: starts[0])
        return passes[at - 1] if at else []

    def passes(self, loop: Statement) -> list[list[int]]:
        """For each time a loop is gone through, the steps at which its rounds begin.

        Times it made no round are left out.
        """
        (key,) = self.statement_numbers(loop)[:1] or (-1,)
        if key not in self._loops:
            self._loops[key] = self._passes(key)
        return self._loops[key]

    def _passes(self, statement: int) -> list[list[int]]:
        passes: list[list[int]] = [[]]
        for start, part in self._parts():
            for row, (one, number) in enumerate(zip(part.statement, part.round, strict=True)):
                if one != statement:
                    continue
                flags = part.flags[row]
                begins = number > 0 or flags & HELD
                if number == 1 or not begins:
                    passes.append([])
                if begins:
                    passes[-1].append(self.number(start + row))
        return [starts for starts in passes if starts]
