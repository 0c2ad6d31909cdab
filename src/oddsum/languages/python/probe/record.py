"""The recorder: what the woven calls do.

Everything is appended to one flat list, ``log``, and sent in chunks. An event is its operands and
then a tag that says what they are, so that the list can be read from its end: that is how the
statement that makes a call is found, without anybody having noted it. A visit is nothing but its
tag, appended by ``list.append`` itself: nothing in Python is cheaper.

=======================  ======================================================================
operands, tag            meaning
=======================  ======================================================================
``k`` (0 or more)        a visit of statement k: a new step
``value, ~slot``         a name was bound: a plain scalar stands for itself; a row for what is not
                         followed inside; a node; ``(number,)`` for an object: see ``scan.py``
``True`` ``False``       the outcome of a condition
``k, n, "call"``         a call begins: a new step; n numbers the call
``k, "back"``            its caller goes on: a new step
``n, name, "t"``         thread n goes on
``numbers, task, "k"``   a task goes on, with these calls under way
``k, n, "z"``            generator n goes on after its ``yield``: a new step
``n, node, "new"``       an object gets the number n
``n, node, "all"``       object n is now this
``n, path, key, v, "set"``  item or attribute ``key`` of what is at ``path`` in object n is now v
``n, path, v, "add"``    v was appended; ``n, path, place, "drop"``: the item at 0 or -1 is gone
``slot, "u"``            a name is gone
``k, "s"``               a ``for`` begins to go round, its header already visited
``k, "n"``               its header is visited, and asks for the next item
``k, "f"``               its next round, the header visited where no "n" or "s" said so; ``k, "e"``:
                         none is left
``value, "r"``           a function returned; ``"y"``: a generator yielded
``value, "rl"``          it will return this, once what follows in it has run; ``"l"``: it is left
``type, text, "x"``      an exception was raised
``k, "p"``              an exception left the function, which statement k had called (-1: none)
``"cells"``              names of this call can be seen by functions made in it
``numbers, "c"``         this call sees names of these other calls
``depth, "h"``           an exception was caught at this depth
``text, "i"``            input was read; ``"o"``: this was printed
=======================  ======================================================================
"""

from __future__ import annotations

import builtins
import sys

from .attributes import FIRST_SLOT, Attributes
from .calls import Calls, calls_under_way
from .guards import Cut, EndlessWatch
from .held import SHORT, Held, Holdings
from .hooks import fast_hooks
from .places import LOST, walked, worked_out
from .scan import CONTAINERS, Scan
from .summary import SCALAR, summarise
from .tasks import Coroutines, Threads
from .weave import HOOKS
from .wire import OPERANDS, pack

TYPE_CHECKING = False  # importing typing would cost every run some milliseconds
if TYPE_CHECKING:
    from collections.abc import Callable
    from typing import Any

    from .wire import Channel

    Request = dict[str, Any]

MOST_BYTES = 1_000_000_000  # sent: a long list that changes at every step may be written whole
_NEVER = (0, None, 0)
ENTRIES_A_STEP = 4  # counting entries is cheap; a step takes 2 to 5 of them
_BEGINNING = frozenset({"v", "call", "call0", "call1", "ac"})  # hooks that begin a step
_AT_STATEMENT = frozenset({"call", "back", "z", "s", "n", "f", "e"})
_IMMUTABLE = CONTAINERS - {list, dict, set}
_CHANGING = CONTAINERS | {bytearray}


