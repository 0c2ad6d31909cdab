"""Recorded values as plain Python values that a question can be asked of."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from oddsum.languages.questions import Unanswered
from oddsum.trace.nodes import Node, text_of


class Longer(list[Any]):
    """The first items of a longer list; ``len()`` tells its full length."""

    full_length = 0


OfClass = Callable[[str, str], Any]  # a class's name and an attribute's, to its value or UNKNOWN
UNKNOWN = object()  # there is no value


def _of_no_class(_kind: str, _name: str) -> Any:
    return UNKNOWN


class Recorded:
    """An object: its attributes as they were, its own before its class's.

    Comparing it with another has no answer.
    """

    __slots__ = ("_fields", "_kind", "_of_class")

    def __init__(self, kind: str, fields: dict[str, Any], of_class: OfClass = _of_no_class) -> None:
        self._kind, self._fields, self._of_class = kind, fields, of_class

    def __getattr__(self, name: str) -> Any:
        if name in self._fields:
            return self._fields[name]
        value = self._of_class(self._kind, name)
        if value is not UNKNOWN:
            return value
        raise Unanswered(f"{self._kind} has no attribute {name} here.")

    def __eq__(self, other: object) -> bool:
        if other is None:
            return False
        raise Unanswered(f"Whether two objects are equal is for the class {self._kind} to say.")

    def __bool__(self) -> bool:
        raise Unanswered(f"Whether a {self._kind} counts as true is for its class to say.")

    __hash__ = None  # type: ignore[assignment]

    def __repr__(self) -> str:
        return f"{self._kind}({', '.join(f'{k}={v!r}' for k, v in self._fields.items())})"


class Key(str):
    """Stands for an object that is a key of a dict: another text that reads the same is another."""

    __slots__ = ()

    def __eq__(self, other: object) -> bool:
        return isinstance(other, Key) and str.__eq__(self, other)

    def __hash__(self) -> int:
        return hash(("key", str(self)))

    def __repr__(self) -> str:
        return str(self)


class Closed:
    """A value that was not followed inside: only its text is known."""

    __slots__ = ("_text",)

    def __init__(self, text: str) -> None:
        self._text = text

    def _refuse(self, *_: object) -> Any:
        raise Unanswered(f"{self._text} is not followed inside.")

    __eq__ = __bool__ = __len__ = __iter__ = __getitem__ = __lt__ = __add__ = _refuse
    __gt__ = __le__ = __ge__ = __contains__ = __sub__ = __getattr__ = _refuse
    __hash__ = None  # type: ignore[assignment]

    def __repr__(self) -> str:
        return self._text


def plain(node: Node, of_class: OfClass = _of_no_class) -> Any:
    """A node as plain Python values: lists, dicts, texts and numbers are what they were."""
    if isinstance(node, list):
        return Closed(str(node[1]))
    if not isinstance(node, tuple):
        return node
    if len(node) == 1 or node[2] is None:
        return Closed("What lies deeper than three levels")
    kind, size, items = node
    if kind[:1] == ".":
        return Recorded(kind[1:], _pairs(items, of_class), of_class)
    if kind == "dict":
        return _pairs(items, of_class)
    values = [plain(item, of_class) for item in items]
    if kind in ("set", "frozenset"):
        values = [_hashable(value, item) for value, item in zip(values, items, strict=True)]
    if kind == "list" and len(values) < size:
        longer = Longer(values)
        longer.full_length = size
        return longer
    made: dict[str, Any] = {"list": list, "tuple": tuple, "set": set, "frozenset": frozenset}
    return made[kind](values) if kind in made else Closed(f"A {kind}")


def _hashable(value: Any, node: Node) -> Any:
    try:
        hash(value)
    except TypeError:
        return Key(text_of(node)[0])
    return value


def _pairs(items: list[Node], of_class: OfClass) -> dict[Any, Any]:
    """A dict's or an object's content. What stands for an object can be no key: its text is one."""
    made: dict[Any, Any] = {}
    for k, v in zip(items[::2], items[1::2], strict=True):
        key, value = plain(k, of_class), plain(v, of_class)
        try:
            made[key] = value
        except TypeError:
            made[Key(text_of(k)[0])] = value
    return made
