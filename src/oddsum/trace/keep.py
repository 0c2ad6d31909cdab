"""Keeps the steps of a recording as they come: all of an ordinary run, of a very long one two ends.

The first half of what may be kept is filled once. After that, parts of a quarter each follow; only
the last two are kept, so that between a quarter and a half are the newest steps.
"""

from __future__ import annotations

from oddsum.trace.nodes import Node, same
from oddsum.trace.objects import Life, copied
from oddsum.trace.store import NOTHING, Part, is_object, object_ref, ref_number

_PLAIN = frozenset({int, float, bool, type(None), str, complex})


class Keeper:
    """The steps so far, and what every name holds now."""

    def __init__(self, most: int) -> None:
        self._most = most
        self._first: Part | None = None  # once it is full
        self._last: Part | None = None
        self._part = Part(1)
        self._room = most // 2
        self.count = 0
        self.lives: dict[int, Life] = self._part.lives
        self.held: dict[tuple[int, int], int] = {}  # (frame, column) to an object's number
        self._known: dict[int, dict[int, int]] = {}  # frame to column to reference
        self._row_changes: dict[tuple[int, int], int] = {}  # of the step in hand: positions
        self._doubtful: list[int] = []  # those that may have come to nothing
        self.left_out: tuple[int, int] | None = None

    def begin(self, statement: int, depth: int, frame: int, visit: int, thread: int) -> None:
        """A step begins; the one before is complete."""
        part = self._part
        if self._row_changes:
            self._row_changes.clear()
            if self._doubtful:
                self._settle(part)
        if len(part.statement) >= self._room:
            part = self._turn_over()
        self.count += 1
        part.statement.append(statement)
        part.depth.append(depth)
        part.frame.append(frame)
        part.visit.append(visit)
        part.round.append(-1)
        part.flags.append(0)
        part.thread.append(thread)

    def flag(self, bits: int) -> None:
        """Note an event or an outcome of the step in hand."""
        if self._part.flags:
            self._part.flags[-1] |= bits

    def round(self, number: int) -> None:
        """Note the round of a loop that begins in this step."""
        if self._part.round:
            self._part.round[-1] = number

    def print(self, text: str) -> None:
        """Note output of this step."""
        row = len(self._part) - 1
        if row >= 0:
            self._part.printed[row] = self._part.printed.get(row, "") + text

    def give(self, value: Node) -> None:
        """Note what this step returns, raises or reads."""
        row = len(self._part) - 1
        if row >= 0:
            self._part.given[row] = self._part.add_value(value)

    def statement(self) -> int:
        """The statement of the step in hand, -1 before the first."""
        return self._part.statement[-1] if self._part.statement else -1

    def add_value(self, node: Node) -> int:
        """Keep a value; returns its reference."""
        return self._part.add_value(node)

    # -- changes -------------------------------------------------------------------------------

    def change_to(self, column: int, frame: int, node: Node) -> None:
        """A name was bound to a value that cannot change."""
        known = self._known.get(frame)
        before = known.get(column, NOTHING) if known else NOTHING
        if before != NOTHING and not is_object(before):
            old = self._part.values[before]
            if old is node or (type(old) is type(node) and same(old, node)):
                return
        self._part.values.append(node)
        self._note(column, frame, before, len(self._part.values) - 1)

    def change(self, column: int, frame: int, ref: int) -> None:
        """A name holds another value, or its object is not as it was."""
        known = self._known.get(frame)
        before = known.get(column, NOTHING) if known else NOTHING
        if before != ref:
            self._note(column, frame, before, ref)

    def remove(self, column: int, frame: int) -> None:
        """A name is gone."""
        before = self._known.get(frame, {}).get(column, NOTHING)
        if before != NOTHING:
            self._note(column, frame, before, NOTHING)

    def _note(self, column: int, frame: int, before: int, after: int) -> None:
        part = self._part
        if not part.statement:
            return  # ahead of the first step: nothing to ink, and it is told again
        names = self._known.get(frame)
        if names is None:
            names = self._known[frame] = {}
        if after == NOTHING:
            del names[column]
        else:
            names[column] = after
        key = (frame, column)
        earlier = self._row_changes.get(key)
        if earlier is not None:
            part.after[earlier] = after
            self._doubtful.append(earlier)
            return
        if is_object(after):
            self._doubtful.append(len(part.row))
        self._row_changes[key] = len(part.row)
        part.row.append(len(part.statement) - 1)
        part.column.append(column)
        part.owner.append(frame)
        part.before.append(before)
        part.after.append(after)

    def _settle(self, part: Part) -> None:
        """Mark what came to nothing: several changes of one step, a list that reads the same.

        It stays, for which object a name holds is told by it; see ``Steps.changes_of``.
        """
        for at in self._doubtful:
            before, after = part.before[at], part.after[at]
            if before >= 0 and after >= 0 and self._alike(before, after):
                part.before[at] = after
        self._doubtful.clear()

    def _alike(self, before: int, after: int) -> bool:
        part, one, other = self._part, is_object(before), is_object(after)
        if one and other and ref_number(before) == ref_number(after):
            return False  # a change that came to nothing is no new version
        if not (one or other):
            old, new = part.values[before], part.values[after]
            plain = type(old) in _PLAIN and type(new) in _PLAIN
            return same(old, new) if plain or type(old) is type(new) else False
        return same(part.node(before), part.node(after))

    # -- names ---------------------------------------------------------------------------------

    def names_of(self, frame: int) -> list[tuple[int, int]]:
        """The names of a call that hold an object."""
        if not self.held:
            return []
        return [(frame, c) for c in self._known.get(frame, ()) if (frame, c) in self.held]

    def forget(self, frame: int) -> None:
        """A call is over."""
        self._known.pop(frame, None)

    # -- parts ---------------------------------------------------------------------------------

    def _turn_over(self) -> Part:
        """Begin a new part, and let the one before the last go."""
        full, new = self._part, Part(self.count + 1)
        if self._first is None:
            self._first = full
            self._room = max(1, self._most // 4)
        else:
            if self._last is not None:
                start = self._first.first + len(self._first)
                self.left_out = (start, self._last.first + len(self._last) - 1)
            self._last = full
        self._carry_over(full, new)
        self._part, self.lives = new, new.lives
        return new

    def _carry_over(self, old: Part, new: Part) -> None:
        for number in set(self.held.values()):
            life = old.lives.get(number)
            if life is not None:
                new.lives[number] = Life(copied(life.now), life.last)
        for frame, names in self._known.items():
            for column, ref in names.items():
                if is_object(ref):
                    number = ref_number(ref)
                    if number not in new.lives:
                        continue
                    moved = object_ref(number, new.lives[number].last)
                else:
                    moved = new.add_value(old.values[ref])
                names[column] = new.known[frame, column] = moved

    def finish(self) -> list[Part]:
        """The parts that were kept, in order."""
        self._settle(self._part)
        return [p for p in (self._first, self._last, self._part) if p is not None]
