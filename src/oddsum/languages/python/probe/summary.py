"""A safe text of any value, made without running the program's own code.

For built-in values it is what ``repr`` gives. Objects of the program's classes are shown by their
attributes, read without ``__getattr__`` or ``__repr__``: those may print, fail or never end. Nor is
``isinstance`` used: it may ask the object for its ``__class__``.
"""

from __future__ import annotations

import os
import sys

from .arrays import array_text

TYPE_CHECKING = False  # importing typing would cost every run some milliseconds
if TYPE_CHECKING:
    from collections.abc import Iterable, Iterator
    from typing import Any

    Request = dict[str, Any]

ITEMS = 1000  # items of a container that are looked at
LEVELS = 3  # containers within containers
CHARS = 20_000  # of one text

QUICK = frozenset({int, float, bool, type(None), complex})
SCALAR = QUICK | {str}
_SIZED: tuple[Any, ...] = (str, list, dict, tuple, set, frozenset, bytes, bytearray, range)
_BRACKETS = {list: "[]", tuple: "()", set: "{}", dict: "{}"}
# Types of the standard library whose repr runs no code of the program.
_SAFE_REPR = {
    ("decimal", "Decimal"),
    ("fractions", "Fraction"),
    ("datetime", "date"),
    ("datetime", "datetime"),
    ("datetime", "time"),
    ("datetime", "timedelta"),
    ("pathlib", "PosixPath"),
    ("builtins", "range"),
    ("builtins", "slice"),
    ("builtins", "ellipsis"),
    ("builtins", "NotImplementedType"),
    ("re", "Pattern"),
    ("re", "Match"),
}


class Summary:
    """Text of a value, and what is known of it.

    ``flat``: it holds nothing that could change behind its back but itself. ``whole``: nothing was
    left out.
    """

    __slots__ = ("flat", "size", "text", "type", "whole")

    def __init__(
        self, type_name: str, text: str, size: int | None, flat: bool, whole: bool
    ) -> None:
        self.type, self.text, self.size = type_name, text, size
        self.flat, self.whole = flat, whole

    def row(self) -> list[Any]:
        """Return the summary as the wire carries it: ``[type, text, size, whole]``."""
        return [self.type, self.text, self.size, self.whole]


def summarise(value: Any, levels: int = LEVELS) -> Summary:
    """Return the Summary of a value; it never raises and never runs the program's code."""
    plain = type(value) is list and len(value) <= ITEMS and SCALAR.issuperset(map(type, value))
    if levels and plain:
        text = _list_text(value)
        if len(text) <= CHARS:  # most lists of beginners: at the speed of C
            return Summary("list", text, len(value), True, True)
    writer = _Writer()
    try:
        text = writer.text(value, levels)
    except Exception as error:
        text, writer.whole = f"<{type(value).__name__}, unreadable: {type(error).__name__}>", False
    if len(text) > CHARS:
        text, writer.whole = text[:CHARS] + "…", False
    return Summary(type(value).__name__, text, size_of(value), writer.flat, writer.whole)


def _list_text(value: list[Any]) -> str:
    try:
        return repr(value)
    except ValueError:  # an int with more digits than may become text
        return "…" * (CHARS + 1)


def size_of(value: Any) -> int | None:
    """Return the length of a built-in text or container, else None."""
    if type(value) in _SIZED:
        return len(value)
    for kind in _SIZED:
        if issubclass(type(value), kind):
            return int(kind.__len__(value))
    return None


