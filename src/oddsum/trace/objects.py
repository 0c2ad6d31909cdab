"""The lists, dicts and objects of a run through time: each a first content and what changed.

Only changes are kept, with a whole copy now and then, so that a list of 1,000 items that grows or
changes item by item takes no more memory than the items that changed.
"""

from __future__ import annotations

from typing import Any

from oddsum.trace.nodes import Node, same, weight

_LEAST_CHANGES = 32  # between two whole copies; more where a copy is larger


_NONE: list[Any] = []


class Life:
    """One object: its versions are numbered from ``first``."""

    __slots__ = ("_at", "_changes", "_copies", "_now", "_room", "_since", "first")

    def __init__(self, node: Node, first: int = 0) -> None:
        self.first = first
        self._copies: list[tuple[int, Node]] = _NONE  # most lists never change: nothing is copied
        self._changes: list[tuple[Any, ...]] = _NONE
        self._now = node
        self._since, self._room = 0, _LEAST_CHANGES  # changes since the last copy; until the next
        self._at: tuple[int, Node] | None = None  # the version looked at last

    @property
    def last(self) -> int:
        """The number of the newest version."""
        return self.first + len(self._changes)

    @property
    def now(self) -> Node:
        """The newest version; not to be kept, for it changes."""
        return self._now

    def put(self, change: tuple[Any, ...]) -> bool:
        """Take a change; False where it changes nothing.

        ``("all", node)``, ``("set", path, key, value)``, ``("add", path, value)``,
        ``("drop", path, place)``.
        """
        if change[0] == "all":
            change = _narrowed(self._now, change[1])
        if not change or (change[0] == "set" and self._holds(change)):
            return False
        if self._changes is _NONE:
            self._changes, self._copies = [], [(self.first, self._now)]
            self._now = copied(self._now)
        self._now = _applied(self._now, change)
        self._changes.append(change)
        self._since += 1
        if self._since >= self._room:
            self._copies.append((self.last, copied(self._now)))
            self._since, self._room = 0, max(_LEAST_CHANGES, weight(self._now))
        return True

    def _holds(self, change: tuple[Any, ...]) -> bool:
        _, path, key, value = change
        at = _within(self._now, path)
        place = _place(at, key)
        return place is not None and same(at[2][place], value)

    def version(self, number: int) -> Node:
        """The content at a version; not to be changed."""
        if number == self.last:
            return self._now
        if self._at is None or self._at[0] > number:
            self._at = self._copy_before(number)
        elif number - self._at[0] > _LEAST_CHANGES:
            near = self._copy_before(number)
            self._at = near if near[0] > self._at[0] else self._at
        at, node = self._at
        for change in self._changes[at - self.first : number - self.first]:
            node = _applied(node, change)
        self._at = (number, node)
        return node

    def _copy_before(self, number: int) -> tuple[int, Node]:
        low, high = 0, len(self._copies)
        while high - low > 1:
            middle = (low + high) // 2
            low, high = (middle, high) if self._copies[middle][0] <= number else (low, middle)
        at, node = self._copies[low]
        return at, copied(node)

    def change(self, number: int) -> tuple[Any, ...] | None:
        """What led from the version before to this one, None for the first."""
        return self._changes[number - self.first - 1] if number > self.first else None


def copied(node: Node) -> Node:
    """A copy that shares no list of items."""
    if not isinstance(node, tuple) or len(node) == 1 or node[2] is None:
        return node
    kind, size, items = node
    return kind, size, [copied(item) if isinstance(item, tuple) else item for item in items]


def _within(node: Node, path: tuple[Any, ...]) -> Node:
    for step in path:
        place = _place(node, step)
        node = node[2][place] if place is not None else None
    return node


def _place(node: Node, step: Any) -> int | None:
    """Where an index, a key or an attribute's name stands among a node's items."""
    if not isinstance(node, tuple) or len(node) == 1 or node[2] is None:
        return None
    kind, _, items = node
    if kind in ("list", "tuple"):
        return step if isinstance(step, int) and 0 <= step < len(items) else None
    if kind[:1] == "." and isinstance(step, str):
        step = step.lstrip("≠")
    for n in range(0, len(items), 2):
        if same(items[n], step):
            return n + 1
    return None


def _applied(node: Node, change: tuple[Any, ...]) -> Node:
    """The node after a change; its lists of items are changed in place."""
    if change[0] == "all":
        return copied(change[1])
    if change[0] == "splice":
        _, start, stop, items, size = change
        node[2][start:stop] = [copied(i) for i in items]
        return node[0], size, node[2]
    path = change[1]
    if path:
        outer = _within(node, path[:-1])
        place = _place(outer, path[-1])
        if place is not None:
            outer[2][place] = _applied(outer[2][place], (change[0], (), *change[2:]))
        return node
    return _applied_here(node, change)


def _applied_here(node: Node, change: tuple[Any, ...]) -> Node:
    if not isinstance(node, tuple) or len(node) == 1 or node[2] is None:
        return node
    kind, size, items = node
    if change[0] == "add":
        if len(items) == size and size < _MOST:
            items.append(copied(change[2]))
        return kind, size + 1, items
    if change[0] == "drop":
        if items:
            del items[change[2]]
        return kind, size - 1, items
    _, _, key, value = change
    place = _place(node, key)
    if place is not None:
        items[place] = copied(value)
        return node
    if kind == "dict" or kind[:1] == ".":
        if len(items) < 2 * _MOST:
            items += [key, copied(value)]
        return kind, size + 1, items
    return node


_MOST = 1000  # items followed: the probe's own limit


def _narrowed(old: Node, new: Node) -> tuple[Any, ...]:
    """A whole new content as the smallest run of items that differs; nothing where none does."""
    if not (_is_list(old) and _is_list(new)) or old[0] != new[0]:
        return () if same(old, new) else ("all", new)
    before, after = old[2], new[2]
    start, most = 0, min(len(before), len(after))
    while start < most and same(before[start], after[start]):
        start += 1
    end = 0
    while end < most - start and same(before[-1 - end], after[-1 - end]):
        end += 1
    if start == len(before) == len(after) and old[1] == new[1]:
        return ()
    return "splice", start, len(before) - end, after[start : len(after) - end], new[1]


def _is_list(node: Node) -> bool:
    return isinstance(node, tuple) and len(node) == 3 and node[0] == "list" and node[2] is not None