class Recorder:
    """Records one program in one process. ``is_own`` knows the learner's files."""

    def __init__(
        self,
        channel: Channel,
        max_steps: float,
        is_own: Callable[[str], bool],
        log: list[Any] | None = None,
    ) -> None:
        self.channel, self.is_own = channel, is_own
        self.max_entries = ENTRIES_A_STEP * max_steps
        # Never empty: a call looks at what stands last.
        self.log: list[Any] = ["", "o"] if log is None else log
        self.entries, self.cut = 0, False
        self.last_statement: int | None = None
        self.last_raised: tuple[int, Any, int] = _NEVER  # of an exception: id, type, call
        self.holdings = Holdings(self.log)
        self.look_again = self.holdings.look_again
        self.module_holds: dict[int, Held] = {}
        self.stack: list[list[Any]] = []  # of [holds or None, caller's statement or None, number]
        self.resumed_at: int | None = None  # the statement a thread that goes on was at
        self.threads: Threads | None = None
        self.coroutines = Coroutines(self)
        self.at_end: Callable[[], None] = _nothing  # done when the program is over
        self.in_module: list[bool] = []  # for each slot, whether it lives in the module
        self.attributes = Attributes(self)
        self.calls = Calls(self)
        self.holdings.attributes = self.attributes

    # -- sending -----------------------------------------------------------------------------

    def install(self) -> None:
        """Put the hooks among the built-ins, under names no program can spell."""
        hooks = fast_hooks(self)
        for name in HOOKS:
            if name not in hooks:
                at = self if hasattr(self, "on_" + name) else self.calls
                hooks[name] = getattr(at, "on_" + name)
        for name, hook in hooks.items():
            setattr(builtins, "≠" + name, hook)

    def expect_threads(self) -> None:
        """From now on, say of every step which thread it is in."""
        if self.threads is not None:
            return
        self.threads = Threads(self)
        guarded = self.threads.guarded
        for name in HOOKS:
            if name in ("b", "g"):
                getattr(builtins, "≠" + name).guard(guarded)
            elif name not in ("t", "w"):
                hook = getattr(builtins, "≠" + name)
                setattr(builtins, "≠" + name, guarded(hook, name in _BEGINNING))
        for name in ("flush", "printed", "read"):
            setattr(self, name, guarded(getattr(self, name)))

    def add_module(self, weaver: Any, statement_base: int, slot_base: int) -> None:
        """Tell the tool what the numbers of a woven module mean."""
        self.channel.send(
            "statements", base=statement_base, rows=weaver.statements, home=weaver.prefix
        )
        self.channel.send("slots", base=slot_base, rows=weaver.slots)
        self.in_module += [row[2] for row in weaver.slots]
        self.attributes.add(weaver.slots, slot_base)

    def flush(self) -> None:
        """Send the log so far; cut the run where it has grown past its limit."""
        log = self.log
        if len(log) == 2:
            return
        self.last_statement = self.current_statement()
        self.entries += len(log)
        self.channel.send_log(pack(log, _sendable))
        log[:] = ["", "o"]
        too_long, too_large = self.entries > self.max_entries, self.channel.sent > MOST_BYTES
        if (too_long or too_large) and not self.cut:
            self.end("steps" if too_long else "size")

    def end(self, why: str) -> None:
        """End the recording here, and the program with it."""
        self.cut = True
        self.channel.send("cut", why=why)
        setattr(builtins, "≠w", lambda: True)  # what ticked ends with this exception
        raise Cut

    def end_soon(self) -> None:
        """End the recording at the next round of a ``while``, with all that was noted by then."""
        setattr(builtins, "≠w", self._end_here)

    def _end_here(self) -> None:
        EndlessWatch.stop()  # to pack what was noted may take longer than a loop is watched
        self.flush()
        self.end("steps")

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
            elif tag in _AT_STATEMENT:
                return int(log[at - OPERANDS[tag]])
            elif tag == "t":
                return self.resumed_at
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
        if error is None:
            return
        number = self.stack[-1][2] if self.stack else 0
        if not self._is_the_last(error, number):
            self.last_raised = id(error), type(error), number
            self.log.extend((type(error).__name__, _message(error), "x"))
            self.look_again()

    def _is_the_last(self, error: BaseException, number: int) -> bool:
        """Whether it is the exception that was noted last, on its way out.

        Held it would live too long, and an id comes again: one that begins in a later call, or
        right here in an earlier one, is another.
        """
        known, kind, before = self.last_raised
        begins = error.__traceback__ is not None and error.__traceback__.tb_next is None
        return (id(error), type(error)) == (known, kind) and (
            number == before or (number < before and not begins)
        )

    # -- names and objects -------------------------------------------------------------------

    def holds_of(self, slot: int) -> dict[int, Held]:
        """Return where the objects of this slot's scope are remembered."""
        if self.stack and slot < FIRST_SLOT and not self.in_module[slot]:
            top = self.stack[-1]
            if top[0] is None:
                top[0] = {}
            holds: dict[int, Held] = top[0]
            return holds
        return self.module_holds

    def keep(self, slot: int, value: Any) -> None:
        """Bind a name to anything that is no plain scalar."""
        holds = self.holds_of(slot)
        before = holds.pop(slot, None)
        held = self.holdings.by_id.get(id(value))
        if held is not None:  # as the objects of a loop, of which each is bound again and again
            held.count += 1
        else:
            kind = type(value)
            as_text = _AS_TEXT.get(kind)
            if as_text is None:
                as_text = _AS_TEXT[kind] = _is_sent_as_text(kind)
            if as_text:
                sent: Any = value if kind is str and len(value) <= SHORT else summarise(value).row()
            elif kind in _IMMUTABLE and (scan := Scan(value)).flat:
                sent = scan.node
            else:
                held = self.holdings.hold(value)
        if held is not None:
            holds[slot], sent = held, (held.number,)
            if before is held:  # as after +=, which changes a list in place, whoever else has it
                self.holdings.look(value)
        self.log.extend((sent, ~slot))
        if before is not None:
            self.holdings.let_go(before)

    # -- hooks -------------------------------------------------------------------------------

    def on_u(self, slot: int) -> None:
        self.drop(slot)
        self.log.extend((slot, "u"))

    def drop(self, slot: int) -> None:
        """A name no longer holds an object."""
        holds = self.module_holds
        if self.stack and slot < FIRST_SLOT and not self.in_module[slot]:
            holds = self.stack[-1][0]
        held = holds.pop(slot, None) if holds else None
        if held is not None:
            self.holdings.let_go(held)

    def on_n(self, slot: int, value: Any) -> Any:
        in_module = ~slot >= FIRST_SLOT or self.in_module[~slot]
        noting = getattr(builtins, "≠g" if in_module else "≠b")
        noting[type(value)]((value, slot))
        return value

    def on_m(self, *changed: object) -> None:
        if not (self.holdings.by_id or self.attributes):
            return
        if not changed:
            self.look_again()
        elif type(changed[0]) not in SCALAR:
            self.holdings.look(changed[0])

    def on_p(self, how: str, root: Any, *steps: Any) -> None:
        """A change in place of what ``steps`` lead to from an object: see ``places.py``."""
        if not self.holdings.by_id and how != "set":
            return
        through: list[Any] = []
        last = steps[-1] if how == "set" else None
        target = walked(root, steps[:-1] if how == "set" else steps, through)
        key = worked_out(last, through)
        if target is LOST or key is LOST or any(looked is target for looked in through):
            self.look_again()
        elif how == "add":
            self.holdings.appended(target)
        elif how != "set":
            self.holdings.popped(target, 0 if how == "first" else -1)
        elif type(last) is str and last[:1] == "≠":
            self.holdings.attribute_set(target, last[1:])
        else:
            self.holdings.item_set(target, key)

    def on_k(self, made: Any) -> None:
        """A class is made."""
        self.attributes.expect(made)

    def on_ks(self, key: Any, root: Any, *steps: Any) -> Any:
        """A list, at the end of these steps, is about to be sorted by a key."""
        if key is not None and self.holdings.by_id:
            target = walked(root, steps, [])
            if type(target) is list:
                self.holdings.emptied(target)
        return key

    def on_i(self, statement: Any) -> None:
        if self.coroutines.records:
            depth = calls_under_way(self.frame_here(), self.is_call)
            self.gone(depth)
            self.log.extend((depth, "h"))
        if self.current_statement() != statement:
            self.log.extend((statement, "back"))

    def gone(self, depth: int) -> None:
        """Forget the calls beyond a depth, and what their names held."""
        for holds, _, _ in self.stack[depth:]:
            if holds:
                self.holdings.release(holds.values())
        del self.stack[depth:]

    def is_call(self, code: Any) -> bool:
        """Whether a frame of this code is a call of one of the learner's functions."""
        named = code.co_name == "<lambda>" or not code.co_name.startswith("<")
        # A class body has no fast locals; functions do.
        return bool(self.is_own(code.co_filename) and named and code.co_flags & 2)

    def frame_here(self) -> Any:
        """The frame of the program that a hook was called from, which may itself be wrapped."""
        frame: Any = sys._getframe(2)
        while frame is not None and not self.is_own(frame.f_code.co_filename):
            frame = frame.f_back
        return frame


_AS_TEXT: dict[Any, bool] = {}  # by type: whether a value is sent as its text


def _is_sent_as_text(kind: Any) -> bool:
    return kind in SCALAR or (kind.__module__ == "builtins" and kind not in _CHANGING)


def _nothing() -> None:
    pass


def _message(error: BaseException) -> str:
    """Return an exception's text without running a ``__str__`` of the program's own."""
    if type(error).__str__ in (BaseException.__str__, KeyError.__str__, OSError.__str__):
        return str(error)
    if type(error).__module__ == "builtins":
        return str(error)
    return ", ".join(summarise(a).text for a in BaseException.__reduce__(error)[1])


def _sendable(part: Any) -> Any:
    """Return an operand as it is, an object that cannot be sent as a summary row."""
    return part if type(part) in (str, bool, float, int, list, tuple) else summarise(part).row()
