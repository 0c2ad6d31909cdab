"""What no case of the plan tries: sides of limits, kinds of data, branches, 0 or 1 rounds."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Literal

import msgspec

from oddsum.advise.seen import Forks, Seen
from oddsum.compare.numbers import plain_number
from oddsum.languages import language_of
from oddsum.languages.outline import Fork, Limit, Number
from oddsum.model.case import Case

_MOST_BESIDE = 60  # letters of what else has to hold, that are told
GapKind = Literal["limit", "branch", "loop", "kind"]


class Gap(msgspec.Struct, frozen=True):
    """One thing that no case tries, as a sentence.

    ``wanted`` is what a limit's subject should be, or how many rounds a loop should make; ``limit``
    counts from 0 in the program's limits. ``line`` is 0 for a missing kind.
    """

    kind: GapKind
    file: str
    line: int
    text: str
    limit: int | None = None
    wanted: Number | None = None
    holds: bool | None = None  # how the condition should come out


def gaps(known: Forks, seen: dict[int, Seen], cases: tuple[Case, ...]) -> tuple[Gap, ...]:
    """Everything that is missing, what matters most first: limits, branches, loops, kinds."""
    found = [*_of_limits(known, seen), *_of_branches(known, seen), *_of_loops(known, seen)]
    at = {(g.file, g.line) for g in found if g.kind == "limit"}
    found = [g for g in found if g.kind != "branch" or (g.file, g.line) not in at]
    return (*found, *_of_kinds(cases))


def sides(limit: Limit) -> tuple[tuple[str, Number], ...]:
    """Both sides of a limit, right at it: their names and the subject on each.

    A whole number has its neighbour one away; a fraction's neighbour is a hundredth away.
    """
    step: Number = 1 if isinstance(limit.value, int) else 0.01
    value = limit.value
    above: Number = round(value + step, 10)
    below: Number = round(value - step, 10)
    if "%" in limit.subject:
        return (("where it holds", value), ("where it does not", above if not value else 0))
    if limit.sign in ("<", ">="):
        return (("just below it", below), ("right at it", value))
    if limit.sign in ("<=", ">"):
        return (("right at it", value), ("just above it", above))
    return (("right at it", value), ("just above it", above))


def _of_limits(known: Forks, seen: dict[int, Seen]) -> Iterator[Gap]:
    whole = all(s.complete for s in seen.values())
    as_far = "" if whole else ", as far as was recorded"
    for number, limit in enumerate(known.limits):
        tried = {s.value for one in seen.values() for s in one.subjects.get(number, ())}
        if limit.length_of and limit.value <= 0 and limit.sign in ("<", ">="):
            continue  # no length is below 0
        for name, wanted in sides(limit):
            impossible = limit.length_of and wanted < 0
            if impossible or _is_tried(limit, name, wanted, tried):
                continue
            nearest = min(tried, key=lambda t: abs(t - wanted), default=None)
            so_far = "" if nearest is None else f" (nearest so far: {plain_number(nearest)})"
            text = f"line {limit.place}, {limit.text}: {_untried(limit, wanted, name)}"
            text += f"{so_far if '%' not in limit.subject else ''}{as_far}"
            yield Gap("limit", limit.file, limit.line, text, number, wanted)


def _untried(limit: Limit, wanted: Number, name: str) -> str:
    """What no case has, in words; a remainder is told by whether the comparison holds."""
    if "%" in limit.subject:
        holds = "holds" if name == "where it holds" else "does not hold"
        return f"there is no case in which it {holds}"
    others = " and ".join(f"`{text}`" for text in _of_others(limit))
    beside = f", together with {others}" if 0 < len(others) <= _MOST_BESIDE else ""
    return f"no case tries {limit.subject} {plain_number(wanted)}, {name}{beside}"


def _of_others(limit: Limit) -> list[str]:
    """What else has to hold, and says something of more than the limit's own subject."""
    names_in = language_of(limit.file).asking.names_in
    own = set(names_in(limit.subject))
    return [text for text in limit.others if not set(names_in(text)) <= own]


def _is_tried(limit: Limit, name: str, wanted: Number, tried: set[Number]) -> bool:
    if wanted in tried:
        return True
    if "%" in limit.subject or limit.sign in ("==", "!="):
        others = {t for t in tried if t != limit.value}
        return wanted != limit.value and bool(others)
    whole = all(isinstance(t, int) for t in tried) and isinstance(limit.value, int)
    if whole or not tried or name == "right at it":
        return False
    # Fractions have no neighbour: any value on that side of the limit will do.
    return any(t < limit.value if wanted < limit.value else t > limit.value for t in tried)


def _of_branches(known: Forks, seen: dict[int, Seen]) -> Iterator[Gap]:
    if not all(s.complete for s in seen.values()):
        return  # what comes after the part that was recorded may well reach them
    reached = {p for one in seen.values() for p in one.lines}
    for fork in known.forks:
        place = (fork.file, fork.line)
        if fork.kind != "if":
            continue
        if place not in reached:
            if fork.inside is None or (fork.file, fork.inside) in reached:
                text = f"line {fork.line}, `{_short(fork)}`: no case comes here"
                yield Gap("branch", fork.file, fork.line, text)
            continue
        came = {c for one in seen.values() for c in one.conditions.get(place, ())}
        for wanted in (True, False):
            if came and wanted not in came:
                word = "true" if wanted else "false"
                text = f"line {fork.line}, `{_short(fork)}`: it is never {word} in any case"
                yield Gap("branch", fork.file, fork.line, text, holds=wanted)


def _of_loops(known: Forks, seen: dict[int, Seen]) -> Iterator[Gap]:
    if not all(s.complete for s in seen.values()):
        return
    for fork in known.forks:
        if fork.kind == "if":
            continue
        rounds = {r for one in seen.values() for r in one.rounds.get((fork.file, fork.line), ())}
        if not rounds:
            text = f"line {fork.line}, `{_short(fork)}`: no case comes to this loop"
            yield Gap("loop", fork.file, fork.line, text)
            continue
        for wanted in (0, 1):
            if wanted not in rounds and not fork.fixed:
                times = "0 times" if wanted == 0 else "just once"
                text = f"line {fork.line}, `{_short(fork)}`: no case lets it run {times}"
                yield Gap("loop", fork.file, fork.line, text, wanted=wanted)


def _of_kinds(cases: tuple[Case, ...]) -> Iterator[Gap]:
    have = {c.kind for c in cases}
    words = {
        "normal": "no case is of everyday data",
        "boundary": "no case stands right at a limit",
        "invalid": "no case brings data that should be refused",
    }
    for kind, text in words.items():
        if kind not in have:
            yield Gap("kind", "", 0, f'{text} (kind = "{kind}")')


def _short(fork: Fork) -> str:
    header = fork.header.rstrip(":")
    return header if len(header) <= 44 else header[:43] + "…"
