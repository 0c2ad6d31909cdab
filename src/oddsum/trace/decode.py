"""From the probe's log to numbered steps: see the table in ``probe/record.py``."""

from __future__ import annotations

from typing import Any

from oddsum.model.trace import Change, Event, Statement, Step, Value
from oddsum.run.process import OPERANDS, Message

MODULE = 0  # the number of the frame that stands for the module
_NO_VARIABLES = {"function", "type", "module", "builtin_function_or_method"}


class _Row:
    """A step that is still being filled."""

    __slots__ = ("changes", "condition", "depth", "events", "frame", "output", "round",
                 "statement", "value", "visit")  # fmt: skip

    def __init__(self, statement: Statement, depth: int, frame: int, visit: int | None) -> None:
        self.statement, self.depth, self.frame, self.visit = statement, depth, frame, visit
        self.events: list[Event] = []
        self.condition: bool | None = None
        self.round: int | None = None
        self.output: list[str] = []
        self.changes: dict[str, Change] = {}
        self.value: Value | None = None


class Decoder:
    """Takes the probe's messages as they come; ``finish`` gives the steps."""

    def __init__(self) -> None:
        self.steps: list[Step] = []
        self._statements: list[Statement] = []
        self._slots: list[tuple[str, str, bool]] = []
        self._visits: dict[int, int] = {}
        self._stack: list[tuple[int, str]] = []  # of (frame number, function)
        self._rounds: dict[tuple[int, Statement], int] = {}
        self._known: dict[tuple[int, str], Value] = {}
        self._row: _Row | None = None
        self._before = ""  # printed before the first step

    @property
    def count(self) -> int:
        """How many steps there are so far."""
        return len(self.steps) + (self._row is not None)

    def take(self, message: Message) -> None:
        """Take one message; those that are no part of a recording are passed over."""
        kind = message["k"]
        if kind == "statements":
            self._statements += [Statement(*row) for row in message["rows"]]
        elif kind == "slots":
            self._slots += [(f, n, bool(m)) for f, n, m in message["rows"]]
        elif kind == "log":
            for tag, operands in reversed(_events(message["events"])):
                self._event(tag, operands)

    def finish(self) -> tuple[Step, ...]:
        """Return all steps, numbered from 1."""
        self._close()
        return tuple(self.steps)

    def _event(self, tag: Any, operands: list[Any]) -> None:
        if type(tag) is bool:
            self._on_c(tag)
        elif type(tag) is not int:
            getattr(self, "_on_" + tag)(*operands)
        elif tag >= 0:
            self._visits[tag] = visit = self._visits.get(tag, 0) + 1
            self._begin(tag, visit)
        else:
            self._on_b(~tag, operands[0])

    def _begin(self, statement: int, visit: int | None, event: Event | None = None) -> None:
        self._close()
        frame = self._stack[-1][0] if self._stack else MODULE
        self._row = _Row(self._statements[statement], len(self._stack), frame, visit)
        if event is not None:
            self._row.events.append(event)
        if self._before:
            self._row.output.append(self._before)
            self._before = ""

    def _close(self) -> None:
        row = self._row
        if row is None:
            return
        self.steps.append(
            Step(
                number=len(self.steps) + 1,
                statement=row.statement,
                depth=row.depth,
                frame=row.frame,
                visit=row.visit,
                events=tuple(dict.fromkeys(row.events)),
                condition=row.condition,
                round=row.round,
                output="".join(row.output),
                changes=tuple(row.changes.values()),
                value=row.value,
            )
        )
        self._row = None

    # -- steps -----------------------------------------------------------------------------

    def _on_call(self, statement: int, number: int) -> None:
        self._stack.append((number, self._statements[statement].function))
        self._begin(statement, None, "call")

    def _on_back(self, statement: int) -> None:
        self._begin(statement, None, "back")

    def _on_z(self, statement: int, number: int) -> None:
        self._stack.append((number, self._statements[statement].function))
        self._begin(statement, None, "back")

    # -- what happened in a step -------------------------------------------------------------

    def _on_r(self, value: Any) -> None:
        if self._row is not None:
            self._row.events.append("return")
        self._on_y(value)

    def _on_y(self, value: Any) -> None:
        if self._row is not None:
            self._row.value = _value(value)
        self._on_p()

    def _on_p(self) -> None:
        if self._stack:
            self._stack.pop()

    def _on_h(self, depth: int) -> None:
        del self._stack[depth:]

    def _on_x(self, kind: str, text: str) -> None:
        if self._row is not None:
            self._row.events.append("raise")
            self._row.value = Value(kind, f"{kind}: {text}" if text else kind)

    def _on_i(self, text: str) -> None:
        if self._row is not None:
            self._row.events.append("input")
            self._row.value = _value(text)

    def _on_o(self, text: str) -> None:
        if self._row is None:
            self._before += text
        else:
            self._row.output.append(text)

    def _on_c(self, outcome: bool) -> None:
        if self._row is not None:
            self._row.condition = outcome

    def _on_s(self) -> None:
        if self._row is not None:
            self._rounds[self._row.frame, self._row.statement] = 0

    def _on_f(self) -> None:
        if self._row is not None:
            key = self._row.frame, self._row.statement
            self._rounds[key] = self._row.round = self._rounds.get(key, 0) + 1

    def _on_e(self) -> None:
        if self._row is not None:
            self._row.round = 0

    def _on_b(self, slot: int, value: Any) -> None:
        function, _, in_module = self._slots[slot]
        frame = MODULE if in_module else self._frame_of(function)
        self._change(slot, [frame], _value(value))

    def _on_m(self, slot: int, value: Any, depths: list[int]) -> None:
        frames = [self._stack[d - 1][0] if d else MODULE for d in depths if d <= len(self._stack)]
        self._change(slot, frames, _value(value))

    def _on_u(self, slot: int) -> None:
        function, _, in_module = self._slots[slot]
        self._change(slot, [MODULE if in_module else self._frame_of(function)], None)

    def _frame_of(self, function: str) -> int:
        for number, title in reversed(self._stack):
            if title == function:
                return number
        return self._stack[-1][0] if self._stack else MODULE

    def _change(self, slot: int, frames: list[int], after: Value | None) -> None:
        row = self._row
        if row is None or not frames:
            return
        function, name, _ = self._slots[slot]
        column = f"{function}.{name}" if function else name
        if after is not None and after.type in _NO_VARIABLES and row.statement.kind == "importfrom":
            return
        before = self._known.get((frames[0], column))
        for frame in frames:
            if after is None:
                self._known.pop((frame, column), None)
            else:
                self._known[frame, column] = after
        earlier = row.changes.get(column)
        if earlier is not None:
            before = earlier.before
        if before == after:
            row.changes.pop(column, None)
        else:
            row.changes[column] = Change(column, before, after)


def _events(log: list[Any]) -> list[tuple[Any, list[Any]]]:
    """Read a flat log from its end: (tag, operands) of each event, the last one first."""
    found, at = [], len(log) - 1
    while at >= 0:
        tag = log[at]
        count = OPERANDS[tag] if isinstance(tag, str) else int(type(tag) is int and tag < 0)
        found.append((tag, log[at - count : at]))
        at -= 1 + count
    return found


def _value(raw: Any) -> Value:
    """Turn a value of the wire into a Value: a plain scalar stands for itself."""
    if isinstance(raw, list):
        return Value(*raw)
    if isinstance(raw, str):
        return Value("str", repr(raw), len(raw))
    return Value(type(raw).__name__, repr(raw))
