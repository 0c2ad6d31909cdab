"""Where an edit of a text lies in its syntax tree, and what it changes there.

An edit is a list of splices ``[start, stop, new]``: characters ``start`` to ``stop`` of the text
(offsets from 0) are replaced by ``new``. Only the smallest statement around it is read anew:
reading the whole file for each of some thousand edits takes longer than running it.
"""

from __future__ import annotations

import ast
from bisect import bisect_right

from .slots import PutIn, Slot, slots_of

TYPE_CHECKING = False  # importing typing would cost every run some milliseconds
if TYPE_CHECKING:
    from collections.abc import Iterator
    from typing import Any

SCOPES = (ast.FunctionDef, ast.AsyncFunctionDef, ast.ClassDef)
BODIES = ("body", "orelse", "finalbody")


class Change:
    """What one edit changes in one place of the tree.

    Either an expression, ``owner.field`` (item ``first`` of it, where that is a list), becomes
    ``new``; or, where ``is_block``, the statements ``first`` to ``last`` of the block
    ``owner.field`` become the statements ``new``.
    """

    def __init__(
        self, owner: Any, field: str, first: Any, last: int, new: Any, is_block: bool, scope: Any
    ) -> None:
        self.owner, self.field, self.first, self.last = owner, field, first, last
        self.new, self.is_block = new, is_block
        self.scope = scope  # the function or class it stands in, as far as that was come through

    @property
    def old(self) -> list[Any]:
        """What is no longer there."""
        held = getattr(self.owner, self.field)
        if self.is_block:
            return list(held[self.first : self.last])
        return [held if self.first is None else held[self.first]]

    @property
    def come(self) -> list[Any]:
        """What is there instead."""
        return list(self.new) if self.is_block else [self.new]


