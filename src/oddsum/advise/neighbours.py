"""Inputs close to those that are there: a case changed a little in one place."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from typing import Any

import msgspec

from oddsum.compare.numbers import finite_number, plain_number
from oddsum.languages.language import Asking
from oddsum.model.case import Case

_MOST_EACH = 40  # changes of one case
_LONGEST = 400  # characters of a case that is changed: of longer ones nobody works out the result


def neighbours(cases: Sequence[Case], asking: Asking) -> Iterator[Case]:
    """Cases with something else typed in or called, the shortest first; nothing is expected yet."""
    known = {(c.stdin, c.call) for c in cases}
    for case in sorted(cases, key=lambda c: len(c.call or c.stdin or "")):
        if case.files or len(case.call or case.stdin or "") > _LONGEST:
            continue
        changes = _calls(case, asking) if case.call is not None else _stdins(case)
        for changed, _ in zip(changes, range(_MOST_EACH), strict=False):
            key = changed.stdin, changed.call
            if key not in known:
                known.add(key)
                yield changed


def _bare(case: Case, **changed: Any) -> Case:
    return msgspec.structs.replace(
        case, stdout=None, returns=None, raises=None, exit=None, writes=None, check=None, note="",
        kind="boundary", **changed,
    )  # fmt: skip


def _stdins(case: Case) -> Iterator[Case]:
    lines = (case.stdin or "").split("\n")
    for at, line in enumerate(lines):
        for text in _texts(line):
            yield _bare(case, stdin="\n".join([*lines[:at], text, *lines[at + 1 :]]))
    for at in range(len(lines) - 1, 0, -1):
        if lines[at]:
            yield _bare(case, stdin="\n".join([*lines[: at + 1], lines[at], *lines[at + 1 :]]))


def _texts(line: str) -> Iterator[str]:
    number = finite_number(line)
    if number is not None:
        yield from (plain_number(n) for n in _numbers(number))
        return
    words = line.split()
    if len(words) > 1:
        yield " ".join(words[:-1])
        yield " ".join(reversed(words))
        yield " ".join([*words, words[0]])


def _numbers(number: float) -> Iterator[float]:
    yield from (number + 1, number - 1, number * 2, 0, number + 10)


def _calls(case: Case, asking: Asking) -> Iterator[Case]:
    call = asking.call_of(case.call or "")
    for at, argument in enumerate(call.arguments if call is not None else ()):
        try:
            value = asking.value_of(argument)
        except (ValueError, SyntaxError, TypeError):
            continue
        for other in _values(value):
            text = asking.text_of(other)
            yield _bare(case, call=asking.with_argument(case.call or "", at, text))


def _values(value: Any, depth: int = 2) -> Iterator[Any]:
    """Other values of the same sort, each with one small change."""
    if isinstance(value, bool):
        yield not value
    elif isinstance(value, (int, float)):
        yield from _numbers(value)
    elif isinstance(value, str):
        yield from (value[:-1], value.upper(), value + value[:1], value[::-1])
    elif isinstance(value, (list, tuple)):
        kind = type(value)
        yield from (value[:-1], value[::-1], kind([*value, *value[:1]]))
        for at, inner in enumerate(value[:4] if depth else ()):
            for other in _values(inner, depth - 1):
                yield kind([*value[:at], other, *value[at + 1 :]])