class _Writer:
    """Writes one value; remembers the containers it is in, so that a cycle ends."""

    def __init__(self) -> None:
        self.flat, self.whole = True, True
        self._inside: list[Any] = []

    def text(self, value: Any, levels: int) -> str:
        kind = type(value)
        if kind in SCALAR or kind in (bytes, bytearray):
            return self._scalar(value)
        if kind in (type, type(sys)) or (callable(value) and hasattr(kind, "__name__")):
            named = _callable_text(value, kind)
            if named:
                return named
        if kind is frozenset or kind in _BRACKETS:
            return self._container(value, kind, levels)
        if (kind.__module__, kind.__name__) in _SAFE_REPR:
            return repr(value)
        return self._object(value, kind, levels)

    def _scalar(self, value: Any) -> str:
        if type(value) in (str, bytes, bytearray) and len(value) > CHARS:
            self.whole = False
            return repr(value[:CHARS]) + "…"
        try:
            return repr(value)
        except ValueError:  # more digits than the interpreter turns into text
            self.whole = False
            return f"<int of {value.bit_length()} bits>"

    def _container(self, value: Any, kind: Any, levels: int) -> str:
        if levels == 0 or any(value is outer for outer in self._inside):
            self.whole = False
            return f"{kind.__name__}(…)" if levels == 0 else "(itself)"
        if any(type(item) not in SCALAR for item in first_items(value)):
            self.flat = False
        if kind is dict and any(type(item) not in SCALAR for item in first_items(value.values())):
            self.flat = False
        self._inside.append(value)
        parts = self._parts(value, kind, levels - 1)
        self._inside.pop()
        if len(value) > ITEMS:
            self.whole = False
            parts.append(f"… {len(value) - ITEMS} more")
        return _wrap(parts, kind, len(value))

    def _parts(self, value: Any, kind: Any, levels: int) -> list[str]:
        if kind is dict:
            items = first_items(value.items())
            return [f"{self.text(k, levels)}: {self.text(v, levels)}" for k, v in items]
        return [self.text(item, levels) for item in first_items(value)]

    def _object(self, value: Any, kind: Any, levels: int) -> str:
        self.flat = False
        name = kind.__name__
        if "_member_map_" in kind.__dict__ and "_name_" in own_attributes(value):
            return f"{name}.{own_attributes(value)['_name_']}"
        if levels == 0 or any(value is outer for outer in self._inside):
            self.whole = False
            return f"{name}(…)" if levels == 0 else "(itself)"
        array = array_text(value, kind)
        if array is not None:
            self.whole = False
            return array
        if is_library(kind) and not (_built_in_part(value) or issubclass(kind, BaseException)):
            self.whole = False
            return f"<{name} object>"
        self._inside.append(value)
        parts = [self.text(part, levels - 1) for part in _built_in_part(value)]
        if issubclass(kind, BaseException):
            parts = [self.text(a, levels - 1) for a in BaseException.__reduce__(value)[1]]
        fields = own_attributes(value)
        parts += [f"{k}={self.text(v, levels - 1)}" for k, v in first_items(fields.items())]
        self._inside.pop()
        if not parts and not fields:
            self.whole = kind.__init__ is object.__init__
        return f"{name}({', '.join(parts)})"


def first_items(items: Iterable[Any]) -> Iterator[Any]:
    """Yield the first items only; a dict view or set is walked, never copied."""
    for count, item in enumerate(items):
        if count == ITEMS:
            return
        yield item


def _wrap(parts: list[str], kind: Any, size: int) -> str:
    if kind is frozenset:
        return "frozenset({" + ", ".join(parts) + "})" if size else "frozenset()"
    if kind is set and not size:
        return "set()"
    brackets: str = _BRACKETS[kind]
    left, right = brackets[0], brackets[1]
    comma = "," if kind is tuple and size == 1 else ""
    return left + ", ".join(parts) + comma + right


def _callable_text(value: Any, kind: Any) -> str | None:
    name = kind.__name__
    if name in ("function", "builtin_function_or_method", "method"):
        return f"<function {value.__name__}>"
    if name == "module":
        return f"<module {value.__name__}>"
    if issubclass(kind, type):
        return f"<class {type.__dict__['__name__'].__get__(value)}>"
    return None


def own_attributes(value: Any) -> dict[str, Any]:
    """Return the attributes an object holds itself, read past any ``__getattribute__``.

    Where it keeps nothing in slots, that is its own ``__dict__``: not to be changed.
    """
    kind = type(value)
    slots = _SLOTS.get(kind)
    if slots is None:
        slots = _SLOTS[kind] = tuple(_slots_of(kind))
    fields = {}
    for name, member in slots:
        try:
            fields[name] = member.__get__(value)
        except AttributeError:
            pass  # a slot that was never set
    try:
        own = object.__getattribute__(value, "__dict__")
    except AttributeError:
        own = None
    if type(own) is dict:
        if not fields:
            return own
        fields.update(own)
    return fields


def _slots_of(kind: Any) -> Iterator[tuple[str, Any]]:
    for one in reversed(kind.__mro__):
        slots = one.__dict__.get("__slots__", ())
        for name in [slots] if isinstance(slots, str) else slots:
            member: Any = one.__dict__.get(name)
            if type(member).__name__ == "member_descriptor":
                yield name, member


