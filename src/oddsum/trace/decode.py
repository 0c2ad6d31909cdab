"""From the probe's log to numbered steps: see the table in ``probe/record.py``."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Any

from oddsum.model.column import Column
from oddsum.model.trace import Statement
from oddsum.run.messages import Message
from oddsum.run.wire import OPERANDS
from oddsum.trace.keep import Keeper
from oddsum.trace.nodes import Node
from oddsum.trace.objects import Life
from oddsum.trace.store import CONDITION, EVENTS, HELD, Steps, object_ref

MODULE = 0  # the number of the frame that stands for the module
MOST_KEPT = 1_000_000  # steps of one recording; of a longer one the first and the last are kept
_NO_VARIABLES = {"function", "type", "module", "builtin_function_or_method"}
_BIT = {name: 1 << n for n, name in enumerate(EVENTS)}
_Frames = list[tuple[int, str]]  # of (frame number, function), innermost last
_GOES_ON = frozenset({"p", "h", "back", "t", "k", "new"})


class Decoder:
    """Takes the probe's messages as they come; ``finish`` gives the steps.

    ``unpack`` is the language's, for logs that are packed.
    """

    def __init__(
        self,
        most: int = MOST_KEPT,
        watches: Sequence[str] = (),
        unpack: Callable[[bytes], list[Any]] | None = None,
    ) -> None:
        self._unpack = unpack
        self._keeper = Keeper(most)
        self._watches = watches
        self._statements: list[Statement] = []
        self._slots: dict[int, tuple[str, int, bool]] = {}  # function, column, in_module
        self._lasting: set[int] = set()  # calls whose names functions made in them can still see
        self._bases: dict[str, tuple[str, ...]] = {}  # of the program's classes
        self._columns: dict[Column, int] = {}
        self._homes: dict[str, str] = {}  # of each file
        self._closures: dict[int, dict[str, int]] = {}  # by the number of a call
        self._visits: dict[int, int] = {}
        self._stack: _Frames = []
        self._functions: dict[int, str] = {}  # of frames that may go on later
        self._rounds: dict[tuple[int, int], int] = {}  # (frame, statement)
        self._asked: set[tuple[int, int]] = set()  # loops whose header has been visited already
        self._showing: dict[int, list[tuple[int, int]]] = {}  # object to the names that hold it
        self._threads: dict[str, int] = {"": 0}
        self._thread = 0
        self._stacks: dict[int, _Frames] = {0: self._stack}
        self._before = ""  # printed before the first step
        self._left = -1  # the statement whose call was left by an exception just now
        self.part_rows: list[list[Any]] = []
        self.parts: list[tuple[int, int, Node]] = []  # of a line: step, number and value
        self._take: dict[str, Callable[..., None]] = {
            tag: getattr(self, "_on_" + tag) for tag in OPERANDS
        }

    @property
    def count(self) -> int:
        """How many steps there are so far."""
        return self._keeper.count

    @property
    def left_out(self) -> tuple[int, int] | None:
        """The first and the last of the steps that were let go."""
        return self._keeper.left_out

    def take(self, message: Message) -> None:
        """Take one message; those that are no part of a recording are passed over."""
        kind = message["k"]
        if kind == "statements":
            self._statements += [Statement(*row) for row in message["rows"]]
            if message.get("home"):
                self._homes.update((row[0], message["home"]) for row in message["rows"][:1])
        elif kind == "slots":
            for slot, (function, name, in_module) in enumerate(message["rows"], message["base"]):
                column = Column(function, name, shared=bool(in_module and function))
                number = self._number_of(column)
                self._slots[slot] = (function, number, bool(in_module))
        elif kind == "class":
            self._bases[message["title"]] = tuple(message["bases"])
        elif kind == "parts":
            self.part_rows = message["rows"]
        elif kind == "log":
            self._events(self._log_of(message))

    def _log_of(self, message: Message) -> list[Any]:
        if "data" not in message:
            return list(message["events"])
        assert self._unpack is not None
        return self._unpack(message["data"])

    def finish(self) -> Steps:
        """Return all steps, numbered from 1."""
        return Steps(
            self._keeper.finish(), self._statements, tuple(self._columns), tuple(self._threads),
            self._homes, self._closures, self._bases,
        )  # fmt: skip

    def _number_of(self, column: Column) -> int:
        return self._columns.setdefault(column, len(self._columns))

    # -- events ----------------------------------------------------------------------------

    def _events(self, log: list[Any]) -> None:
        visits, begin, take = self._visits, self._keeper.begin, self._take
        for at in _tags(log):
            tag = log[at]
            kind = type(tag)
            if kind is int:
                if tag >= 0:
                    self._left = -1
                    visits[tag] = visit = visits.get(tag, 0) + 1
                    stack = self._stack
                    begin(tag, len(stack), stack[-1][0] if stack else MODULE, visit, self._thread)
                    if self._before:
                        self._print_before()
                else:
                    if self._left >= 0:
                        self._caught()
                    self._bind(~tag, log[at - 1])
            elif kind is bool:
                if self._left >= 0:
                    self._caught()
                self._keeper.flag(CONDITION | HELD if tag else CONDITION)
            else:
                if self._left >= 0 and tag not in _GOES_ON:
                    self._caught()
                take[tag](*log[at - OPERANDS[tag] : at])

    def _caught(self) -> None:
        """An exception that left a call was dealt with by what is not the program's own, as when a
        loop asks for one more item: the statement that called goes on."""
        left, self._left = self._left, -1
        self._begin(left, _BIT["back"])

    def _begin(self, statement: int, flag: int = 0, visit: int = 0) -> None:
        """A new step: a call, a caller that goes on, or a visit that is not noted by itself."""
        stack = self._stack
        frame = stack[-1][0] if stack else MODULE
        self._keeper.begin(statement, len(stack), frame, visit, self._thread)
        self._keeper.flag(flag)
        if self._before:
            self._print_before()

    def _visit(self, statement: int) -> None:
        self._visits[statement] = visit = self._visits.get(statement, 0) + 1
        self._begin(statement, visit=visit)

    def _print_before(self) -> None:
        self._keeper.print(self._before)
        self._before = ""

    def _on_call(self, statement: int, number: int) -> None:
        function = self._statements[statement].function
        self._functions[number] = function
        self._stack.append((number, function))
        self._begin(statement, _BIT["call"])

    def _on_back(self, statement: int) -> None:
        self._left = -1
        self._begin(statement, _BIT["back"])

    def _on_z(self, statement: int, number: int) -> None:
        self._stack.append((number, self._statements[statement].function))
        self._begin(statement, _BIT["back"])

    def _on_r(self, value: Any) -> None:
        self._keeper.flag(_BIT["return"])
        self._keeper.give(value)
        if self._stack:
            self._over()

    def _on_rl(self, value: Any) -> None:
        self._keeper.flag(_BIT["return"])
        self._keeper.give(value)

    def _on_l(self) -> None:
        if self._stack:
            self._over()

    def _on_y(self, value: Any) -> None:
        self._keeper.give(value)
        if self._stack:
            self._stack.pop()

    def _on_p(self, caller: int) -> None:
        """An exception left a call; whether it is caught, and by whom, follows."""
        self._left = caller
        if self._stack:
            self._over()

    def _over(self) -> None:
        """The innermost call is over."""
        self._forget(self._stack.pop()[0])

    def _on_cells(self) -> None:
        self._lasting.add(self._frame())

    def _on_c(self, numbers: list[int]) -> None:
        around = {self._functions[n]: n for n in numbers if n in self._functions}
        for number in numbers:
            around = {**self._closures.get(number, {}), **around}
        self._closures[self._frame()] = around

    def _on_h(self, depth: int) -> None:
        self._left = -1
        while len(self._stack) > depth:
            self._over()

    def _on_t(self, thread: int, name: str) -> None:
        """Another thread goes on."""
        self._thread = self._threads.setdefault(name, min(255, len(self._threads)))
        self._stack = self._stacks.setdefault(thread, [])
        self._left = -1

    def _on_k(self, numbers: list[int], task: str) -> None:
        """Another coroutine goes on: these calls are under way, innermost last."""
        self._thread = self._threads.setdefault(task, min(255, len(self._threads)))
        self._left = -1
        self._stack[:] = [(n, self._functions.get(n, "")) for n in numbers]

    def _on_x(self, kind: str, text: str) -> None:
        self._keeper.flag(_BIT["raise"])
        self._keeper.give([kind, f"{kind}: {text}" if text else kind, None, True])

    def _on_i(self, text: str) -> None:
        self._keeper.flag(_BIT["input"])
        self._keeper.give(text)

    def _on_o(self, text: str) -> None:
        if self._keeper.count:
            self._keeper.print(text)
        else:
            self._before += text

    def _on_s(self, statement: int) -> None:
        key = self._frame(), statement
        self._rounds[key] = 0
        self._asked.add(key)

    def _on_n(self, statement: int) -> None:
        self._visit(statement)
        self._asked.add((self._frame(), statement))

    def _on_f(self, statement: int) -> None:
        key = self._header(statement)
        self._rounds[key] = made = self._rounds.get(key, 0) + 1
        self._keeper.round(made)

    def _on_e(self, statement: int) -> None:
        self._rounds.pop(self._header(statement), None)
        self._keeper.round(0)

    def _header(self, statement: int) -> tuple[int, int]:
        """Visit a loop's header, where nobody said that it was visited already."""
        key = self._frame(), statement
        if key in self._asked:
            self._asked.discard(key)
        else:
            self._visit(statement)
        return key

    def _on_w(self, watch: int, value: Any) -> None:
        column = self._number_of(Column("", watch_column(self._watches[watch]), watched=True))
        self._keeper.change(column, MODULE, self._keeper.add_value(value))

    def _on_part(self, number: int, value: Any) -> None:
        self.parts.append((self._keeper.count, number, value))

    # -- names and objects -------------------------------------------------------------------

    def _frame(self) -> int:
        return self._stack[-1][0] if self._stack else MODULE

    def _frame_of(self, function: str) -> int:
        """The call of a function whose name this is, seen from the innermost one."""
        around = self._closures.get(self._frame(), {})
        if function in around:
            return around[function]
        for number, title in reversed(self._stack):
            if title == function:
                return number
        return self._frame()

    def _bind(self, slot: int, value: Any) -> None:
        function, column, in_module = self._slots[slot]
        frame = MODULE
        if not in_module:
            stack = self._stack
            same = stack and stack[-1][1] == function
            frame = stack[-1][0] if same else self._frame_of(function)
        if type(value) is tuple and len(value) == 1:
            number = value[0]
            self._hold(frame, column, number)
            life = self._keeper.lives.get(number)
            if life is not None:
                self._keeper.change(column, frame, object_ref(number, life.last))
            return
        if self._showing:
            self._let_go(frame, column)
        if type(value) is list and value[0] in _NO_VARIABLES and self._is_import():
            return
        self._keeper.change_to(column, frame, value)

    def _is_import(self) -> bool:
        statement = self._keeper.statement()
        return statement >= 0 and self._statements[statement].kind == "importfrom"

    def _hold(self, frame: int, column: int, number: int) -> None:
        self._let_go(frame, column)
        self._showing.setdefault(number, []).append((frame, column))
        self._keeper.held[frame, column] = number

    def _let_go(self, frame: int, column: int) -> None:
        number = self._keeper.held.pop((frame, column), None)
        if number is None:
            return
        names = self._showing[number]
        names.remove((frame, column))
        if not names:
            del self._showing[number]

    def _forget(self, frame: int) -> None:
        """A call is over: its names are gone, without anything to ink."""
        if frame in self._lasting:
            return
        self._functions.pop(frame, None)
        for key in self._keeper.names_of(frame):
            self._let_go(*key)
        self._keeper.forget(frame)

    def _on_u(self, slot: int) -> None:
        function, column, in_module = self._slots[slot]
        frame = MODULE if in_module else self._frame_of(function)
        self._let_go(frame, column)
        self._keeper.remove(column, frame)

    def _on_new(self, number: int, node: Node) -> None:
        self._keeper.lives[number] = Life(node)

    def _on_all(self, number: int, node: Node) -> None:
        self._changed(number, ("all", node))

    def _on_set(self, number: int, path: tuple[Any, ...], key: Any, value: Any) -> None:
        self._changed(number, ("set", path, key, value))

    def _on_add(self, number: int, path: tuple[Any, ...], value: Any) -> None:
        self._changed(number, ("add", path, value))

    def _on_drop(self, number: int, path: tuple[Any, ...], place: int) -> None:
        self._changed(number, ("drop", path, place))

    def _changed(self, number: int, change: tuple[Any, ...]) -> None:
        life = self._keeper.lives.get(number)
        if life is None or not life.put(change):
            return
        ref = object_ref(number, life.last)
        for frame, column in self._showing.get(number, ()):
            self._keeper.change(column, frame, ref)


def watch_column(text: str) -> str:
    """What the column of a watched expression is called."""
    return f"[{text.strip()}]"


def _tags(log: list[Any]) -> list[int]:
    """Where the tags of a flat log are, in order; it can be read from its end only."""
    found: list[int] = []
    at = len(log) - 1
    add = found.append
    while at >= 0:
        tag = log[at]
        add(at)
        kind = type(tag)
        if kind is int:
            at -= 1 if tag >= 0 else 2
        elif kind is bool:
            at -= 1
        else:
            at -= 1 + OPERANDS[tag]
    found.reverse()
    return found
