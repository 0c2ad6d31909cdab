"""Conditions that hold in some rounds and not in others, read off what names have there.

Where an expression should give another value in some rounds only, most often a name says in which:
it has one certain value there, is at least so large, or is a text in capitals.
"""

from __future__ import annotations

TYPE_CHECKING = False  # importing typing would cost every run some milliseconds
if TYPE_CHECKING:
    from collections.abc import Iterator, Sequence
    from typing import Any

MOST = 12  # conditions at one place
MOST_ALIKE = 6  # that hold in the same rounds
MOST_NAMES = 16
_LIMITS = 4  # of one name
_FEW = 2  # numbers of one name that are told by what they are, not by being even or odd
_LONGEST = 30  # letters of a text that a name is compared with
_TEXTS = ("isupper", "isdigit", "isalpha")
_INNER = ("<listcomp>", "<genexpr>", "<setcomp>", "<dictcomp>", "<lambda>")


class Condition:
    """That a name ``is`` a value, is ``least`` a number, is even or odd (its ``rest``), or that a
    text's method says yes."""

    def __init__(self, name: str, test: str, value: Any) -> None:
        self.name, self.test, self.value = name, test, value

    @property
    def text(self) -> str:
        """The condition as it is written."""
        if self.test == "is":
            if type(self.value) is bool:
                return self.name if self.value else f"not {self.name}"
            return f"{self.name} == {self.value!r}"
        if self.test == "rest":
            return f"{self.name} % 2 == {self.value}"
        return f"{self.name} >= {self.value!r}" if self.test == "least" else self.key

    @property
    def key(self) -> str:
        """What is the same in every run: another one may have another limit."""
        if self.test in ("is", "rest"):
            return self.text
        return f"{self.name} >=" if self.test == "least" else f"{self.name}.{self.test}()"

    def holds(self, scalars: dict[str, Any]) -> bool:
        """Whether it holds where names have these values."""
        value = scalars.get(self.name)
        if self.test == "is":
            return type(value) is type(self.value) and bool(value == self.value)
        if self.test == "rest":
            return type(value) is int and value % 2 == self.value
        if self.test == "least":
            return type(value) in (int, float) and bool(value >= self.value)
        return type(value) is str and bool(getattr(value, self.test)())


def frames_at(frame: Any) -> list[Any]:
    """The frame of the function that runs there and those of its parts, the innermost last: before
    Python 3.12 a comprehension has one of its own."""
    frames = [frame]
    while frames[-1].f_code.co_name in _INNER and frames[-1].f_back and len(frames) <= 4:
        frames.append(frames[-1].f_back)
    return frames[::-1]


def scalars_at(frame: Any) -> dict[str, Any]:
    """The names of the function that runs there, and its parts, that have a plain value now."""
    found: dict[str, Any] = {}
    for one in frames_at(frame):
        for name, value in one.f_locals.items():
            if len(found) < MOST_NAMES and name[:1] not in "_." and _is_plain(value):
                found[name] = value
    return found


def conditions(
    rounds: Sequence[dict[str, Any]],
) -> Iterator[tuple[list[Condition], tuple[int, ...]]]:
    """What holds in some of the rounds and in others not: the conditions that hold in the same
    ones, with the places of these rounds."""
    found: dict[tuple[int, ...], list[Condition]] = {}
    # A limit parts any rounds one way or another: what a name is says more.
    for condition in sorted(_possible(rounds), key=lambda c: c.test == "least"):
        where = tuple(n for n, scalars in enumerate(rounds) if condition.holds(scalars))
        if 0 < len(where) < len(rounds):
            found.setdefault(where, []).append(condition)
    for where, alike in list(found.items())[:MOST]:
        yield alike[:MOST_ALIKE], where


def holding(scalars: dict[str, Any]) -> list[Condition]:
    """What is said of texts and truths in a single round."""
    found: list[Condition] = []
    for name, value in scalars.items():
        if type(value) in (str, bool):
            found.append(Condition(name, "is", value))
        if type(value) is str:
            found += [c for c in (Condition(name, t, None) for t in _TEXTS) if c.holds(scalars)]
    return found[:MOST]


def _possible(rounds: Sequence[dict[str, Any]]) -> Iterator[Condition]:
    names = list(dict.fromkeys(name for scalars in rounds for name in scalars))
    for name in names:
        values = [scalars[name] for scalars in rounds if name in scalars]
        distinct = [v for n, v in enumerate(values) if v not in values[:n]]
        if len(distinct) < 2 and len(values) == len(rounds):
            continue
        for test in _TEXTS if any(type(v) is str for v in distinct) else ():
            yield Condition(name, test, None)
        numbers = sorted(v for v in distinct if type(v) in (int, float))
        often = [v for v in distinct if type(v) in (str, bool) or values.count(v) > 1]
        yield from (Condition(name, "is", v) for v in often[:_LIMITS] if type(v) is not float)
        if len([v for v in distinct if type(v) is int]) > _FEW:
            yield from (Condition(name, "rest", rest) for rest in (0, 1))
        step = max(1, len(numbers) // _LIMITS)
        yield from (Condition(name, "least", v) for v in numbers[1::step])


def _is_plain(value: Any) -> bool:
    if type(value) is str:
        return len(value) <= _LONGEST
    return type(value) in (int, float, bool)
