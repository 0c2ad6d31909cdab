"""Says in plain words how one returned value differs from another, at whatever depth."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from oddsum.compare.numbers import number_of, number_words
from oddsum.compare.rules import same_number
from oddsum.compare.words import line_words, text_difference
from oddsum.languages.language import Asking
from oddsum.languages.registry import language_named
from oddsum.model.case import DEFAULT_TOLERANCE
from oddsum.model.outcome import Difference

_SHOWN = 80  # characters of a value that are quoted
_DEEPEST = 20  # levels that are gone down
_NONE = object()  # what cannot be read as a value


def value_difference(
    expected: str, actual: str, expected_type: str, actual_type: str, language: str = "Python"
) -> Difference:
    """Say how a returned value differs; both as texts of the language, with their types' names."""
    words = _Words(language_named(language).asking)
    return Difference(summary=words.of(expected, actual, expected_type, actual_type))


class _Words:
    """The words for two values, whose parts are written as the program's language does."""

    def __init__(self, asking: Asking) -> None:
        self._asking, self._text, self._named = asking, asking.text_of, asking.type_words
        self._inside: dict[type, Callable[[Any, Any, str, int], str]] = {
            list: self._items_words,
            tuple: self._items_words,
            dict: self._keys_words,
            set: self._members_words,
        }

    def of(self, expected: str, actual: str, expected_type: str, actual_type: str) -> str:
        """The words for two texts, at the top."""
        wanted, found = self._read(expected), self._read(actual)
        if wanted is _NONE or found is _NONE:
            return self._unread(expected, actual, expected_type, actual_type)
        return self._words(wanted, found, "", 0)

    def _unread(self, expected: str, actual: str, expected_type: str, actual_type: str) -> str:
        start = f"{_cut(expected)} expected, {_cut(actual)} came out"
        if actual == self._asking.nothing:
            return start + ": nothing was returned"
        if expected_type != actual_type and expected_type and actual_type:
            return f"{start}: {actual_type}, where {expected_type} was expected"
        return start

    def _read(self, text: str) -> Any:
        if text in ("set()", "frozenset()"):
            return set()
        try:
            return self._asking.value_of(text)
        except (ValueError, SyntaxError, MemoryError, RecursionError, TypeError):
            return _NONE

    def _words(self, wanted: Any, found: Any, path: str, level: int) -> str:
        """The words for two values at a place; ``path`` is blank at the top."""
        start = f"at {path}: " if path else ""
        pair = f"{start}{_cut(self._text(wanted))} expected, {_cut(self._text(found))} came out"
        nothing = self._asking.nothing
        if self._text(found) == nothing != self._text(wanted):
            return pair + (": nothing was returned" if not path else "")
        if _is_number(wanted) and _is_number(found):
            return start + number_words(self._text(wanted), self._text(found))
        if type(wanted) is not type(found):
            return pair + self._type_words(wanted, found)
        if isinstance(wanted, str):
            return self._text_words(wanted, found, start, pair)
        return self._container_words(wanted, found, path, level, pair)

    def _container_words(self, wanted: Any, found: Any, path: str, level: int, pair: str) -> str:
        inside: Callable[[Any, Any, str, int], str] | None = self._inside.get(type(wanted))
        if inside is None or level >= _DEEPEST:
            return pair
        words = inside(wanted, found, path, level)
        if not words:
            return pair
        # Two short values are worth seeing whole; in two long ones the place is what tells.
        whole = not path and len(self._text(wanted)) + len(self._text(found)) <= _SHOWN
        return f"{pair}: {words}" if whole else words

    def _type_words(self, wanted: Any, found: Any) -> str:
        if isinstance(found, str) and number_of(found) == wanted and _is_number(wanted):
            return f": {self._text(found)} is text, {self._text(wanted)} is a number"
        if isinstance(wanted, str) and _is_number(found) and number_of(wanted) == found:
            return f": {self._text(found)} is a number, {self._text(wanted)} is text"
        both = isinstance(wanted, (list, tuple)) and isinstance(found, (list, tuple))
        if both and list(wanted) == list(found):
            return f": the same items, in a {self._named(found)} instead of a {self._named(wanted)}"
        return f": {self._named(found)}, where {self._named(wanted)} was expected"

    def _text_words(self, wanted: str, found: str, start: str, pair: str) -> str:
        if "\n" in wanted or "\n" in found:
            return start + text_difference(wanted, found).summary
        words = line_words(wanted, found)
        if words.startswith("the same but for"):
            return f"{pair}: {words.partition(': ')[0]}"
        tail = words.rpartition("came out: ")[2] if "came out: " in words else ""
        return f"{pair}: {tail}" if tail else pair

    def _items_words(self, wanted: Any, found: Any, path: str, level: int) -> str:
        """Lists and tuples: out of order, one missing or extra, or the first that differs."""
        left, right = list(wanted), list(found)
        where = f"in {path} " if path else ""
        if len(left) == len(right):
            if self._sorted(left) == self._sorted(right):
                back = ", backwards" if left == right[::-1] else ""
                return f"{where}the same items in another order{back}"
            odd = [n for n, (a, b) in enumerate(zip(left, right, strict=True)) if _differs(a, b)]
            if not odd:
                return ""
            at, more = odd[0], len(odd) - 1
            tail = f"; {more} more item{'s differ' if more > 1 else ' differs'}" if more else ""
            return self._words(left[at], right[at], f"{path}[{at}]", level + 1) + tail
        return where + self._length_words(left, right)

    def _length_words(self, left: list[Any], right: list[Any]) -> str:
        off = len(right) - len(left)
        count = f"{abs(off)} item{'s' if abs(off) > 1 else ''} too {'many' if off > 0 else 'few'}"
        shorter, longer = (left, right) if off > 0 else (right, left)
        word = "too many" if off > 0 else "missing"
        if longer[: len(shorter)] == shorter:
            which = "the last" if abs(off) == 1 else f"the last {abs(off)}"
            return f"{count}: {which} {'is' if abs(off) == 1 else 'are'} {word}"
        if longer[abs(off) :] == shorter:
            which = "the first" if abs(off) == 1 else f"the first {abs(off)}"
            return f"{count}: {which} {'is' if abs(off) == 1 else 'are'} {word}"
        if abs(off) == 1:
            for at in range(len(longer)):
                if longer[:at] + longer[at + 1 :] == shorter:
                    return f"{count}: {_cut(self._text(longer[at]))} at [{at}] is {word}"
        return count

    def _sorted(self, items: list[Any]) -> list[str]:
        return sorted(map(self._text, items))

    def _keys_words(self, wanted: Any, found: Any, path: str, level: int) -> str:
        missing = [k for k in wanted if k not in found]
        extra = [k for k in found if k not in wanted]
        where = f"in {path} " if path else ""
        if missing or extra:
            parts = [f"the key {self._text(missing[0])} is missing"] if missing else []
            parts += [f"the key {self._text(extra[0])} is too many"] if extra else []
            more = max(0, len(missing) - 1) + max(0, len(extra) - 1)
            tail = f" (and {more} more)" if more else ""
            return where + " and ".join(parts) + tail
        key = next((k for k in wanted if _differs(wanted[k], found[k])), _NONE)
        if key is _NONE:
            return ""
        return self._words(wanted[key], found[key], f"{path}[{self._text(key)}]", level + 1)

    def _members_words(self, wanted: Any, found: Any, path: str, _level: int) -> str:
        where = f"in {path} " if path else ""
        missing, extra = (
            sorted(map(self._text, wanted - found)),
            sorted(map(self._text, found - wanted)),
        )
        parts = [f"{_cut(missing[0])} is missing"] if missing else []
        parts += [f"{_cut(extra[0])} is too many"] if extra else []
        more = max(0, len(missing) - 1) + max(0, len(extra) - 1)
        return where + " and ".join(parts) + (f" (and {more} more)" if more else "")


def _cut(text: str) -> str:
    return text if len(text) <= _SHOWN else text[: _SHOWN - 1] + "…"


def _differs(wanted: Any, found: Any) -> bool:
    """Whether two parts differ by more than the last digits of a float."""
    if _is_number(wanted) and _is_number(found):
        return not same_number(wanted, found, DEFAULT_TOLERANCE)
    return bool(wanted != found)


def _is_number(value: Any) -> bool:
    return isinstance(value, (int, float)) and not isinstance(value, bool)
