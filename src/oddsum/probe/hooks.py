"""The hooks that run at nearly every step: closures over what they need, as short as can be."""

from __future__ import annotations

from itertools import chain, islice

from .held import SHORT
from .scan import CONTAINERS
from .summary import QUICK, SCALAR, summarise

TYPE_CHECKING = False  # importing typing would cost every run some milliseconds
if TYPE_CHECKING:
    from collections.abc import Iterable, Iterator
    from typing import Any

CHUNK = 16_384  # operands and tags
ROUNDS = 2_000  # of a loop between two looks at how long the log is


def fast_hooks(recorder: Any) -> dict[str, Any]:
    """Return the hooks that run at nearly every step, as closures over what they need."""
    log, keep, flush = recorder.log, recorder.keep, recorder.flush
    append, extend, stack = log.append, log.extend, recorder.stack
    quick, short, release = QUICK - {complex}, SHORT, recorder.holdings.release

    def call(statement: int, *slots_and_values: Any) -> None:
        recorder.calls = number = recorder.calls + 1
        tag = log[-1] if log else None
        if type(tag) is not int or tag < 0:  # no visit stands last: look further back
            tag = recorder.current_statement()
        stack.append(({}, tag, number))
        extend((statement, number, "call"))
        pairs = iter(slots_and_values)
        for slot, value in zip(pairs, pairs):
            kind = type(value)
            if kind in quick or (kind is str and len(value) <= short):
                extend((value, slot))
            else:
                keep(~slot, value)
        if len(log) > CHUNK:
            flush()

    def returned(value: Any) -> Any:
        kind = type(value)
        if kind in quick or (kind is str and len(value) <= short):
            extend((value, "r"))
        else:
            extend((plain_value(value), "r"))
        if stack:
            holds, caller, _ = stack.pop()
            if holds:
                release(holds.values())
            if caller is not None:
                extend((caller, "back"))
        return value

    return {
        "v": append,
        "x": extend,
        "call": call,
        "r": returned,
        "a": recorder.holdings.appended,
        **_binding_hooks(recorder),
        **_condition_hooks(recorder),
    }


def _binding_hooks(recorder: Any) -> dict[str, Any]:
    """The hooks after a binding; ``bn`` and ``gn`` note the visit that follows as well."""
    extend, keep, drop = recorder.log.extend, recorder.keep, recorder.drop
    append, stack, module_holds = recorder.log.append, recorder.stack, recorder.module_holds
    quick, short = QUICK - {complex}, SHORT

    def bind(slot: int, value: Any) -> None:
        kind = type(value)
        if kind in quick or (kind is str and len(value) <= short):
            if stack and stack[-1][0]:
                drop(~slot)
            extend((value, slot))
        else:
            keep(~slot, value)

    def bind_and_visit(slot: int, value: Any, following: int) -> None:
        kind = type(value)
        if kind in quick or (kind is str and len(value) <= short):
            if stack and stack[-1][0]:
                drop(~slot)
            extend((value, slot, following))
        else:
            keep(~slot, value)
            append(following)

    def bind_in_module(slot: int, value: Any) -> None:
        kind = type(value)
        if kind in quick or (kind is str and len(value) <= short):
            if module_holds:
                drop(~slot)
            extend((value, slot))
        else:
            keep(~slot, value)

    def bind_in_module_and_visit(slot: int, value: Any, following: int) -> None:
        kind = type(value)
        if kind in quick or (kind is str and len(value) <= short):
            if module_holds:
                drop(~slot)
            extend((value, slot, following))
        else:
            keep(~slot, value)
            append(following)

    return {"b": bind, "g": bind_in_module, "bn": bind_and_visit, "gn": bind_in_module_and_visit}


def _condition_hooks(recorder: Any) -> dict[str, Any]:
    log, flush, look_again = recorder.log, recorder.flush, recorder.look_again
    append, extend = log.append, log.extend

    def goes_round(noted: tuple[Any, ...]) -> bool:
        extend(noted)
        if len(log) > CHUNK:
            flush()
        return True

    def outcome_and_changes(value: object) -> bool:
        look_again()
        if value:
            append(True)
            return True
        append(False)
        return False

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
                flush()
            yield (first,)
            yield islice(items, ROUNDS)

    def _one_by_one(statement: int, items: Iterable[Any]) -> Iterator[Any]:
        for item in items:
            if len(log) > CHUNK:
                flush()
            yield item
            extend((statement, "n"))

    return {"w": goes_round, "cm": outcome_and_changes, "f": rounds}


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