class Text:
    """A file's text with its lines, and its tree as it is before any edit."""

    def __init__(self, text: str, path: str, tree: Any) -> None:
        self.text, self.path, self.tree = text, path, tree
        self.lines = text.split("\n")
        self.read: tuple[int, list[str]] = (1, [])  # what was read anew last, and its first line
        # Some thousand edits lie on some ten lines: what depends on the lines is found once.
        self._around: dict[tuple[int, int], list[Any]] = {}
        self._frames: dict[Any, Any] = {}
        self._slots: dict[int, list[Slot]] = {}
        self.starts = [0]
        for line in self.lines:
            self.starts.append(self.starts[-1] + len(line) + 1)

    def line_of(self, offset: int) -> int:
        """The line, from 1, that an offset lies on."""
        return min(bisect_right(self.starts, offset), len(self.lines))

    def with_splices(self, splices: Any, start: int = 0, stop: Any = None) -> str:
        """Part of the text, edited; every splice lies in that part."""
        parts, at = [], start
        for first, last, new in sorted(splices):
            parts += [self.text[at:first], new]
            at = last
        return "".join([*parts, self.text[at : len(self.text) if stop is None else stop]])

    def touched(self, splices: Any) -> tuple[int, int]:
        """The lines that a statement must hold, all of them, for an edit to lie inside of it."""
        start, stop = min(s[0] for s in splices), max(s[1] for s in splices)
        first, last = self.line_of(start), self.line_of(stop)
        if start == stop and start == self.starts[first - 1] and splices[0][2].endswith("\n"):
            first -= 1  # whole lines put in: between these two
        return first, last

    def around(self, splices: Any) -> list[Any]:
        """The runs of statements that an edit lies inside of, outermost first.

        Each is ``(owner, field, first, last)``: statements ``first`` to ``last`` of a block. The
        outermost takes the module's statements beside the edit, where it lies between two.
        """
        return self.runs(*self.touched(splices))

    def runs(self, first: int, last: int) -> list[Any]:
        """The runs of statements that hold these lines, outermost first."""
        if (first, last) not in self._around:
            self._around[first, last] = self._runs(first, last)
        return self._around[first, last]

    def _runs(self, first: int, last: int) -> list[Any]:
        body = self.tree.body
        if not body:
            return []
        found: list[Any] = [(self.tree, "body", *_run(body, first, last))]
        while True:
            owner, field, start, stop = found[-1]
            inner = _holding(getattr(owner, field)[start], first, last)
            if stop != start + 1 or inner is None:
                return found
            found.append(inner)

    def _frame(self, run: Any) -> Any:
        """Of a run: its first line, its column, and from where to where its lines go."""
        owner, field, start, stop = run
        key = id(owner), field, start, stop
        if key not in self._frames:
            block = getattr(owner, field)
            first, last = first_line(block[start]), block[stop - 1].end_lineno
            begin, end = self.starts[first - 1], self.starts[last] - 1
            self._frames[key] = first, block[start].col_offset, begin, end
        return self._frames[key]

    def lines_put_in(self, start: int, stop: int, new: str) -> PutIn | None:
        """The whole lines that an edit puts ahead of a line, or behind it; None for any other."""
        if start != stop or "\n" not in new:
            return None
        line = self.line_of(start)
        was, at = self.lines[line - 1], start - self.starts[line - 1]
        made = was[:at] + new + was[at:]
        if made.endswith("\n" + was):
            return PutIn(made[: -len(was) - 1], line, True)
        return PutIn(made[len(was) + 1 :], line, False) if made.startswith(was + "\n") else None

    def is_chained(self, run: Any) -> bool:
        """Whether a run is an ``elif`` with what follows it."""
        owner, field, start, _ = run
        first = getattr(owner, field)[start]
        at = self.starts[first.lineno - 1] + first.col_offset
        return isinstance(first, ast.If) and self.text.startswith("elif", at)

    def slot(self, statement: Any, start: int, stop: int) -> Slot | None:
        """The smallest expression by itself that has all these characters; None for none."""
        if id(statement) not in self._slots:
            self._slots[id(statement)] = slots_of(statement, self.lines, self.starts)
        holding = (s for s in self._slots[id(statement)] if s.holds(start, stop))
        return next(holding, None)

    def read_anew(self, run: Any, splices: Any) -> list[Any]:
        """The statements that stand in the place of a run with an edit made; raises SyntaxError."""
        first, column, begin, end = self._frame(run)
        if run[0] is self.tree:  # what stands between statements belongs to the module
            begin, end = min(begin, *(s[0] for s in splices)), max(end, *(s[1] for s in splices))
            first = self.line_of(begin)
        segment = self.with_splices(splices, begin, end)
        chained = self.is_chained(run)
        if chained and segment[column : column + 4] != "elif":
            raise SyntaxError("it is no longer of its chain")
        if chained:
            segment = segment[:column] + "if  " + segment[column + 4 :]  # as a statement of its own
        ahead = "\n" * (first - 2) + "if 1:\n" if column else "\n" * (first - 1)
        read: Any = ast.parse(ahead + segment, self.path).body
        if column:
            inside = len(read) == 1 and not read[0].orelse
            if (
                not inside
                or read[0].body[0].col_offset != column
                or (
                    chained and len(read[0].body) > 1  # what comes after the chain
                )
            ):
                raise SyntaxError("it is no longer inside of its block")
            read = read[0].body
        self.read = first, segment.split("\n")
        return list(read)


def _holding(node: Any, first: int, last: int) -> Any:
    """The run of statements in a node's blocks that holds all these lines; None for none."""
    for owner, field, block in blocks_of(node):
        if first_line(block[0]) > first or block[-1].end_lineno < last:
            continue
        start, stop = _run(block, first, last)
        if getattr(owner, "lineno", 0) < first_line(block[start]):  # not on its header's line
            return owner, field, start, stop
        return None
    return None


def _run(block: list[Any], first: int, last: int) -> tuple[int, int]:
    """Which statements of a block hold these lines, those that share a line with them included."""
    start = max((n for n, s in enumerate(block) if first_line(s) <= first), default=0)
    stop = next((n for n, s in enumerate(block) if s.end_lineno >= last), len(block) - 1)
    start, stop = min(start, stop), max(start, stop)
    while start and block[start - 1].end_lineno >= first_line(block[start]):
        start -= 1
    while stop + 1 < len(block) and first_line(block[stop + 1]) <= block[stop].end_lineno:
        stop += 1
    return start, stop + 1


