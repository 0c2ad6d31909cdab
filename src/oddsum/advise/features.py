"""What can be said of a case: of its input, and of what was seen of its run.

A feature has words for one case that has it (``an age of exactly 16``) and a weight: how much it
takes to say and to believe. The lighter of two that fit is the one to tell. A new feature is a
function here and a word in ``OF_INPUT`` or ``OF_RUN``.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator

import msgspec

from oddsum.advise.seen import Forks, Seen
from oddsum.compare.numbers import finite_number, plain_number
from oddsum.languages import language_of
from oddsum.languages.language import plain_functions
from oddsum.languages.outline import Number
from oddsum.model.case import Case


class Feature(msgspec.Struct, frozen=True):
    """Something that is true of a case; ``words`` go behind "has" or "have"."""

    words: str
    weight: float
    of_run: bool = False  # whether it was seen in a recording, and not read off the input


class Known(msgspec.Struct, frozen=True):
    """A case with what is known of it; ``seen`` is None where it was not recorded."""

    case: Case
    values: tuple[tuple[str, object], ...]  # what goes in: a name for it, and the value
    seen: Seen | None


_AN_LETTERS = "aefhilmnorsx"  # whose names begin with a vowel
Finder = Callable[[Known, Forks], Iterator[Feature]]


def features_of(known: Known, forks: Forks) -> dict[str, Feature]:
    """Every feature a case has, by its words."""
    found: dict[str, Feature] = {}
    for find in (*OF_INPUT, *OF_RUN):
        for feature in find(known, forks):
            found[feature.words] = msgspec.structs.replace(feature, of_run=find in OF_RUN)
    return found


def values_of(case: Case, forks: Forks) -> tuple[tuple[str, object], ...]:
    """What goes into a case: arguments by the parameters' names, or the lines typed in."""
    if case.call is None:
        lines = (case.stdin or "").split("\n")
        if lines and not lines[-1]:
            lines.pop()
        return tuple(("line", _typed(line)) for line in lines)
    call = forks.asking.call_of(case.call)
    if call is None:
        return ()
    every = [f for s in forks.sources for f in plain_functions(language_of(s.name), s)]
    names = next((f.parameters for f in every if f.name == call.name), ())
    found = []
    for at, argument in enumerate(call.arguments):
        try:
            value = forks.asking.value_of(argument)
        except (ValueError, SyntaxError, TypeError):
            continue
        found.append((names[at] if at < len(names) else f"argument {at + 1}", value))
    return tuple(found)


def _typed(line: str) -> object:
    number = finite_number(line)
    return line if number is None else number


def _at_limits(known: Known, forks: Forks) -> Iterator[Feature]:
    """Where the subject of a limit stood to it: right at it, above, below."""
    for number, limit in enumerate(forks.limits):
        subjects = known.seen.subjects.get(number, ()) if known.seen else ()
        name, value = limit.subject, plain_number(limit.value)
        for subject in subjects:
            if "%" in name:
                odd_even = _remainder_words(name, subject.value)
                yield Feature(odd_even, 2)
            elif subject.value == limit.value:
                yield Feature(f"{_a(name)} of exactly {value}", 1)
            else:
                side = "above" if subject.value > limit.value else "below"
                yield Feature(f"{_a(name)} {side} {value}", 2.5)


def _remainder_words(subject: str, value: Number) -> str:
    name, _, divisor = (p.strip() for p in subject.partition("%"))
    if divisor == "2":
        return f"{_a(name)} that is {'an odd' if value else 'an even'} number"
    return f"{_a(name)} that leaves {plain_number(value)} when divided by {divisor}"


def _numbers(known: Known, _forks: Forks) -> Iterator[Feature]:
    numbers = [(n, v) for n, v in known.values if isinstance(v, (int, float))
               and not isinstance(v, bool)]  # fmt: skip
    for name, value in numbers:
        of = "a number typed in that is" if name == "line" else f"{_a(name)} that is"
        if value == 0:
            yield Feature(f"{of} 0", 2)
        elif value < 0:
            yield Feature(f"{of} below 0", 2)
        if value != int(value):
            yield Feature(f"{of} no whole number", 2)
        elif name != "line":
            yield Feature(f"{of} {'an odd number' if value % 2 else 'an even number'}", 4)
    whole = [v for _, v in numbers]
    if len(whole) > 1 and len(set(whole)) < len(whole):
        yield Feature("the same number twice in its input", 4)
    if len(whole) > 2 and whole != sorted(whole):
        yield Feature("numbers that do not go up", 5)


