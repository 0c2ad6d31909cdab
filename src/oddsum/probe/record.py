"""The recorder: what the woven calls do.

Everything is appended to one flat list, ``log``, and sent in chunks. An event is its operands and
then a tag that says what they are, so that the list can be read from its end: that is how the
statement that makes a call is found, without anybody having noted it. A visit is nothing but its
tag, appended by ``list.append`` itself: nothing in Python is cheaper.

====================  =========================================================================
operands, tag         meaning
====================  =========================================================================
``k`` (0 or more)     a visit of statement k: a new step
``value, ~slot``      a name was bound. A plain scalar stands for itself, else a summary row
``True`` ``False``    the outcome of a condition
``k, n, "call"``      a call begins: a new step; n numbers the call
``k, "back"``         its caller goes on: a new step
``k, n, "z"``         generator n goes on after its ``yield``: a new step
``slot, row, at, "m"``  an object was changed in place; ``at``: depths whose names show it
``slot, "u"``         a name is gone
``"s"``               a ``for`` begins to go round; ``"f"``: its next round; ``"e"``: none is left
``value, "r"``        a function returned; ``"y"``: a generator yielded
``type, text, "x"``   an exception was raised
``"p"``               an exception left the function
``depth, "h"``        an exception was caught at this depth
``text, "i"``         input was read; ``"o"``: this was printed
====================  =========================================================================

Of every container a name holds, the recorder remembers the last text. After a statement that can
have changed an object, those names are looked at again, and only theirs.
"""

from __future__ import annotations

import builtins
import sys

from .guards import Cut
from .hooks import fast_hooks, plain_value
from .summary import QUICK, summarise
from .weave import HOOKS
from .wire import OPERANDS

TYPE_CHECKING = False  # importing typing would cost every run some milliseconds
if TYPE_CHECKING:
    from collections.abc import Callable
    from typing import Any

    from .wire import Channel

    Request = dict[str, Any]

MOST_BYTES = 100_000_000  # sent: a long list that changes at every step is written every time
ENTRIES_A_STEP = 4  # counting entries is cheap; a step takes 2 to 5 of them


class _Hold:
    """A container that a name holds, with its last text."""

    __slots__ = ("flat", "object", "text")

    def __init__(self, value: Any, summary: Any) -> None:
        self.object, self.text, self.flat = value, summary.text, summary.flat


