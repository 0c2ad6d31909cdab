"""Every time a loop was gone through, read off the columns of a recording alone.

One walk over all steps, looking at numbers only: a loop is entered where its header stands while no
time of it is under way in the call, and left where that call goes on outside of its lines. What a
loop went over, and what it missed, is for ``loops.py``, which reads the source as well.
"""

from __future__ import annotations

from array import array
from bisect import bisect_right
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field
from typing import Literal

from oddsum.model.trace import Statement
from oddsum.trace.index import INPUT, RAISE, RETURN, Index
from oddsum.trace.store import CONDITION, HELD

Ending = Literal["condition", "ran out", "break", "return", "exception", "cut", "waiting", "lost"]
LOOPS = ("for", "while", "asyncfor")


@dataclass(frozen=True)
class Pass:
    """One time a loop was gone through, in the call ``frame``. Steps count from 1.

    ``enters`` is the first visit of its header, ``starts`` begin its rounds, ``ends`` is the last
    step in it. ``around``: the time of another loop, in the same call, that this one is in.
    ``whole`` is False where steps in the middle of it were not kept: there were more rounds.
    """

    header: Statement
    frame: int
    enters: int
    starts: Sequence[int]
    ends: int
    ending: Ending
    around: Pass | None = None
    whole: bool = True

    @property
    def rounds(self) -> int:
        """How many rounds it made, of those that were kept."""
        return len(self.starts)

    def round_at(self, step: int) -> int:
        """The round that a step is in, 0 before the first."""
        return bisect_right(self.starts, step)

    def holds(self, step: int) -> bool:
        """Whether a step is in it; the visit of its header at which it ended is not."""
        over = self.ending in ("condition", "ran out")
        return self.enters <= step and (step < self.ends if over else step <= self.ends)


class Passes(Sequence[Pass]):
    """All of a recording's, in the order in which they were entered."""

    def __init__(self, index: Index) -> None:
        self._index = index
        self._all = sorted(_Walk(index).passes(), key=lambda p: p.enters)
        self._of_frame: dict[int, list[Pass]] = {}
        for one in self._all:
            self._of_frame.setdefault(one.frame, []).append(one)

    def __len__(self) -> int:
        return len(self._all)

    def __getitem__(self, at):  # type: ignore[no-untyped-def]  # an index or a slice, as of a list
        return self._all[at]

    def of(self, file: str, line: int, kind: str) -> list[Pass]:
        """Those of the loop with this header."""
        wanted = (file, line, kind)
        return [p for p in self._all if (p.header.file, p.header.line, p.header.kind) == wanted]

    def around(self, number: int) -> Pass | None:
        """The innermost one that a step is in: of its call, or of one that it came from."""
        at: int | None = self._index.place(number)
        while at is not None:
            part, row = self._index.steps.place(at)
            found = self._in_frame(part.frame[row], part.first + row)
            if found is not None:
                return found
            at = self._index.caller_of(part.frame[row])
        return None

    def _in_frame(self, frame: int, number: int) -> Pass | None:
        mine = self._of_frame.get(frame, [])
        n = bisect_right(mine, number, key=lambda p: p.enters) - 1
        found = mine[n] if n >= 0 else None
        while found is not None and not found.holds(number):
            found = found.around
        return found


@dataclass
class _Open:
    """One that is under way. ``left`` is what the last round did to leave it, if anything."""

    header: int
    enters: int
    around: _Open | None
    starts: array[int] = field(default_factory=lambda: array("i"))
    left: Ending | None = None
    whole: bool = True
    closed: Pass | None = None