_SHOWN_INSIDE = {("types", "SimpleNamespace"), ("argparse", "Namespace")}
_LIBRARIES: dict[str, bool] = {}


def is_library(kind: Any) -> bool:
    """Whether a class is part of a library: what its objects keep inside is its own affair."""
    name = kind.__module__
    if type(name) is not str or (name, kind.__name__) in _SHOWN_INSIDE:
        return False
    known = _LIBRARIES.get(name)
    if known is None:
        file = getattr(sys.modules.get(name), "__file__", None)
        # Before 3.10 there is no list of the standard modules; those built in have no file.
        standard = name.partition(".")[0] in getattr(
            sys, "stdlib_module_names", sys.builtin_module_names
        )
        inside = type(file) is str and (
            "site-packages" in file or file.startswith(os.path.dirname(os.__file__) + os.sep)
        )
        known = _LIBRARIES[name] = (standard or inside) and name != "__main__"
    return known


_PLAIN_KINDS: dict[Any, bool] = {}
_SLOTS: dict[Any, tuple[Any, ...]] = {}  # of each class: (name, member) of what it keeps in slots


def plain_instance(value: Any, kind: Any) -> bool:
    """Whether it is an object that is nothing but its attributes."""
    plain = _PLAIN_KINDS.get(kind)
    if plain is None:
        plain = _PLAIN_KINDS[kind] = _is_plain_kind(value, kind)
    return plain and bool(own_attributes(value))


def plain_fields(value: Any) -> dict[str, Any] | None:
    """The attributes of an object that is nothing but these; None for any other: in one look.

    Not to be changed: it may be the object's own ``__dict__``.
    """
    kind = type(value)
    if _WITH_DICT.get(kind):
        return _get(value, "__dict__") or None
    if not plain_instance(value, kind):
        return None
    fields = own_attributes(value)
    # Whatever it may be asked for, a class of the program's without slots has a dict of its own.
    _WITH_DICT[kind] = not _SLOTS[kind] and type(_get(value, "__dict__")) is dict
    return fields


_get = object.__getattribute__
_WITH_DICT: dict[Any, bool] = {}  # plain kinds that keep nothing in slots


def _is_plain_kind(value: Any, kind: Any) -> bool:
    if (kind.__module__, kind.__name__) in _SAFE_REPR or issubclass(kind, (type, BaseException)):
        return False
    if kind.__module__ == "builtins" or "_member_map_" in kind.__dict__:
        return False
    return not (is_library(kind) or _callable_text(value, kind) or _built_in_part(value))


def _built_in_part(value: Any) -> list[Any]:
    """Return what an object is underneath, where its class is made from a built-in one."""
    kinds: tuple[Any, ...] = (dict, list, tuple, set, frozenset, str, int, float)
    for kind in kinds:
        if issubclass(type(value), kind):
            if kind in (dict,):
                return [dict(kind.items(value))]
            if kind in (list, tuple, set, frozenset):
                return [kind(kind.__iter__(value))]
            return [kind.__add__(value, kind())]
    if type(value).__module__ == "collections" and type(value).__name__ == "deque":
        return [list(value)]
    return []


MOST_NAMES = 30  # variables of one place that are told
_NO_VARIABLES = {"module", "function", "type", "builtin_function_or_method", "method"}


def fingerprints(names: Any) -> dict[str, Any]:
    """What tells the value of each variable from another one, however long its text is."""
    found = {}
    for name, value in list(names.items()):
        if not name.startswith("__") and type(value).__name__ not in _NO_VARIABLES:
            found[name] = id(value), size_of(value), summarise(value).text
            if len(found) >= MOST_NAMES:
                break
    return found


def _in_short(text: str, size: int | None) -> str:
    """The beginning and the end of a long text, and how long it is: what grows shows it there."""
    if len(text) <= 200:
        return text
    return f"{text[:120]} … {text[-60:]}" + (f" ({size:,})" if size is not None else "")


def variables(names: Any) -> list[list[str]]:
    """The variables of a place with their values as short texts, in the order they were made."""
    found = []
    for name, value in list(names.items()):
        if name.startswith("__") or type(value).__name__ in _NO_VARIABLES:
            continue
        summary = summarise(value)
        found.append([name, _in_short(summary.text, summary.size)])
        if len(found) >= MOST_NAMES:
            break
    return found