def _texts(known: Known, _forks: Forks) -> Iterator[Feature]:
    if not known.values and known.case.call is None:
        yield Feature("nothing typed in", 1.5)
    for name, value in known.values:
        if not isinstance(value, str):
            continue
        of = "a line" if name == "line" else _a(name)
        if not value:
            yield Feature(f"{of} that is empty", 1.5)
        if value != value.casefold():
            yield Feature(f"{of} with capital letters", 3)
        if " " in value.strip():
            yield Feature(f"{of} with spaces in it", 3)
        if value != value.strip():
            yield Feature(f"{of} with spaces around it", 2.5)
        if not value.isascii():
            yield Feature(f"{of} with letters beyond A to Z", 2.5)


def _lists(known: Known, _forks: Forks) -> Iterator[Feature]:
    for name, value in known.values:
        if not isinstance(value, (list, tuple)):
            continue
        of = _a(name)
        sizes = {0: "that is empty", 1: "of one item", 2: "of two items"}
        if len(value) in sizes:
            yield Feature(f"{of} {sizes[len(value)]}", 1.5 + len(value))
        if value:
            yield Feature(f"{of} that is not empty", 2)
        if len(value) > 1:
            yield Feature(f"{of} of two items or more", 3)
        if len(value) > 1:
            yield Feature(
                f"{of} with {'an odd' if len(value) % 2 else 'an even'} number of items", 5
            )
        if _twice(list(value)):
            yield Feature(f"{of} with the same item twice", 3)
        if all(isinstance(v, (int, float)) for v in value) and value:
            if any(v < 0 for v in value):
                yield Feature(f"{of} with a number below 0 in it", 3)
            if 0 in value:
                yield Feature(f"{of} with a 0 in it", 3.5)
            yield from _order(of, list(value))


def _order(of: str, numbers: list[Number]) -> Iterator[Feature]:
    if len(numbers) < 2:
        return
    if numbers != sorted(numbers):
        yield Feature(f"{of} whose numbers do not go up", 4)
    if max(numbers) == numbers[-1]:
        yield Feature(f"{of} with its largest number last", 4)
    if max(numbers) == numbers[0]:
        yield Feature(f"{of} with its largest number first", 4)


def _twice(items: list[object]) -> bool:
    texts = [repr(i) for i in items]
    return len(set(texts)) < len(texts)


def _branches(known: Known, forks: Forks) -> Iterator[Feature]:
    """Which way the conditions came out; never, where the recording is whole."""
    if known.seen is None:
        return
    for fork in forks.forks:
        if fork.kind != "if":
            continue
        came = known.seen.conditions.get((fork.file, fork.line), frozenset())
        header = fork.header.rstrip(":")
        for wanted in (True, False):
            word = "true" if wanted else "false"
            if wanted in came:
                yield Feature(f"`{header}` on line {fork.line} come out {word}", 4)
        if known.seen.complete and True not in came:
            yield Feature(f"`{header}` on line {fork.line} never come out true", 5)


def _rounds(known: Known, forks: Forks) -> Iterator[Feature]:
    if known.seen is None or not known.seen.complete:
        return
    for fork in forks.forks:
        if fork.kind == "if":
            continue
        times = known.seen.rounds.get((fork.file, fork.line), ())
        if not times:
            continue
        for low, words in ((0, "make no round"), (1, "make just one round")):
            if low in times:
                yield Feature(f"the loop on line {fork.line} {words}", 3 + low)
        for low in (1, 2, 3):
            if max(times) >= low:
                name = "at least one round" if low == 1 else f"{low} rounds or more"
                yield Feature(f"the loop on line {fork.line} make {name}", 4 + low / 2)


OF_INPUT: tuple[Finder, ...] = (_numbers, _texts, _lists)
OF_RUN: tuple[Finder, ...] = (_at_limits, _branches, _rounds)


def _a(name: str) -> str:
    if not name.isidentifier():
        return f"a {name}"
    spoken = _AN_LETTERS if len(name) == 1 else "aeiou"  # an n, a name
    return f"an {name}" if name[:1].lower() in spoken else f"a {name}"
