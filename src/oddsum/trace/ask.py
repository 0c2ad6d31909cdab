"""Questions to a trace, answered from indexes made once, when first asked. Steps count from 1.

Of a very long run some steps in the middle were let go: there a step's *number* runs ahead of its
*place*, which counts the steps that were kept, from 0. Everything outside speaks of numbers.
"""

from __future__ import annotations

from bisect import bisect_left, bisect_right
from functools import cached_property

from oddsum.languages import language_of
from oddsum.languages.questions import Question
from oddsum.model.trace import Statement, Value
from oddsum.trace.index import CALL, Index, Place
from oddsum.trace.nodes import Node, value_of
from oddsum.trace.rounds import Passes
from oddsum.trace.sight import owners
from oddsum.trace.store import NOTHING, Part, ref_number
from oddsum.trace.table_columns import TableColumns


class Story(Index):
    """A trace, and the questions that are asked of it."""

    def prepare(self) -> None:
        """Make the indexes now: behind the scenes, so that no key waits for one."""
        _ = self.at_line, self.columns_of, self.all_output, self.least_depths, self.passes
        _ = self.table

    # -- lines ---------------------------------------------------------------------------------

    def times_run(self, file: str, line: int, until: int | None = None) -> int:
        """How often a line's statement was visited, in all or up to a step.

        Of a run of which some steps were let go, those are not counted.
        """
        steps = self.at_line.get((file, line))
        if steps is None:
            return 0
        return len(steps) if until is None else bisect_right(steps, self.place(until))

    def next_at(self, places: set[Place], after: int) -> int | None:
        """The next step that visits one of these lines, after this one."""
        here, found = self._edge(after), []
        for place in places:
            steps = self.at_line.get(place, ())
            at = bisect_right(steps, here)
            if at < len(steps):
                found.append(steps[at])
        return self.number(min(found)) if found else None

    def last_at(self, places: set[Place], before: int) -> int | None:
        """The last step before this one that visits one of these lines."""
        here, found = self._edge(before), []
        for place in places:
            steps = self.at_line.get(place, ())
            at = bisect_left(steps, here)
            if at:
                found.append(steps[at - 1])
        return self.number(max(found)) if found else None

    def visits(self, places: set[Place]) -> list[int]:
        """The steps that visit one of these lines, in order."""
        return self.numbers(iter(sorted(n for p in places for n in self.at_line.get(p, ()))))

    def visits_of(self, statement: Statement) -> list[int]:
        """The steps that visit one statement, in order."""
        for number in self.statement_numbers(statement):
            return self.numbers(iter(self.by_statement.get(number, ())))
        return []

    def statement_numbers(self, statement: Statement) -> list[int]:
        """The numbers by which a statement goes in the columns of the recording."""
        return [n for n, s in enumerate(self.steps.statement_table) if s == statement]

    def question(self, text: str) -> Question:
        """A question in the program's own language; raises QuestionError."""
        return language_of(self.trace.program).asking.question(text)

    # -- calls ---------------------------------------------------------------------------------

    def into(self, number: int) -> int | None:
        """The first step of the call that this statement makes; None where it makes none."""
        at = self.place(number) + 1
        if at < len(self.steps) and self._flags(at) & CALL:
            return self.number(at)
        return None

    def _flags(self, at: int) -> int:
        part, row = self.steps.place(at)
        return part.flags[row]

    def out(self, number: int) -> int | None:
        """The step where the caller goes on; None in the module."""
        at = self.place(number)
        depth = self.depth(at)
        found = self.next_not_deeper(at, depth - 1) if depth else None
        return None if found is None else self.number(found)

    def over(self, number: int) -> int | None:
        """The next step that is not inside a call made here."""
        at = self.place(number)
        found = self.next_not_deeper(at, self.depth(at))
        return None if found is None else self.number(found)

    def next_call(self, number: int) -> int | None:
        """The first step of the next call made from this call or the module, None for none."""
        at = self.place(number)
        depth = self.depth(at)
        end = self.next_not_deeper(at, depth - 1) if depth else len(self.steps)
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
        for owner in {0, frame, *self.steps.closures.get(frame, {}).values()}:
            for column in self.columns_of.get(owner, ()):
                told = self.ref_at(owner, column, at, part)
                if told is not None:
                    history = self.histories.get((owner, column))
                    first = history.places[0] if history is not None else -1
                    found.append((first, self.steps.column_names[column], told))
        return {name: told for _, name, told in sorted(found, key=lambda f: f[0])}

    def ref_at(self, owner: int, column: int, at: int, part: Part) -> tuple[Part, int] | None:
        """What one variable of one call refers to after the step at a place of a part."""
        history = self.histories.get((owner, column))
        n = bisect_right(history.places, at) - 1 if history is not None else -1
        if history is not None and n >= 0 and self.steps.parts[history.parts[n]] is part:
            ref = part.after[history.positions[n]]
            return None if ref == NOTHING else (part, ref)
        known = part.known.get((owner, column), NOTHING)
        return None if known == NOTHING else (part, known)

    def values_at(self, number: int) -> dict[str, Value]:
        """What every variable in sight holds after a step."""
        return {
            name: value_of(part.node(ref), ref_number(ref))
            for name, (part, ref) in self.refs_at(number).items()
        }

    def node_of(self, name: str, number: int) -> Node | None:
        """What one variable holds after a step, as structure; None for nothing."""
        at = self.place(number)
        part, row = self.steps.place(at)
        column = self.column_number(name)
        if column is None:
            return None
        for owner in owners(self, column, part.frame[row]):
            told = self.ref_at(owner, column, at, part)
            if told is not None:
                return told[0].node(told[1])
        return None

    def node_after(self, name: str, number: int) -> Node | None:
        """What a variable became in a step that changes it, whosever it is."""
        part, row = self.steps.place(self.place(number))
        for n in self.steps.changes_of(part, row):
            if self.steps.column_names[part.column[n]] == name and part.after[n] != NOTHING:
                return part.node(part.after[n])
        return None

    def column_number(self, name: str) -> int | None:
        """The number of a variable's column."""
        names = self.steps.column_names
        return names.index(name) if name in names else None

    def frame_of(self, name: str, number: int) -> int:
        """The call whose variable of this name is in sight at a step; 0 for the module's."""
        column, frame = self.column_number(name), self.frame_at(number)
        if column is None:
            return 0
        at = self.place(number)
        part, _ = self.steps.place(at)
        found = owners(self, column, frame)
        return next((o for o in found if self.ref_at(o, column, at, part) is not None), found[0])

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
        return self.numbers(iter(sorted(places)))

    def _is_inked(self, part: int, position: int) -> bool:
        columns = self.steps.parts[part]
        return columns.before[position] != columns.after[position]

    def last_change(self, name: str, owner: int, until: int) -> int | None:
        """The last step up to this one that inks a variable of one call (0: of the module)."""
        return self._change_near(name, owner, self.place(until), -1)

    def next_change(self, name: str, owner: int, after: int) -> int | None:
        """The next step after this one that inks it."""
        return self._change_near(name, owner, self.place(after), 1)

    def _change_near(self, name: str, owner: int, at: int, way: int) -> int | None:
        column = self.column_number(name)
        history = self.histories.get((owner, -1 if column is None else column))
        if history is None:
            return None
        n = bisect_right(history.places, at) - (1 if way < 0 else 0)
        while 0 <= n < len(history.places):
            if self._is_inked(history.parts[n], history.positions[n]):
                return self.number(history.places[n])
            n += way
        return None

    @cached_property
    def table(self) -> TableColumns:
        """The columns that a table of it can have, which steps ink them, and with what."""
        return TableColumns(self.steps)

    # -- output --------------------------------------------------------------------------------

    def output_until(self, number: int) -> str:
        """All that was printed up to and with a step; blank for step 0."""
        if not number:
            return ""
        text, places, lengths = self.all_output
        n = bisect_right(places, self.place(number))
        return text[: lengths[n - 1]] if n else ""

    def printing(self, offset: int) -> int | None:
        """The step that printed the character at an offset of the whole output, from 0.

        An offset past the end is the last step's: what should have come did not. None for a trace
        without steps.
        """
        _, places, lengths = self.all_output
        n = bisect_right(lengths, offset)
        if n < len(places):
            return self.number(places[n])
        return self.last or None

    @cached_property
    def where_raised(self) -> int | None:
        """The step in which the last exception was raised."""
        return self.number(self.raises[-1]) if self.raises else None

    # -- loops ---------------------------------------------------------------------------------

    @cached_property
    def passes(self) -> Passes:
        """Every time a loop was gone through."""
        return Passes(self)
