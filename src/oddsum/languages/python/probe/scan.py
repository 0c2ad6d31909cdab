"""What a value holds, as plain data for the wire, made without running the program's own code.

A *node* is a plain scalar, which stands for itself; a tuple ``(kind, size, items)`` for a built-in
container or an object with attributes (``kind`` then begins with a point; a dict's and an object's
items are keys and values in turn); ``("itself",)`` where a value holds itself; or a row
``[type, text, size, whole]`` for all that is not followed inside. ``items`` is None beyond the last
level; where there are fewer items than ``size`` says, the rest was left out.
"""

from __future__ import annotations

from .summary import (
    CHARS,
    ITEMS,
    LEVELS,
    SCALAR,
    first_items,
    own_attributes,
    plain_instance,
    summarise,
)

TYPE_CHECKING = False  # importing typing would cost every run some milliseconds
if TYPE_CHECKING:
    from typing import Any

CONTAINERS = frozenset({list, tuple, set, frozenset, dict})
_CHANGING = frozenset({list, dict, set})


class Scan:
    """One look at a value: its ``node``; whether it is ``flat``; where its ``members`` are.

    ``flat``: it holds nothing that could change behind its back but itself. ``members``: for each
    object inside that can change, by id, the paths to it; None for one that cannot be sent.
    """

    __slots__ = ("_inside", "flat", "members", "node")

    def __init__(self, value: Any) -> None:
        self.flat = True
        self.members: dict[int, list[tuple[Any, ...] | None]] = {}
        self._inside: list[Any] = []
        try:
            self.node = self._node(value, LEVELS, ())
        except Exception:
            self.flat, self.node = False, summarise(value).row()

    def _node(self, value: Any, levels: int, path: tuple[Any, ...]) -> Any:
        kind = type(value)
        if kind in SCALAR:
            return value if kind is not str or len(value) <= CHARS else summarise(value).row()
        if kind in CONTAINERS:
            return self._container(value, kind, levels, path)
        if plain_instance(value, kind):
            return self._object(value, kind, levels, path)
        summary = summarise(value, levels)
        self.flat = self.flat and summary.flat
        return summary.row()

    def _container(self, value: Any, kind: Any, levels: int, path: tuple[Any, ...]) -> Any:
        flat = SCALAR.issuperset(map(type, value)) and (
            kind is not dict or SCALAR.issuperset(map(type, value.values()))
        )
        if path and kind in _CHANGING:
            self._member(value, path)
        if flat and kind is list and levels and len(value) <= ITEMS:
            return "list", len(value), value[:]
        cut = self._cut(value, kind.__name__, levels)
        if cut is not None:
            return cut
        self.flat = self.flat and flat and not (path and kind in _CHANGING)
        self._inside.append(value)
        items: list[Any] = []
        if kind is dict:
            for k, v in first_items(value.items()):
                items += [self._node(k, levels - 1, (*path, "≠key")),
                          self._node(v, levels - 1, (*path, k))]  # fmt: skip
        else:
            for n, item in enumerate(first_items(value)):
                items.append(self._node(item, levels - 1, (*path, n)))
        self._inside.pop()
        return kind.__name__, len(value), items

    def _object(self, value: Any, kind: Any, levels: int, path: tuple[Any, ...]) -> Any:
        fields = own_attributes(value)
        if path:
            self._member(value, path)
        self.flat = False
        cut = self._cut(value, "." + kind.__name__, levels)
        if cut is not None:
            return cut
        self._inside.append(value)
        items: list[Any] = []
        for name, part in first_items(fields.items()):
            items += [name, self._node(part, levels - 1, (*path, "≠" + name))]
        self._inside.pop()
        return "." + kind.__name__, len(fields), items

    def _member(self, value: Any, path: tuple[Any, ...]) -> None:
        self.flat = False
        sendable = all(type(part) in (int, str) for part in path)
        self.members.setdefault(id(value), []).append(path if sendable else None)

    def _cut(self, value: Any, name: str, levels: int) -> Any:
        if any(value is outer for outer in self._inside):
            return ("itself",)
        return None if levels else (name, 0, None)
