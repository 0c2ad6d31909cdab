"""How calls are left and gone on with: returns, exceptions, generators, coroutines.

The recorder has the list of the calls under way; what happens to it at a call's end is here.
"""

from __future__ import annotations

import builtins
import sys

from .delegating import Delegate
from .guards import Cut
from .hooks import plain_value

TYPE_CHECKING = False  # importing typing would cost every run some milliseconds
if TYPE_CHECKING:
    from typing import Any

_MOST_HANDLED = 1_000


class Calls:
    """The hooks around the end of a call."""

    def __init__(self, recorder: Any) -> None:
        self.recorder = recorder
        self.suspended: dict[int, Any] = {}  # by a generator's frame: its call, and where it waits
        self.thrown: set[int] = set()  # frames of generators that an exception woke
        self.handled: set[int] = set()  # exceptions that were caught, by id
        self.cells: dict[int, int] = {}  # of a call that functions were made in, by id: its number
        self.left_by_error = False  # a function is being left so: ``on_l`` follows, if it has one

    def on_oc(self, look: Any) -> None:
        """Functions will be made in this call that see some of its names."""
        if self.recorder.stack and look.__closure__:
            number = self.recorder.stack[-1][2]
            self.cells.update((id(cell), number) for cell in look.__closure__)
            self.recorder.log.append("cells")

    def on_of(self, look: Any, slots: dict[str, int]) -> None:
        """This call sees names of others: whose, and what they hold now."""
        cells = dict(zip(look.__code__.co_freevars, look.__closure__ or ()))
        owners = {self.cells[id(cell)] for cell in cells.values() if id(cell) in self.cells}
        if not owners or not self.recorder.stack:
            return
        self.recorder.log.extend((sorted(owners), "c"))
        for name, cell in cells.items():
            try:
                self.recorder.on_n(~slots[name], cell.cell_contents)
            except ValueError:
                continue  # it has no value yet

    def on_rm(self, value: Any) -> Any:
        self.recorder.look_again()
        return getattr(builtins, "≠r")(value)

    def on_rl(self, value: Any) -> Any:
        self.recorder.log.extend((plain_value(value), "rl"))
        return value

    def on_rlm(self, value: Any) -> Any:
        self.recorder.look_again()
        return self.on_rl(value)

    def on_l(self) -> None:
        """A function is left, and what stood behind its ``return`` is done."""
        if self.left_by_error:
            self.left_by_error = False
            return
        holds, caller, _ = self.recorder.stack.pop() if self.recorder.stack else (None, None, 0)
        self.recorder.log.append("l")
        if caller is not None:
            self.recorder.log.extend((caller, "back"))
        if holds:
            self.recorder.holdings.release(holds.values())

    def _leave(self, letter: str, value: Any) -> None:
        """A function gives control back: its caller, where it is one of ours, goes on."""
        self.recorder.log.extend((plain_value(value), letter))
        caller = self.recorder.stack.pop()[1] if self.recorder.stack else None
        if caller is not None:
            self.recorder.log.extend((caller, "back"))

    def _left(self) -> None:
        """An exception left a call: its caller goes on, where nobody of the program catches it."""
        caller = self.recorder.stack[-1][1] if self.recorder.stack else None
        if self.recorder.stack:
            self.recorder.gone(-1)
        self.recorder.log.extend((-1 if caller is None else caller, "p"))

    def on_e(self, followed: bool = False) -> None:
        error = sys.exc_info()[1]
        self.left_by_error = followed
        if isinstance(error, (GeneratorExit, Cut)):
            known = id(self.recorder.frame_here())
            asleep = self.suspended.pop(known, None) is not None
            if not asleep and known in self.thrown and self.recorder.stack:
                self._left()
            self.thrown.discard(known)
            return  # a generator that is thrown away: most had stepped out already
        self.wake()
        if self.recorder.coroutines.records:
            self.recorder.coroutines.resume(self.recorder.frame_here())
        self.recorder.raised(error)
        self._left()

    def on_zf(self) -> None:
        """A ``finally`` begins: an exception that is on its way was raised before it."""
        self.wake()
        error = sys.exc_info()[1]
        if (
            error is not None
            and not isinstance(error, GeneratorExit)
            and (id(error) not in self.handled)
        ):
            self.recorder.raised(error)

    def wake(self) -> None:
        """A generator may go on because an exception was thrown into it, or it was closed."""
        if self.suspended:
            known = id(self.recorder.frame_here())
            kept = self.suspended.pop(known, None)
            if kept is not None:
                self.thrown.add(known)
                self._go_on(*kept)

    def on_h(self) -> None:
        self.wake()
        error = sys.exc_info()[1]
        self.recorder.raised(error)
        self.recorder.last_raised = (0, None, 0)
        if len(self.handled) > _MOST_HANDLED:
            self.handled.clear()
        self.handled.add(id(error))  # a function called from here sees it in its ``finally`` too
        if self.recorder.coroutines.records:
            self.recorder.coroutines.resume(self.recorder.frame_here())
            return
        depth = calls_under_way(self.recorder.frame_here(), self.recorder.is_call)
        self.recorder.gone(depth)
        self.recorder.log.extend((depth, "h"))

    def on_ac(self, *told: Any) -> None:
        frame = self.recorder.frame_here()
        first = self.recorder.coroutines.begin(frame)
        getattr(builtins, "≠call")(*told)
        self.recorder.coroutines.note(frame)
        if first:
            self.recorder.stack[-1][1] = None  # an event loop called it, not the statement before

    def on_aw(self, statement: int, value: Any) -> Any:
        if self.recorder.coroutines.resume(self.recorder.frame_here()):
            self.recorder.log.extend((statement, "back"))
        return value

    def on_y(self, statement: int, value: Any) -> Any:
        if self.recorder.stack:
            self.suspended[id(self.recorder.frame_here())] = (self.recorder.stack[-1], statement)
            self._leave("y", value)
        return value

    def on_yf(self, statement: int, items: Any) -> Any:
        return Delegate(self, statement, items)

    def on_z(self, statement: Any, sent: Any) -> Any:
        kept = self.suspended.pop(id(self.recorder.frame_here()), None)
        self._go_on(kept[0] if kept is not None else [None, None, 0], statement)
        return sent

    def _go_on(self, call: list[Any], statement: int) -> None:
        """The call of a generator is under way again, at its ``yield``."""
        self.recorder.stack.append([call[0], self.recorder.current_statement(), call[2]])
        self.recorder.log.extend((statement, call[2], "z"))


def calls_under_way(frame: Any, is_call: Any) -> int:
    """Count the calls of the learner's functions under way, from the interpreter's frames."""
    depth = 0
    while frame is not None:
        depth += is_call(frame.f_code)
        frame = frame.f_back
    return depth
