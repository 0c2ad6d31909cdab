"""Ready-made inputs: a case that is there, changed in one place so that it tries what none did."""

from __future__ import annotations

import re
from collections.abc import Iterator
from typing import Any

import msgspec

from oddsum.advise.gaps import Gap
from oddsum.advise.seen import Forks, Seen
from oddsum.compare.numbers import finite_number, plain_number
from oddsum.languages import language_of
from oddsum.languages.language import Asking, plain_functions
from oddsum.languages.outline import CallText, Function, Limit, Number
from oddsum.model.case import Case

_MOST = 10  # changed cases that are tried for one gap


def changed_cases(
    gap: Gap, known: Forks, seen: dict[int, Seen], cases: tuple[Case, ...]
) -> Iterator[Case]:
    """Cases that may close a gap, the likeliest first; whether they do, a run has to show."""
    made = 0
    for case in _shortest_first(gap, seen, cases):
        for changed in _changes(gap, known, seen[case.number], case, cases):
            yield msgspec.structs.replace(
                changed, name=_name(gap, known), kind=_kind(gap), note="", stdout=None,
                returns=None, raises=None, exit=None, writes=None, check=None,
            )  # fmt: skip
            made += 1
            if made >= _MOST:
                return


def _shortest_first(gap: Gap, seen: dict[int, Seen], cases: tuple[Case, ...]) -> list[Case]:
    """Cases that come to the limit, the shortest first: it is the easiest to work out by hand."""

    def order(case: Case) -> tuple[bool, int, bool]:
        values = seen[case.number].subjects.get(gap.limit if gap.limit is not None else -1, ())
        size = len(case.stdin or case.call or "")
        return gap.limit is not None and not values, size, case.kind == "invalid"

    return sorted((c for c in cases if c.number in seen), key=order)


def _changes(
    gap: Gap, known: Forks, seen: Seen, case: Case, cases: tuple[Case, ...]
) -> Iterator[Case]:
    if gap.kind == "kind":
        yield from _invalid(case, known) if 'kind = "invalid"' in gap.text else ()
        return
    if gap.wanted is None:
        return
    limit = known.limits[gap.limit] if gap.limit is not None else None
    if case.call is not None:
        yield from _changed_calls(gap, limit, case, known)
        if gap.limit is not None and not seen.subjects.get(gap.limit):
            yield from _two_arguments(gap, limit, case, known, cases)
    elif limit is not None:
        yield from _changed_lines(gap, limit, seen, case)
        yield from _other_rounds(seen, case)
    else:
        yield from _fewer_lines(gap, seen, case)
        yield from _some_rounds(int(gap.wanted), seen, case)


def _changed_lines(gap: Gap, limit: Limit, seen: Seen, case: Case) -> Iterator[Case]:
    """Change the line that was read last before the limit and had the subject's value."""
    lines = (case.stdin or "").split("\n")
    for subject in seen.subjects.get(gap.limit or 0, ()):
        before = [n for n, t in enumerate(seen.typed) if t.step <= subject.step]
        for number in reversed(before):
            text = seen.typed[number].text
            new = _new_text(limit, text, subject.value, gap.wanted or 0)
            if new is not None and number < len(lines) and lines[number] == text:
                yield _with_stdin(case, [*lines[:number], new, *lines[number + 1 :]])
                break


def _new_text(limit: Limit, text: str, value: Number, wanted: Number) -> str | None:
    """The line with what the limit wants in the place of what it had."""
    if limit.length_of:
        if len(text) == value:
            return (text or "x")[0] * int(wanted) if wanted > len(text) else text[: int(wanted)]
        words = text.split()
        if len(words) == value:
            return " ".join((words * (int(wanted) + 1))[: int(wanted)] or [])
        return None
    number = finite_number(text)
    if number is None:
        return None
    if "%" in limit.subject or "//" in limit.subject:
        return f"{_with_remainder(limit, number, wanted)}"
    if limit.subject.startswith("abs("):
        return plain_number(wanted) if abs(number) == value else None
    return plain_number(wanted) if number == value else None


def _with_remainder(limit: Limit, number: Number, wanted: Number) -> int:
    """The whole number nearest above whose remainder or quotient is the one wanted."""
    by = re.search(r"(?:%|//)\s*(-?\d+)", limit.subject)
    divisor = int(by.group(1)) or 1 if by is not None else 2
    if "//" in limit.subject:
        return int(wanted) * divisor
    start = int(number)
    return next((n for n in range(start, start + abs(divisor)) if n % divisor == wanted), start)


def _fewer_lines(gap: Gap, seen: Seen, case: Case) -> Iterator[Case]:
    """For a loop: the numbers typed in set to the rounds wanted, one at a time; or no lines."""
    lines = (case.stdin or "").split("\n")
    for number, typed in enumerate(seen.typed):
        if finite_number(typed.text) is not None and number < len(lines):
            changed = [*lines[:number], plain_number(gap.wanted or 0), *lines[number + 1 :]]
            yield _with_stdin(case, changed)
    for number in range(len(seen.typed)):
        if not gap.wanted:
            yield _with_stdin(case, [*lines[:number], "", *lines[number + 1 :]])


def _some_rounds(wanted: int, seen: Seen, case: Case) -> Iterator[Case]:
    """For a loop that goes on until a word is typed: what opens it, and what ends it, are kept."""
    lines = _typed_lines(seen, case)
    for last in (1, 2):
        for first in range(wanted, wanted + 3):
            if 0 < first + last < len(lines) or (first + last <= len(lines) and not first):
                yield _with_stdin(case, [*lines[:first], *lines[len(lines) - last :], ""])


