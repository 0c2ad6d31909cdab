"""The hooks that run at nearly every step: closures over what they need, as short as can be."""

from __future__ import annotations

import builtins
from functools import partial
from itertools import chain, islice, repeat

from .held import SHORT
from .scan import CONTAINERS
from .summary import QUICK, SCALAR, summarise

TYPE_CHECKING = False  # importing typing would cost every run some milliseconds
if TYPE_CHECKING:
    from collections.abc import Iterable, Iterator
    from typing import Any

CHUNK = 16_384  # operands and tags
ROUNDS = 2_000  # of a loop between two looks at how long the log is
_PLAIN = QUICK - {complex}


def fast_hooks(recorder: Any) -> dict[str, Any]:
    """Return the hooks that run at nearly every step, as closures over what they need."""
    log = recorder.log
    return {
        "v": log.append,
        "x": log.extend,
        "t": type,
        "a": recorder.holdings.appended,
        "pf": partial(recorder.holdings.popped, place=0),
        "pl": partial(recorder.holdings.popped, place=-1),
        "s": recorder.holdings.item_set,
        "ss": recorder.holdings.row_set,
        "sa": recorder.holdings.attribute_set,
        "aa": recorder.holdings.appended_in,
        **_call_hooks(recorder),
        **_binding_hooks(recorder),
        **_condition_hooks(recorder),
    }


def _call_hooks(recorder: Any) -> dict[str, Any]:
    """At the start of a function, by how many parameters it has; and around what it returns."""
    log, flush, stack = recorder.log, recorder.flush, recorder.stack
    extend, push, pop = log.extend, recorder.stack.append, recorder.stack.pop
    current, release, bind = (
        recorder.current_statement,
        recorder.holdings.release,
        _binder(recorder),
    )
    plain, number = _PLAIN, 0

    def call_0(statement: int) -> None:
        nonlocal number
        number += 1
        tag = log[-1]
        if type(tag) is not int or tag < 0:  # no visit stands last: look further back
            tag = current()
        push([None, tag, number])
        extend((statement, number, "call"))
        if len(log) > CHUNK:
            flush()

    def call_1(statement: int, slot: int, value: Any) -> None:
        nonlocal number
        number += 1
        tag = log[-1]
        if type(tag) is not int or tag < 0:
            tag = current()
        push([None, tag, number])
        if type(value) in plain:
            extend((statement, number, "call", value, slot))
        else:
            extend((statement, number, "call"))
            bind((value, slot))
        if len(log) > CHUNK:
            flush()

    def call(statement: int, *slots_and_values: Any) -> None:
        call_0(statement)
        slots = iter(slots_and_values)
        for slot, value in zip(slots, slots):
            bind((value, slot))

    def returned(value: Any) -> Any:
        holds, caller, _ = pop() if stack else (None, None, 0)
        told = value
        if type(value) not in plain:
            told = plain_value(value)
        if caller is None:
            extend((told, "r"))
        else:
            extend((told, "r", caller, "back"))
        if holds:
            release(holds.values())
        return value

    return {"call0": call_0, "call1": call_1, "call": call, "r": returned}


def _binder(recorder: Any, careful: bool = True) -> Any:
    """What notes ``(value, ~slot)`` with any value, and the visit that may follow."""
    append, extend = recorder.log.append, recorder.log.extend
    keep, drop, plain, short = recorder.keep, recorder.drop, _PLAIN, SHORT

    def note(told: Any) -> None:
        value = told[0]
        if type(value) in plain or (type(value) is str and len(value) <= short):
            if careful:
                drop(~told[1])
            extend(told)
        else:
            keep(~told[1], value)
            if len(told) > 2:
                append(told[2])

    def note_text(told: Any) -> None:
        if len(told[0]) <= short:
            extend(told)
        else:
            note(told)

    return note if careful else note_text


class _ByType(dict):  # type: ignore[type-arg]
    """What notes a binding, by the type of the value; ``other`` for types it has no entry for."""

    def __init__(self, other: Any) -> None:
        super().__init__()
        self.other = other

    def guard(self, guarded: Any) -> None:
        """Wrap all that notes: the program has threads."""
        self.other = guarded(self.other)
        for kind, note in self.items():
            dict.__setitem__(self, kind, guarded(note))
        self.guarded = guarded

    def update(self, notes: Any) -> None:  # type: ignore[override]
        guarded = getattr(self, "guarded", None)
        for kind, note in notes.items():
            self[kind] = guarded(note) if guarded else note

    def __missing__(self, kind: Any) -> Any:
        return self.other


