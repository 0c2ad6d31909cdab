"""Values that could have been right in an expression's place.

They are solved for from how the result differs from what is expected: off by so much, by such a
factor, the expected number, text or item itself; and taken from what other expressions of the run
gave. Which of them is right is found by trial: an oracle's choice put in the expression's place, as
in S. Chandra, E. Torlak, S. Barman, R. Bodik, "Angelic debugging", ICSE 2011.
"""

from __future__ import annotations

import ast
import re

TYPE_CHECKING = False  # importing typing would cost every run some milliseconds
if TYPE_CHECKING:
    from collections.abc import Callable, Iterator
    from typing import Any

MOST = 24  # values that are tried in one place
MOST_POOL = 10  # of them, that other expressions gave
_NUMBER = re.compile(r"-?\d+(?:\.\d+)?")
_MOST_LARGE = 1e300  # number that something is a factor of
_SIZE = 400  # items of a list, letters of a text: of longer ones nothing is made


class Hints:
    """What the difference between two results says: amounts, factors, and whole values."""

    def __init__(self, expected: str, actual: str, is_value: bool) -> None:
        """``is_value``: both are the texts of values; else what is printed."""
        self.amounts: list[Any] = []
        self.factors: list[Any] = []
        self.items: list[Any] = []
        self.texts: list[tuple[str, str]] = []  # that differ, in one place: what is wanted, given
        self.is_value = is_value
        self._pair(_numbers(expected), _numbers(actual))
        if is_value:
            try:
                wanted, given = ast.literal_eval(expected), list(_inside(_read(actual)))
            except (ValueError, SyntaxError, MemoryError, RecursionError):
                return
            self.texts += _apart(wanted, _read(actual))
            inner = list(_inside(wanted))
            self.items += [v for v in inner if not _holds(given, v)]
            self.items += [v for v in inner if _holds(given, v)]
        else:
            lines = expected.split("\n")
            self.texts += _apart(lines, actual.split("\n"))
            self.items += [line.strip() for line in lines if line not in actual]
            self.items += [w for line in lines for w in line.split() if w not in actual]
            self.items += [line.rpartition(":")[2].strip() for line in lines if line not in actual]

    def _pair(self, wanted: list[Any], given: list[Any]) -> None:
        self.items += [n for n in wanted if n not in given]
        both = min(len(wanted), len(given))
        for a, b in zip(wanted[len(wanted) - both :], given[len(given) - both :]):
            if a != b:
                _add(self.amounts, a - b)
                if b and abs(a) < _MOST_LARGE and abs(b) < _MOST_LARGE:
                    _add(self.factors, a / b)
        self.amounts, self.factors = self.amounts[:3], self.factors[:3]


def _apart(wanted: Any, given: Any, depth: int = 3) -> Iterator[tuple[str, str]]:
    """Texts that differ in the same place of two values."""
    if isinstance(wanted, str) and isinstance(given, str):
        if wanted != given and len(wanted) <= _SIZE and len(given) <= _SIZE:
            yield wanted, given
    elif depth and isinstance(wanted, (list, tuple)) and isinstance(given, (list, tuple)):
        for one, other in list(zip(wanted, given))[:20]:
            yield from _apart(one, other, depth - 1)


def _in_its_place(value: str, wanted: str, given: str) -> Iterator[str]:
    """What a text would have to be where it is a part of what was given."""
    at = given.find(value) if value else -1
    while at >= 0:
        head, tail = given[:at], given[at + len(value) :]
        room = len(wanted) - len(head) - len(tail)
        if room >= 0 and wanted.startswith(head) and wanted.endswith(tail):
            yield wanted[len(head) : len(head) + room]
        at = given.find(value, at + 1)


def _read(text: str) -> Any:
    try:
        return ast.literal_eval(text)
    except (ValueError, SyntaxError, MemoryError, RecursionError):
        return None


def _add(values: list[Any], value: Any) -> None:
    if value not in values:
        values.append(value)


def _numbers(text: str) -> list[Any]:
    found = _NUMBER.findall(text[:4000])[:60]
    return [float(n) if "." in n else int(n) for n in found]


def _inside(value: Any, depth: int = 3) -> Iterator[Any]:
    """A value and those inside of it, the outermost first."""
    yield value
    if depth and isinstance(value, (list, tuple, set)):
        for inner in list(value)[:20]:
            yield from _inside(inner, depth - 1)
    elif depth and isinstance(value, dict):
        for key, inner in list(value.items())[:20]:
            yield from _inside(key, 0)
            yield from _inside(inner, depth - 1)


