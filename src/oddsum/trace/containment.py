"""Which objects lie inside of which, at one step: told by a recording made for it.

The rows come from the probe's ``containment.py``. What holds an object is the nearest object around
it: of a list of two rows, a row's own items are held by the row, however long the way from the name
is.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass, field
from typing import Any

from oddsum.trace.nodes import Node

Way = tuple[Any, ...]  # steps into an object: a place, a key, ``≠name`` for an attribute
ATTRIBUTE = "≠"


@dataclass(frozen=True)
class Containment:
    """Objects by number: ``ways[outer][way]`` is the object there."""

    ways: dict[int, dict[Way, int]]

    def holders(self, roots: Iterable[int]) -> dict[int, list[tuple[int, Way]]]:
        """For each object inside of some others, what holds it and where, outermost first."""
        found: dict[int, dict[tuple[int, Way], None]] = {}
        for root in roots:
            inside = self.ways.get(root, {})
            for way, member in sorted(inside.items(), key=lambda item: len(item[0])):
                found.setdefault(member, {})[_nearest(root, inside, way)] = None
        return {member: list(places) for member, places in found.items()}


def web_of(rows: Iterable[list[Any]]) -> Containment:
    """The rows of the probe, by object."""
    ways: dict[int, dict[Way, int]] = {}
    for outer, way, member in rows:
        ways.setdefault(outer, {})[tuple(way)] = member
    return Containment(ways)


def _nearest(root: int, inside: dict[Way, int], way: Way) -> tuple[int, Way]:
    for length in range(len(way) - 1, 0, -1):
        holder = inside.get(way[:length])
        if holder is not None:
            return holder, way[length:]
    return root, way


def node_at(node: Node, way: Way) -> Node | None:
    """What stands at a way into a node; None where the node does not reach that far."""
    for step in way:
        node = next((part for at, part in _parts(node) if at == step), None)
    return node


def put_at(node: Node, puts: dict[Way, Node], way: Way = ()) -> Node:
    """The node with others in the place of what stands at some ways."""
    if way in puts:
        return puts[way]
    if not isinstance(node, tuple) or len(node) == 1 or node[2] is None:
        return node
    values = [put_at(part, puts, (*way, at)) for at, part in _parts(node)]
    if node[0] == "dict" or node[0][:1] == ".":
        items = [x for pair in zip(node[2][::2], values, strict=True) for x in pair]
    else:
        items = values
    return (node[0], node[1], items)


def _parts(node: Node) -> Iterator[tuple[Any, Node]]:
    """The parts of a node, each with the step that leads to it."""
    if not isinstance(node, tuple) or len(node) == 1 or node[2] is None:
        return
    kind, _, items = node
    if kind == "dict":
        yield from zip(items[::2], items[1::2], strict=True)
    elif kind[:1] == ".":
        yield from (
            (ATTRIBUTE + name, part) for name, part in zip(items[::2], items[1::2], strict=True)
        )
    else:
        yield from enumerate(items)


def has_inner(node: Node) -> bool:
    """Whether an object lies inside that could be held by something else as well."""
    return any(_can_change(part) or has_inner(part) for _, part in _parts(node))


def _can_change(node: Node) -> bool:
    return isinstance(node, tuple) and (node[0] in ("list", "dict", "set") or node[0][:1] == ".")


@dataclass
class Places:
    """Objects as a program would write them: ``decks[0]``, ``cars[1].load``."""

    names: dict[int, str]
    holders: dict[int, list[tuple[int, Way]]]
    _known: dict[int, str] = field(default_factory=dict)

    def of(self, number: int) -> list[str]:
        """Every place inside of something else that holds an object."""
        return [
            self._object(holder) + _written(way) for holder, way in self.holders.get(number, ())
        ]

    def _object(self, number: int) -> str:
        if number in self.names:
            return self.names[number]
        if number not in self._known:
            self._known[number] = "…"  # an object that holds itself
            holder, way = self.holders[number][0]
            self._known[number] = self._object(holder) + _written(way)
        return self._known[number]


def _written(way: Way) -> str:
    text = ""
    for step in way:
        if isinstance(step, str) and step[:1] == ATTRIBUTE:
            text += f".{step[1:]}"
        else:
            text += f"[{step!r}]"
    return text