def _binding_hooks(recorder: Any) -> dict[str, Any]:
    """What notes a binding: ``≠b[≠t(value)]((value, ~slot, next visit))``.

    A plain number is noted by the log's own ``extend``, unless an object with others inside is
    held: whatever a name held is then let go at once, so that it ends when it would have ended.
    """
    extend, drop = recorder.log.extend, recorder.drop
    stack, module_holds, note = recorder.stack, recorder.module_holds, _binder(recorder)
    text = _binder(recorder, careful=False)

    def forget(told: Any) -> None:
        """A plain number, where a name of this call may have held an object."""
        if stack and stack[-1][0]:
            drop(~told[1])
        extend(told)

    def let_go_in_module(told: Any) -> None:
        if module_holds:
            drop(~told[1])
        extend(told)

    local, in_module = _ByType(note), _ByType(note)

    def watch(careful: bool) -> None:
        local.update(dict.fromkeys(_PLAIN, forget if careful else extend))
        in_module.update(dict.fromkeys(_PLAIN, let_go_in_module if careful else extend))
        local.update({str: note if careful else text})
        in_module.update({str: note if careful else text})

    watch(False)
    recorder.holdings.on_nested = watch
    return {"b": local, "g": in_module}


def _condition_hooks(recorder: Any) -> dict[str, Any]:
    log, look_again = recorder.log, recorder.look_again
    append, extend = log.append, log.extend

    def ticks() -> Iterator[Iterable[bool]]:
        """True for ever, at the speed of C, with a look at the log now and then."""
        while True:
            if len(log) > CHUNK:
                recorder.flush()
            yield repeat(True, ROUNDS)

    def outcome_and_changes(value: object) -> bool:
        look_again()
        if value:
            append(True)
            return True
        append(False)
        return False

    def changed(value: Any) -> Any:
        look_again()
        return value

    def rounds(statement: int, items: Iterable[Any], changes: bool) -> Iterable[Any]:
        if changes:
            look_again()
        extend((statement, "s"))
        return _in_chunks(items) if _runs_no_code(items) else _one_by_one(statement, items)

    def _in_chunks(items: Iterable[Any]) -> Iterator[Any]:
        """The items at the speed of C: the loop's body notes its rounds itself."""
        return chain.from_iterable(_chunks(iter(items)))

    def _chunks(items: Iterator[Any]) -> Iterator[Iterable[Any]]:
        for first in items:
            if len(log) > CHUNK:
                recorder.flush()
            yield (first,)
            yield islice(items, ROUNDS)

    def _one_by_one(statement: int, items: Iterable[Any]) -> Iterator[Any]:
        for item in items:
            if len(log) > CHUNK:
                recorder.flush()
            yield item
            if recorder.threads is None:
                extend((statement, "n"))
            else:
                getattr(builtins, "≠x")((statement, "n"))

    return {"w": chain.from_iterable(ticks()).__next__, "cm": outcome_and_changes, "cl": changed,
            "f": rounds}  # fmt: skip


_PLAIN_WALKS = frozenset({range, list, tuple, str, bytes, type(iter(())), type(iter([])),
                          type(iter(range(0))), type(reversed([])), type(iter(""))})  # fmt: skip


def _runs_no_code(items: Any) -> bool:
    """Whether asking for the next item cannot run code of the program's, nor fail."""
    if type(items) in _PLAIN_WALKS:
        return True
    if type(items) is enumerate or type(items) is zip:
        parts = items.__reduce__()[1]
        return all(_runs_no_code(p) for p in (parts[:1] if type(items) is enumerate else parts))
    return False


def plain_value(value: Any) -> Any:
    """Return a value as the log holds it: a plain scalar itself, else a row or a node."""
    kind = type(value)
    if kind in SCALAR and kind is not complex and (kind is not str or len(value) <= SHORT):
        return value
    if kind in CONTAINERS:
        from .scan import Scan

        return Scan(value).node
    return summarise(value).row()
