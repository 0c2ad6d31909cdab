"""The hooks that run at nearly every step: closures over what they need, as short as can be."""

from __future__ import annotations

from .summary import QUICK, summarise

TYPE_CHECKING = False  # importing typing would cost every run some milliseconds
if TYPE_CHECKING:
    from collections.abc import Iterable, Iterator
    from typing import Any

CHUNK = 16_384  # operands and tags
SHORT = 200  # characters of a text that goes into the log as it is


def fast_hooks(recorder: Any) -> dict[str, Any]:
    """Return the hooks that run at nearly every step, as closures over what they need."""
    log, keep, flush = recorder.log, recorder.keep, recorder.flush
    append, extend, stack = log.append, log.extend, recorder.stack
    module_holds, quick, short = recorder.module_holds, QUICK - {complex}, SHORT

    def bind(slot: int, value: Any) -> None:
        kind = type(value)
        if kind in quick or (kind is str and len(value) <= short):
            if stack and stack[-1][0]:
                stack[-1][0].pop(~slot, None)
            extend((value, slot))
        else:
            keep(~slot, value)

    def bind_in_module(slot: int, value: Any) -> None:
        kind = type(value)
        if kind in quick or (kind is str and len(value) <= short):
            if module_holds:
                module_holds.pop(~slot, None)
            extend((value, slot))
        else:
            keep(~slot, value)

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
        caller = stack.pop()[1] if stack else None
        if caller is not None:
            extend((caller, "back"))
        return value

    return {
        "v": append,
        "b": bind,
        "g": bind_in_module,
        "x": extend,
        "call": call,
        "r": returned,
        **_condition_hooks(recorder),
    }


def _condition_hooks(recorder: Any) -> dict[str, Any]:
    log, flush, look_again = recorder.log, recorder.flush, recorder.look_again
    append = log.append

    def outcome_in_loop(value: object) -> bool:
        if len(log) > CHUNK:
            flush()
        if value:
            append(True)
            return True
        append(False)
        return False

    def outcome_and_changes(value: object) -> bool:
        look_again()
        return outcome_in_loop(value)

    def rounds(statement: int, items: Iterable[Any], changes: bool) -> Iterator[Any]:
        if changes:
            look_again()
        append("s")
        for item in items:
            append("f")
            if len(log) > CHUNK:
                flush()
            yield item
            append(statement)
        append("e")

    return {"w": outcome_in_loop, "cm": outcome_and_changes, "f": rounds}


def plain_value(value: Any) -> Any:
    """Return a value as the log holds it: a plain scalar itself, else a summary row."""
    kind = type(value)
    if (kind in QUICK and kind is not complex) or (kind is str and len(value) <= SHORT):
        return value
    return summarise(value).row()