class Recorder:
    """Records one program in one process. ``is_own`` knows the learner's files."""

    def __init__(self, channel: Channel, max_steps: float, is_own: Callable[[str], bool]) -> None:
        self.channel, self.is_own = channel, is_own
        self.max_entries = ENTRIES_A_STEP * max_steps
        self.log: list[Any] = []
        self.entries, self.cut = 0, False
        self.calls = 0
        self.last_statement: int | None = None
        self.last_raised = 0
        self.module_holds: dict[int, _Hold] = {}
        self.stack: list[
            tuple[dict[int, _Hold], int | None, int]
        ] = []  # of (holds, caller's statement or None, call number)
        self.suspended: dict[int, Any] = {}
        self.in_module: list[bool] = []  # for each slot, whether it lives in the module

    # -- sending -----------------------------------------------------------------------------

    def install(self) -> None:
        """Put the hooks among the built-ins, under names no program can spell."""
        hooks = fast_hooks(self)
        hooks.update({h: getattr(self, "on_" + h) for h in HOOKS if h not in hooks})
        for name, hook in hooks.items():
            setattr(builtins, "≠" + name, hook)

    def add_module(self, weaver: Any, statement_base: int, slot_base: int) -> None:
        """Tell the tool what the numbers of a woven module mean."""
        self.channel.send("statements", base=statement_base, rows=weaver.statements)
        self.channel.send("slots", base=slot_base, rows=weaver.slots)
        self.in_module += [row[2] for row in weaver.slots]

    def flush(self) -> None:
        """Send the log so far; cut the run where it has grown past its limit."""
        log = self.log
        if not log:
            return
        self.last_statement = self.current_statement()
        self.entries += len(log)
        try:
            self.channel.send("log", events=log)
        except (TypeError, ValueError):  # an int with more digits than may become text
            self.channel.send("log", events=[_sendable(e) for e in log])
        log.clear()
        too_long, too_large = self.entries > self.max_entries, self.channel.sent > MOST_BYTES
        if (too_long or too_large) and not self.cut:
            self.cut = True
            self.channel.send("cut", why="steps" if too_long else "size")
            raise Cut

    def fresh_start(self) -> None:
        """A ``call`` case begins: what the probe evaluates has no statement that called it."""
        self.flush()
        self.last_statement = None

    def current_statement(self) -> int | None:
        """Return the number of the statement that runs, read off the end of the log."""
        log, at = self.log, len(self.log) - 1
        while at >= 0:
            tag = log[at]
            if type(tag) is int:
                if tag >= 0:
                    return tag
                at -= 2
            elif type(tag) is bool:
                at -= 1
            elif tag in ("call", "back", "z"):
                return int(log[at - OPERANDS[tag]])
            else:
                at -= 1 + OPERANDS[tag]
        return self.last_statement

    def printed(self, text: str) -> None:
        """Note output; called by the stream that stands for ``sys.stdout``."""
        self.log.extend((text, "o"))

    def read(self, text: str) -> None:
        """Note an answer that was read."""
        self.log.extend((text, "i"))

    def raised(self, error: BaseException | None) -> None:
        """Note an exception once, however many functions it leaves.

        The statement that raised it may have changed something before: a sort that met two items it
        cannot compare leaves the list half sorted.
        """
        if error is not None and id(error) != self.last_raised:
            self.last_raised = id(error)
            self.log.extend((type(error).__name__, _message(error), "x"))
            self.look_again()

    # -- names and objects -------------------------------------------------------------------

    def holds_of(self, slot: int) -> dict[int, _Hold]:
        """Return where the containers of this slot's scope are remembered."""
        if self.stack and not self.in_module[slot]:
            return self.stack[-1][0]
        return self.module_holds

    def keep(self, slot: int, value: Any) -> None:
        """Bind a name to anything that is no plain scalar."""
        summary = summarise(value)
        holds = self.holds_of(slot)
        if type(value) in QUICK or type(value) is str:
            holds.pop(slot, None)
        else:
            holds[slot] = _Hold(value, summary)
        self.log.extend((summary.row(), ~slot))

    def look_again(self, changed: object = None) -> None:
        """Find every name whose object, or something inside it, is not as it was."""
        seen: dict[int, Any] = {}
        found: dict[Any, Any] = {}
        for depth, holds in enumerate([self.module_holds, *[s[0] for s in self.stack]]):
            for slot, hold in holds.items():
                if changed is not None and hold.flat and hold.object is not changed:
                    continue
                summary = seen.get(id(hold.object))
                if summary is None:
                    summary = seen[id(hold.object)] = summarise(hold.object)
                if summary.text != hold.text:
                    hold.text, hold.flat = summary.text, summary.flat
                    found.setdefault((slot, summary.text), (summary, []))[1].append(depth)
        for (slot, _), (summary, depths) in found.items():
            self.log.extend((slot, summary.row(), depths, "m"))

    # -- hooks -------------------------------------------------------------------------------

    def on_u(self, slot: int) -> None:
        self.holds_of(slot).pop(slot, None)
        self.log.extend((slot, "u"))

    def on_n(self, slot: int, value: Any) -> Any:
        getattr(builtins, "≠g" if self.in_module[~slot] else "≠b")(slot, value)
        return value

    def on_m(self, *changed: object) -> None:
        if not changed:
            if self.module_holds or self.stack:
                self.look_again()
        elif type(changed[0]) not in QUICK and type(changed[0]) is not str:
            self._changed(changed[0])

    def _changed(self, item: object) -> None:
        """Look again at the names of one object, which is what most changes in place come to."""
        summary: Any = None
        found: dict[int, list[int]] = {}
        for depth, holds in enumerate([self.module_holds, *[s[0] for s in self.stack]]):
            for slot, hold in holds.items():
                if hold.object is item:
                    summary = summary or summarise(item)
                    if summary.text != hold.text:
                        hold.text, hold.flat = summary.text, summary.flat
                        found.setdefault(slot, []).append(depth)
                elif not hold.flat:  # it may hold the object inside
                    self._tell_changed(found, summary)
                    self.look_again(item)
                    return
        self._tell_changed(found, summary)

    def _tell_changed(self, found: dict[int, list[int]], summary: Any) -> None:
        for slot, depths in found.items():
            self.log.extend((slot, summary.row(), depths, "m"))

    def on_i(self, statement: Any) -> None:
        if self.current_statement() != statement:
            self.log.extend((statement, "back"))

    def on_r(self, value: Any) -> Any:
        self._leave("r", value)
        return value

    def on_rm(self, value: Any) -> Any:
        self.look_again()
        self._leave("r", value)
        return value

    def _leave(self, letter: str, value: Any) -> None:
        """A function gives control back: its caller, where it is one of ours, goes on."""
        self.log.extend((plain_value(value), letter))
        caller = self.stack.pop()[1] if self.stack else None
        if caller is not None:
            self.log.extend((caller, "back"))

    def on_e(self) -> None:
        error = sys.exc_info()[1]
        if isinstance(error, (GeneratorExit, Cut)):
            return  # a generator that is thrown away: it had stepped out already
        self.raised(error)
        if self.stack:
            self.stack.pop()
        self.log.append("p")

    def on_h(self) -> None:
        self.raised(sys.exc_info()[1])
        self.last_raised = 0
        depth = self._real_depth(sys._getframe(1))
        del self.stack[depth:]
        self.log.extend((depth, "h"))

    def _real_depth(self, frame: Any) -> int:
        """Count the calls of the learner's functions under way, from the interpreter's frames."""
        depth = 0
        while frame is not None:
            code = frame.f_code
            named = code.co_name == "<lambda>" or not code.co_name.startswith("<")
            # A class body has no fast locals; functions do.
            depth += bool(self.is_own(code.co_filename) and named and code.co_flags & 2)
            frame = frame.f_back
        return depth

    def on_y(self, value: Any) -> Any:
        if self.stack:
            self.suspended[id(sys._getframe(1))] = self.stack[-1]
            self._leave("y", value)
        return value

    def on_z(self, statement: Any, sent: Any) -> Any:
        kept = self.suspended.pop(id(sys._getframe(1)), None)
        caller = self.current_statement()
        holds, _, number = kept if kept is not None else ({}, None, 0)
        self.stack.append((holds, caller, number))
        self.log.extend((statement, number, "z"))
        return sent


def _message(error: BaseException) -> str:
    """Return an exception's text without running a ``__str__`` of the program's own."""
    if type(error).__str__ in (BaseException.__str__, KeyError.__str__, OSError.__str__):
        return str(error)
    if type(error).__module__ == "builtins":
        return str(error)
    return ", ".join(summarise(a).text for a in BaseException.__reduce__(error)[1])


def _sendable(part: Any) -> Any:
    """Return an operand as it is, a very large int or any other object as a summary row."""
    if (type(part) is int and part.bit_length() <= 64) or type(part) in (str, bool, float, list):
        return part
    return None if part is None else summarise(part).row()