def _holds(values: list[Any], value: Any) -> bool:
    return any(type(v) is type(value) and v == value for v in values)


def candidates(value: Any, hints: Hints, pool: list[Any], decides: bool) -> list[Any]:
    """Other values to try in the place of one, the likelier first; each once, not too many."""
    if decides or isinstance(value, bool):
        return [not value]
    made: list[Any] = []
    try:
        for other in _made(value, hints, pool):
            if not _same(other, value) and not any(_same(other, m) for m in made):
                made.append(other)
                if len(made) == MOST:
                    break
    except (ArithmeticError, ValueError, TypeError):
        pass  # a number past all bounds: what came before it is tried
    return made


def _same(one: Any, other: Any) -> bool:
    try:
        return type(one) is type(other) and bool(one == other)
    except Exception:
        return one is other


def _made(value: Any, hints: Hints, pool: list[Any]) -> Iterator[Any]:
    if type(value) in (int, float):
        yield from _numbers_for(value, hints)
    elif type(value) is str and len(value) <= _SIZE:
        for wanted, given in hints.texts[:4]:
            yield from _in_its_place(value, wanted, given)
        yield from (i for i in hints.items if type(i) is str)
        yield from (value.strip(), value.lower(), value.upper(), value.title(), value[::-1])
        yield from (str(i) for i in hints.items if type(i) in (int, float))
    elif type(value) in (list, tuple) and len(value) <= _SIZE:
        yield from _sequences_for(value, hints)
    else:
        yield from (i for i in hints.items if value is None or type(i) is type(value))
    yield from pool


def _numbers_for(value: Any, hints: Hints) -> Iterator[Any]:
    for amount in hints.amounts:
        yield from (_tidy(value + amount), _tidy(value - amount))
    for factor in hints.factors:
        yield _tidy(value * factor)
        if factor:
            yield _tidy(value / factor)
    yield from (i for i in hints.items if type(i) in (int, float))
    yield from (value + 1, value - 1, -value, 0)


def times(factor: Any) -> Callable[[Any], Any]:
    """What makes so many times as much of a number, and leaves all else as it is."""

    def made(value: Any) -> Any:
        if type(value) not in (int, float):
            return value
        return _tidy(value * factor) if type(value) is int else value * factor

    return _safely(made)


def more(amount: Any) -> Callable[[Any], Any]:
    """What makes so much more of a number."""
    return _safely(lambda value: _tidy(value + amount))


def _safely(change: Callable[[Any], Any]) -> Callable[[Any], Any]:
    """The same, that leaves as it is what is past all bounds."""

    def changed(value: Any) -> Any:
        try:
            return change(value)
        except ArithmeticError:
            return value

    return changed


def numbers_in_rounds(rounds: int, hints: Hints) -> Iterator[Callable[[Any], Any]]:
    """What could have to be made of a number in so many rounds: together they make up for what is
    missing, or each is off by a factor."""
    for amount in hints.amounts:
        if type(amount) is float or amount % rounds == 0:
            yield more(_tidy(amount / rounds if type(amount) is float else amount // rounds))
    yield from (times(factor) for factor in (*hints.factors[:2], 2, -1, 0.5, 0))


TEXTS: tuple[Callable[[str], str], ...] = (
    str.upper, str.lower, str.title, str.strip, lambda text: text[::-1], lambda text: "",
)  # fmt: skip


def _tidy(number: Any) -> Any:
    """A whole number as an int, a fraction without the last digits' noise."""
    if isinstance(number, float):
        if not abs(number) <= 1e15:  # nor is it no number
            return 0
        number = float("%.12g" % number)
        return int(number) if number.is_integer() else number
    return number


def _sequences_for(value: Any, hints: Hints) -> Iterator[Any]:
    kind = type(value)
    yield from (i for i in hints.items if type(i) is kind)
    yield from (value[1:], value[:-1], value[::-1])
    try:
        ordered = sorted(value)
        yield from (kind(ordered), kind(reversed(ordered)))
        yield kind(dict.fromkeys(value))
    except TypeError:
        pass  # of several sorts
    for item in hints.items[:4]:
        if not isinstance(item, (list, tuple, dict)):
            yield value + kind([item])
            yield kind(v for v in value if not _same(v, item))
    yield kind()