class _Walk:
    """The walk. A module's own lines are told apart by their file, for all have frame 0."""

    def __init__(self, index: Index) -> None:
        self.index = index
        table = index.steps.statement_table
        self.headers = {n for n, s in enumerate(table) if s.kind in LOOPS}
        self.inside = [frozenset(h for h in self.headers if _within(s, table[h])) for s in table]
        self.breaks = {n for n, s in enumerate(table) if s.kind == "break"}
        files = {file: ~n for n, file in enumerate(dict.fromkeys(s.file for s in table))}
        self.module = [files[s.file] for s in table]
        self.under_way: dict[int, list[_Open]] = {}  # by call, the innermost last
        self.last: dict[int, int] = {}  # the last step of each call that is in a loop
        self.kept_from = 1  # after the steps that were let go
        self.done: list[tuple[_Open, int, int, Ending]] = []  # with its call and last step

    def passes(self) -> Iterator[Pass]:
        """All of them, in no order."""
        follows = 1
        for part in self.index.steps.parts:
            if part.first != follows:
                self._lose_count(part.first)
            follows = part.first + len(part)
            rows = zip(part.statement, part.frame, part.flags, part.round, strict=True)
            for number, (statement, frame, flags, made) in enumerate(rows, part.first):
                call = frame or self.module[statement]
                stack = self.under_way.get(call)
                if stack:
                    if stack[-1].header not in self.inside[statement]:
                        self._leave(stack, call, statement)
                    if statement in self.headers:
                        self._at_header(stack, call, number, statement, flags, made)
                    elif stack:
                        self._in_body(stack, statement, flags)
                    self.last[call] = number
                elif statement in self.headers:
                    stack = self.under_way.setdefault(call, [])
                    self._at_header(stack, call, number, statement, flags, made)
                    self.last[call] = number
        for call, stack in self.under_way.items():
            while stack:
                one = stack.pop()
                if one.left == "exception":
                    one.left = None  # it may have been caught in the loop, which went on
                self._close(one, call, self.last[call], self._at_the_end)
        return self._told()

    def _lose_count(self, kept_from: int) -> None:
        """Steps up to this one were let go."""
        self.kept_from = kept_from
        for stack in self.under_way.values():
            for one in stack:
                one.whole = False

    def _at_header(
        self, stack: list[_Open], call: int, number: int, statement: int, flags: int, made: int
    ) -> None:
        if not stack or stack[-1].header != statement:
            stack.append(_Open(statement, number, stack[-1] if stack else None))
        if made == 1 and stack[-1].starts:  # it was left, and entered anew, in steps not kept
            self.done.append((stack.pop(), call, self.last[call], "lost"))
            stack.append(_Open(statement, number, stack[-1] if stack else None))
        here = stack[-1]
        if flags & RAISE:
            here.left = "exception"
        if made > 0 or flags & HELD:
            here.starts.append(number)
            here.left = None
        elif made == 0 or flags & CONDITION:
            ending: Ending = "ran out" if made == 0 else "condition"
            self.done.append((stack.pop(), call, number, ending))

    def _in_body(self, stack: list[_Open], statement: int, flags: int) -> None:
        if statement in self.breaks:
            stack[-1].left = "break"
        elif flags & (RETURN | RAISE):
            for one in stack:
                one.left = "return" if flags & RETURN else "exception"

    def _leave(self, stack: list[_Open], call: int, statement: int) -> None:
        """The call goes on outside of the lines of what is under way."""
        while stack and stack[-1].header not in self.inside[statement]:
            self._close(stack.pop(), call, self.last[call], lambda one, last: "exception")

    def _close(self, one: _Open, call: int, last: int, otherwise) -> None:  # type: ignore[no-untyped-def]
        ending: Ending = one.left or otherwise(one, last)
        if one.left is None and ending in ("exception", "cut"):
            last = self._last_below(last)
        self.done.append((one, call, last, ending))

    def _at_the_end(self, one: _Open, last: int) -> Ending:
        """What became of a loop that is under way when the recording ends."""
        if last < self.kept_from and self.kept_from > 1:
            return "lost"
        part, row = self.index.steps.place(self.index.place(last))
        if row in part.given and not part.flags[row] & (RETURN | RAISE | INPUT):
            return "waiting"  # a generator gave a value there, and was asked for no other
        goes_on = self._last_below(last) == self.index.last
        return "cut" if goes_on and not self.index.trace.complete else "exception"

    def _last_below(self, number: int) -> int:
        """The last step before the call that this step is in goes on."""
        at = self.index.place(number)
        following = self.index.next_not_deeper(at, self.index.depth(at))
        return self.index.last if following is None else self.index.number(following - 1)

    def _told(self) -> Iterator[Pass]:
        # Those around others were entered before them, and are closed after them.
        table = self.index.steps.statement_table
        for one, call, last, ending in sorted(self.done, key=lambda d: d[0].enters):
            around = one.around.closed if one.around is not None else None
            one.closed = Pass(table[one.header], max(call, 0), one.enters, one.starts, last,
                              ending, around, one.whole)  # fmt: skip
            yield one.closed


def _within(statement: Statement, header: Statement) -> bool:
    """Whether a statement stands in a loop, its header included."""
    return statement.file == header.file and (
        header.line <= statement.line and statement.end <= header.end
    )


def calls_in(index: Index, one: Pass) -> bool:
    """Whether functions of the program were called while a loop was gone through."""
    calls = index.calls
    n = bisect_right(calls, index.place(one.enters))
    return n < len(calls) and index.number(calls[n]) <= one.ends