def _other_rounds(seen: Seen, case: Case) -> Iterator[Case]:
    """One round of what is typed once more, or once less; what ends it is kept."""
    lines = _typed_lines(seen, case)
    for size in (1, 2):
        for last in (1, 0):
            end = len(lines) - last
            if end > size:
                again = lines[end - size : end]
                yield _with_stdin(case, [*lines[:end], *again, *lines[end:], ""])
                yield _with_stdin(case, [*lines[: end - size], *lines[end:], ""])


def _typed_lines(seen: Seen, case: Case) -> list[str]:
    return (case.stdin or "").split("\n")[: len(seen.typed)]


def _invalid(case: Case, known: Forks) -> Iterator[Case]:
    """Data that a program should refuse: a number below 0, then nothing at all."""
    if case.call is None:
        lines = (case.stdin or "").split("\n")
        for number in reversed(range(len(lines))):
            if finite_number(lines[number]) is not None:
                yield _with_stdin(case, [*lines[:number], "-1", *lines[number + 1 :]])
        return
    call = known.asking.call_of(case.call or "")
    for at, argument in enumerate(call.arguments if call is not None else ()):
        if isinstance(_plain(argument, known.asking), (int, float)):
            yield _with_argument(case, at, "-1", known.asking)


def _changed_calls(gap: Gap, limit: Limit | None, case: Case, known: Forks) -> Iterator[Case]:
    call = known.asking.call_of(case.call or "")
    if call is None:
        return
    function = _function(known, call)
    for at, argument in enumerate(call.arguments):
        named = function.parameters[at] if function and at < len(function.parameters) else ""
        own = limit is not None and limit.function == (function.name if function else "")
        if limit is not None and own and named not in _roots(limit):
            continue
        for text in _new_argument(gap, limit, argument, known.asking):
            yield _with_argument(case, at, text, known.asking)


def _two_arguments(
    gap: Gap, limit: Limit | None, case: Case, known: Forks, cases: tuple[Case, ...]
) -> Iterator[Case]:
    """Where a case does not come to the limit, as one behind ``member and``: another argument has
    to be another one too, the other truth value, or what it is in another case.
    """
    call = known.asking.call_of(case.call or "")
    for changed in _changed_calls(gap, limit, case, known):
        now = known.asking.call_of(changed.call or "")
        if call is None or now is None:
            continue
        for at, argument in enumerate(call.arguments):
            if now.arguments[at] == argument:
                for text in _others(at, argument, call, known.asking, cases):
                    yield _with_argument(changed, at, text, known.asking)


def _others(
    at: int, argument: str, call: CallText, asking: Asking, cases: tuple[Case, ...]
) -> Iterator[str]:
    """What else an argument could be: the other truth value, what other calls have there."""
    value = _plain(argument, asking)
    if isinstance(value, bool):
        yield asking.text_of(not value)
        return
    calls = [asking.call_of(c.call) for c in cases if c.call is not None]
    found = dict.fromkeys(
        c.arguments[at] for c in calls if c and c.name == call.name and at < len(c.arguments)
    )
    yield from [text for text in found if text != argument][:3]


def _roots(limit: Limit) -> set[str]:
    """The names a limit's subject is made of."""
    return set(language_of(limit.file).asking.names_in(limit.subject))


def _new_argument(gap: Gap, limit: Limit | None, argument: str, asking: Asking) -> Iterator[str]:
    wanted = gap.wanted or 0
    value = _plain(argument, asking)
    if value is None:
        return
    if isinstance(value, (list, tuple, str)):
        if limit is None or limit.length_of:
            more = value * (int(wanted) + 1) if len(value) else _one_more(value, int(wanted))
            yield asking.text_of(more[: int(wanted)])
        return
    if not isinstance(value, (int, float)) or isinstance(value, bool):
        return
    if limit is not None and "%" in limit.subject:
        yield str(_with_remainder(limit, value, wanted))
    else:
        yield f"{wanted!r}"


def _one_more(value: Any, count: int) -> Any:
    """An empty list, tuple or text filled up."""
    if isinstance(value, str):
        return "x" * count
    return [1] * count if isinstance(value, list) else (1,) * count


def _plain(argument: str, asking: Asking) -> Any:
    """The value of an argument; None where it is more than plain data."""
    try:
        return asking.value_of(argument)
    except (ValueError, SyntaxError, TypeError):
        return None


def _function(known: Forks, call: CallText) -> Function | None:
    every = (f for s in known.sources for f in plain_functions(language_of(s.name), s))
    return next((f for f in every if f.name == call.name), None)


def _with_argument(case: Case, at: int, text: str, asking: Asking) -> Case:
    return msgspec.structs.replace(case, call=asking.with_argument(case.call or "", at, text))


def _with_stdin(case: Case, lines: list[str]) -> Case:
    return msgspec.structs.replace(case, stdin="\n".join(lines))


def _kind(gap: Gap) -> str:
    if gap.kind == "kind":
        return "invalid"
    return "boundary" if gap.kind in ("limit", "loop") else "normal"


def _name(gap: Gap, known: Forks) -> str:
    if gap.kind == "kind":
        return "a number below 0"
    if gap.limit is not None:
        limit = known.limits[gap.limit]
        where = f" in {limit.function}" if limit.function else ""
        return f"{limit.subject} is {plain_number(gap.wanted or 0)}{where}"
    return f"{'one round' if gap.wanted else 'no round'} on line {gap.line}"
