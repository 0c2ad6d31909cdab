"""Says in plain words how one returned value differs from another, at whatever depth."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from oddsum.compare.numbers import number_of, number_words
from oddsum.compare.rules import same_number
from oddsum.compare.words import line_words, text_difference
from oddsum.languages.notation import read_value
from oddsum.model.case import DEFAULT_TOLERANCE
from oddsum.model.outcome import Difference

_SHOWN = 80  # characters of a value that are quoted
_DEEPEST = 20  # levels that are gone down
_NONE = object()  # what cannot be read as a value


def value_difference(
    expected: str, actual: str, expected_type: str, actual_type: str
) -> Difference:
    """Say how a returned value differs; both given as reprs, with the names of their types."""
    wanted, found = _read(expected), _read(actual)
    if wanted is _NONE or found is _NONE:
        return Difference(summary=_unread(expected, actual, expected_type, actual_type))
    return Difference(summary=_words(wanted, found, "", 0))


def _unread(expected: str, actual: str, expected_type: str, actual_type: str) -> str:
    start = f"{_cut(expected)} expected, {_cut(actual)} came out"
    if actual == "None":
        return start + ": nothing was returned"
    if expected_type != actual_type and expected_type and actual_type:
        return f"{start}: {actual_type}, where {expected_type} was expected"
    return start


def _read(text: str) -> Any:
    if text in ("set()", "frozenset()"):
        return set()
    try:
        return read_value(text)
    except (ValueError, SyntaxError, MemoryError, RecursionError, TypeError):
        return _NONE


def _words(wanted: Any, found: Any, path: str, level: int) -> str:
    """The words for two values at a place; ``path`` is blank at the top."""
    start = f"at {path}: " if path else ""
    pair = f"{start}{_cut(repr(wanted))} expected, {_cut(repr(found))} came out"
    if found is None and wanted is not None:
        return pair + (": nothing was returned" if not path else "")
    if _is_number(wanted) and _is_number(found):
        return start + number_words(repr(wanted), repr(found))
    if type(wanted) is not type(found):
        return pair + _type_words(wanted, found)
    if isinstance(wanted, str):
        return _text_words(wanted, found, start, pair)
    return _container_words(wanted, found, path, level, pair)


def _container_words(wanted: Any, found: Any, path: str, level: int, pair: str) -> str:
    inside: Callable[[Any, Any, str, int], str] | None = _INSIDE.get(type(wanted))
    if inside is None or level >= _DEEPEST:
        return pair
    words = inside(wanted, found, path, level)
    if not words:
        return pair
    # Two short values are worth seeing whole; in two long ones the place is what tells.
    whole = not path and len(repr(wanted)) + len(repr(found)) <= _SHOWN
    return f"{pair}: {words}" if whole else words


def _type_words(wanted: Any, found: Any) -> str:
    if isinstance(found, str) and number_of(found) == wanted and _is_number(wanted):
        return f": {found!r} is text, {wanted!r} is a number"
    if isinstance(wanted, str) and _is_number(found) and number_of(wanted) == found:
        return f": {found!r} is a number, {wanted!r} is text"
    both = isinstance(wanted, (list, tuple)) and isinstance(found, (list, tuple))
    if both and list(wanted) == list(found):
        return f": the same items, in a {_named(found)} instead of a {_named(wanted)}"
    return f": {_named(found)}, where {_named(wanted)} was expected"


def _named(value: Any) -> str:
    return {"str": "text", "NoneType": "None"}.get(type(value).__name__, type(value).__name__)


def _text_words(wanted: str, found: str, start: str, pair: str) -> str:
    if "\n" in wanted or "\n" in found:
        return start + text_difference(wanted, found).summary
    words = line_words(wanted, found)
    if words.startswith("the same but for"):
        return f"{pair}: {words.partition(': ')[0]}"
    tail = words.rpartition("came out: ")[2] if "came out: " in words else ""
    return f"{pair}: {tail}" if tail else pair


def _items_words(wanted: Any, found: Any, path: str, level: int) -> str:
    """Lists and tuples: out of order, one missing or extra, or the first that differs."""
    left, right = list(wanted), list(found)
    where = f"in {path} " if path else ""
    if len(left) == len(right):
        if _sorted(left) == _sorted(right):
            back = ", backwards" if left == right[::-1] else ""
            return f"{where}the same items in another order{back}"
        odd = [n for n, (a, b) in enumerate(zip(left, right, strict=True)) if _differs(a, b)]
        if not odd:
            return ""
        at, more = odd[0], len(odd) - 1
        tail = f"; {more} more item{'s differ' if more > 1 else ' differs'}" if more else ""
        return _words(left[at], right[at], f"{path}[{at}]", level + 1) + tail
    return where + _length_words(left, right)


def _length_words(left: list[Any], right: list[Any]) -> str:
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
                return f"{count}: {_cut(repr(longer[at]))} at [{at}] is {word}"
    return count


def _sorted(items: list[Any]) -> list[str]:
    return sorted(map(repr, items))


def _keys_words(wanted: Any, found: Any, path: str, level: int) -> str:
    missing = [k for k in wanted if k not in found]
    extra = [k for k in found if k not in wanted]
    where = f"in {path} " if path else ""
    if missing or extra:
        parts = [f"the key {missing[0]!r} is missing"] if missing else []
        parts += [f"the key {extra[0]!r} is too many"] if extra else []
        more = max(0, len(missing) - 1) + max(0, len(extra) - 1)
        tail = f" (and {more} more)" if more else ""
        return where + " and ".join(parts) + tail
    key = next((k for k in wanted if _differs(wanted[k], found[k])), _NONE)
    if key is _NONE:
        return ""
    return _words(wanted[key], found[key], f"{path}[{key!r}]", level + 1)


def _members_words(wanted: Any, found: Any, path: str, _level: int) -> str:
    where = f"in {path} " if path else ""
    missing, extra = sorted(map(repr, wanted - found)), sorted(map(repr, found - wanted))
    parts = [f"{_cut(missing[0])} is missing"] if missing else []
    parts += [f"{_cut(extra[0])} is too many"] if extra else []
    more = max(0, len(missing) - 1) + max(0, len(extra) - 1)
    return where + " and ".join(parts) + (f" (and {more} more)" if more else "")


_INSIDE: dict[type, Callable[[Any, Any, str, int], str]] = {
    list: _items_words,
    tuple: _items_words,
    dict: _keys_words,
    set: _members_words,
}


def _cut(text: str) -> str:
    return text if len(text) <= _SHOWN else text[: _SHOWN - 1] + "…"


def _differs(wanted: Any, found: Any) -> bool:
    """Whether two parts differ by more than the last digits of a float."""
    if _is_number(wanted) and _is_number(found):
        return not same_number(wanted, found, DEFAULT_TOLERANCE)
    return bool(wanted != found)


def _is_number(value: Any) -> bool:
    return isinstance(value, (int, float)) and not isinstance(value, bool)