def blocks_of(node: Any) -> Iterator[tuple[Any, str, Any]]:
    """The blocks of statements right below a node: ``(owner, field, statements)``."""
    for field in BODIES:
        block = getattr(node, field, None)
        if type(block) is list and block and isinstance(block[0], ast.stmt):
            yield node, field, block
    for part in (*getattr(node, "handlers", ()), *getattr(node, "cases", ())):
        yield part, "body", part.body


def first_line(statement: Any) -> int:
    """A statement's first line, its decorators' included."""
    decorators = getattr(statement, "decorator_list", None)
    return int(decorators[0].lineno if decorators else statement.lineno)


class Comparing:
    """Compares statements with what stands in their place after an edit, as far as they differ.

    Of functions and classes whose identity is in ``whole`` nothing is left as it is. ``placed``:
    what is compared was read where it stands in the file.
    """

    def __init__(self, text: Text, splices: Any, whole: Any = (), placed: bool = True) -> None:
        self.whole, self.placed = whole, placed
        self.scope: Any = None
        self.start = min(s[0] for s in splices)
        self.stop = max(s[1] for s in splices)
        self.by = sum(len(new) - (last - first) for first, last, new in splices)
        self.lines = sum(new.count("\n") - text.text.count("\n", first, last)
                         for first, last, new in splices)  # fmt: skip
        self.text = text
        self.first, self.last = text.line_of(self.start), text.line_of(self.stop)
        self.plain = text.lines[self.first - 1].isascii()  # else columns of nodes are bytes
        self.found: list[Change] = []

    def run(self, run: Any, news: list[Any]) -> list[Change]:
        """The changes that make ``news`` of a run of statements."""
        owner, field, start, stop = run
        self._blocks(owner, field, getattr(owner, field)[start:stop], news, start)
        return self.found

    def slot(self, slot: Slot, new: Any) -> list[Change] | None:
        """The changes that make ``new`` of a slot; None where there cannot be a choice."""
        made = self._part(slot.owner, slot.field, slot.place, slot.node, new)
        return self.found if made else None

    def whole_run(self, run: Any, news: list[Any]) -> list[Change]:
        """One change that puts ``news`` in the place of all of a run."""
        self.found = []
        owner, field, start, stop = run
        self._block(owner, field, start, stop, news)
        return self.found

    def _block(self, owner: Any, field: str, first: int, last: int, new: list[Any]) -> None:
        self.found.append(Change(owner, field, first, last, new, True, self.scope))

    def _compare(self, old: Any, new: Any) -> bool:
        """Note the changes inside of a node; False where the node as a whole has to be replaced."""
        if type(old) is not type(new) or isinstance(old, ast.JoinedStr):
            return type(old) is type(new) and self._outside(old, new)
        if id(old) in self.whole:
            return False
        known, around = len(self.found), self.scope
        try:
            for field in old._fields:
                if field == "body" and isinstance(old, SCOPES):
                    self.scope = old
                a, b = getattr(old, field, None), getattr(new, field, None)
                if not self._field(old, field, a, b):
                    del self.found[known:]
                    return False
                self.scope = around
        finally:
            self.scope = around
        return True

    def _field(self, owner: Any, field: str, a: Any, b: Any) -> bool:
        if type(a) is not type(b):
            return False
        if type(a) is list:
            if a and isinstance(a[0], ast.stmt) and b and isinstance(b[0], ast.stmt):
                self._blocks(owner, field, a, b)
                return True
            return len(a) == len(b) and all(
                self._part(owner, field, n, x, y) for n, (x, y) in enumerate(zip(a, b))
            )
        return self._part(owner, field, None, a, b)

    def _part(self, owner: Any, field: str, place: Any, a: Any, b: Any) -> bool:
        if not isinstance(a, ast.AST):
            return type(a) is type(b) and a == b and repr(a) == repr(b)
        if type(a) is type(b) and (self._outside(a, b) or self._compare(a, b)):
            return True
        if not _can_choose(owner, field, a) or not _can_choose(owner, field, b):
            return False
        self.found.append(Change(owner, field, place, 0, b, False, self.scope))
        return True

    def _blocks(self, owner: Any, field: str, a: list[Any], b: list[Any], place: int = 0) -> None:
        """Two blocks of statements, the first from a place on: what they begin and end with alike
        is left alone.
        """
        room, start, tail = min(len(a), len(b)), 0, 0
        while start < room and self._same(a[start], b[start]):
            start += 1
        while tail < room - start and self._same(a[-1 - tail], b[-1 - tail]):
            tail += 1
        old, new = a[start : len(a) - tail], b[start : len(b) - tail]
        if not old and not new:
            return
        if len(old) == len(new) == 1 and self._compare(old[0], new[0]):
            return
        place += start
        moved = self._moved(old, new)
        if moved is None:
            self._block(owner, field, place, place + len(old), new)
            return
        gone, ahead, statement = moved  # one statement at another place: out there, in here
        self._block(owner, field, place + gone, place + gone + 1, [])
        self._block(owner, field, place + ahead, place + ahead, [statement])

    def _moved(self, old: list[Any], new: list[Any]) -> Any:
        """Whether one statement stands elsewhere: ``(place, new place, statement)``, else None."""
        if len(old) != len(new) or len(old) < 2:
            return None
        if self._same(old[0], new[-1]) and all(map(self._same, old[1:], new[:-1])):
            return 0, len(old), old[0]
        if self._same(old[-1], new[0]) and all(map(self._same, old[:-1], new[1:])):
            return len(old) - 1, 0, old[-1]
        return None

    def _same(self, old: Any, new: Any) -> bool:
        """Whether two statements have the same text, and so are the same."""
        if type(old) is not type(new) or old.end_lineno - old.lineno != new.end_lineno - new.lineno:
            return False
        at = first_line(new) - self.text.read[0]
        end = new.end_lineno - self.text.read[0] + 1
        return (old.col_offset, old.end_col_offset) == (
            new.col_offset,
            new.end_col_offset,
        ) and self.text.lines[first_line(old) - 1 : old.end_lineno] == self.text.read[1][at:end]

    def _outside(self, old: Any, new: Any) -> bool:
        """Whether a node lies outside of the edit, with its twin in the same place.

        The same characters, read as one node, are the same node.
        """
        end = getattr(old, "end_lineno", None)
        if not self.placed or end is None or getattr(new, "end_lineno", None) is None:
            return False
        if end < self.first or (end == self.first and self.plain and self._ahead(old)):
            return bool(self._at(new) == self._at(old))
        line, column, end, end_column = self._at(old)
        if line > self.last:
            moved = (line + self.lines, column, end + self.lines, end_column)
            return bool(self._at(new) == moved)
        if self.plain and not self.lines and line == end == self.last == self.first:
            if column > self.stop - self.text.starts[line - 1]:
                return bool(self._at(new) == (line, column + self.by, end, end_column + self.by))
        return False

    def _ahead(self, old: Any) -> bool:
        return bool(old.end_col_offset < self.start - self.text.starts[self.first - 1])

    @staticmethod
    def _at(node: Any) -> tuple[int, int, int, int]:
        return node.lineno, node.col_offset, node.end_lineno, node.end_col_offset


_NO_CHOICE = (ast.Starred, ast.Slice, ast.JoinedStr, ast.FormattedValue)
_PATTERN = getattr(ast, "pattern", ())


def _can_choose(owner: Any, field: str, node: Any) -> bool:
    """Whether an expression may stand in a choice between two, where this one stands."""
    if not isinstance(node, ast.expr) or isinstance(owner, _PATTERN):
        return False
    if not isinstance(getattr(node, "ctx", _LOAD), ast.Load):
        return False
    if isinstance(node, ast.JoinedStr):
        return not isinstance(owner, (ast.JoinedStr, ast.FormattedValue))
    if isinstance(node, _NO_CHOICE):
        return False
    if isinstance(owner, (ast.JoinedStr, ast.FormattedValue)):
        return field == "value"
    return not (isinstance(node, ast.Tuple) and any(isinstance(e, ast.Slice) for e in node.elts))


_LOAD = ast.Load()
