"""What exactly changed in a step: not the whole of a list or an object, but the part of it.

An attribute of an object that changes is a column of its own, ``kiosk.takings``; an item of a list
or a dict is told by its place within the column of its name, ``[3] 5 → 7``.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from typing import TYPE_CHECKING, Any, NamedTuple

from oddsum.model.column import short_name
from oddsum.trace.nodes import Node, same, scalar_text, text_of
from oddsum.trace.objects import copied
from oddsum.trace.store import NOTHING, is_object, ref_number

if TYPE_CHECKING:
    from oddsum.trace.store import Steps

_MOST_PARTS = 3  # of one value that are told apart; where more changed, the whole is


Fields = tuple[tuple[str, str], ...]


class Inner(NamedTuple):
    """A variable, or a part of what it holds, that got another value in a step.

    ``column`` is the column it is inked in; ``variable`` the one whose value it is part of;
    ``owner`` the call that has it, 0 for none; ``place`` where in the column's value it is, as it
    would be written behind it (``[3]``, ``['tea'].stock``), blank for the whole. ``before`` and
    ``after`` are texts, None for nothing there; ``whole`` the text of all that the column holds
    after it, and ``fields`` its attributes with their texts, where it is a whole object.
    """

    column: str
    variable: str
    owner: int
    place: str
    before: str | None
    after: str | None
    whole: str
    fields: Fields = ()

    @property
    def name(self) -> str:
        """The column as the program writes it: the variable without its function, the attribute."""
        return short_name(self.variable) + self.column[len(self.variable) :]

    def in_words(self, words: str = "", name: str = "") -> str:
        """The name with what is said of it; other words, or under another name of the same."""
        return f"{name or self.name}{'' if self.place else ' '}{words or self.said}"

    @property
    def said(self) -> str:
        """The change in words: ``[3] 5 → 7``, ``12 added``, ``(gone)``."""
        at = f"{self.place} " if self.place else ""
        if self.after is None:
            return f"{at}{self.before} taken out" if self.place else "(gone)"
        if self.before is None:
            return f"{at}{self.after} added" if self.place else self.after
        return f"{at}{self.before} → {self.after}"


def inner_changes(steps: Steps, place: int) -> tuple[Inner, ...]:
    """What changed in the step at a place (from 0), in the smallest parts that tell it.

    One object's change is told once: of several names for it the outermost has the column of its
    attribute.
    """
    part, row = steps.place(place)
    told: list[tuple[int, Inner]] = []
    for n in steps.changes_of(part, row):
        variable = steps.column_names[part.column[n]]
        before, after = part.before[n], part.after[n]
        mine = ref_number(after) if is_object(after) else 0
        old = _NONE if before == NOTHING else copied(part.node(before))
        new = _NONE if after == NOTHING else part.node(after)
        same_one = mine and is_object(before) and ref_number(before) == mine
        parts = list(_differing(unfilled(old, new), new)) if same_one else [((), old, new)]
        told += [(mine, _inner(variable, part.owner[n], new, p)) for p in parts]
    return tuple(_once(told))


def unfilled(old: Node, new: Node) -> Node:
    """What an object was: one without any attribute yet is recorded as its text alone."""
    if isinstance(old, list) and is_instance(new) and old[1] == f"{new[0][1:]}()":
        return new[0], 0, []
    return old


def fields_of(node: Node) -> Fields:
    """The attributes of an object with their texts; none for anything else."""
    if not is_instance(node):
        return ()
    return tuple(
        (str(name), text_of(value)[0])
        for name, value in zip(node[2][::2], node[2][1::2], strict=True)
    )


def brief(text: str, fields: Fields, room: int, first: Sequence[str] = ()) -> str:
    """A value in so many cells: an object by the attributes that change (``first``), then others.

    What has no attributes, or fits, is its text. Where not even one attribute fits, the text.
    """
    if len(text) <= room or not fields:
        return text
    order = sorted(fields, key=lambda f: (f[0] not in first, _is_long(f[1])))
    made = text.partition("(")[0] + ":"
    for n, (name, value) in enumerate(order):
        more = f"{',' if n else ''} {name} {value}"
        if len(made) + len(more) > room:
            left = room - len(made)
            return made + (more[: left - 1] + "…" if left > len(name) + 6 else " …")
        made += more
    return made


def _is_long(text: str) -> bool:
    return text[:1] in "[{(" or len(text) > 20


def _once(told: Sequence[tuple[int, Inner]]) -> Iterator[Inner]:
    """An attribute of one object under one name: the outermost; the rest as they are.

    A place further in is left out where the object that it is in has a name of its own.
    """
    least: dict[tuple[int, str], int] = {}
    for object_, one in told:
        if _of_attribute(one):
            key = object_, one.column[len(one.variable) :] + one.place
            least[key] = min(least.get(key, one.owner), one.owner)
    direct = {(_last(o), o.before, o.after) for _, o in told if _of_attribute(o) and not o.place}
    for object_, one in told:
        key = object_, one.column[len(one.variable) :] + one.place
        if _of_attribute(one) and one.owner != least[key]:
            continue
        if "." in one.place and (_last(one), one.before, one.after) in direct:
            continue
        yield one


def _of_attribute(one: Inner) -> bool:
    return one.column != one.variable


def _last(one: Inner) -> str:
    return (one.place or one.column).rpartition(".")[2]


class _Nothing:
    """Stands for a part that is not there."""


_NONE = _Nothing()
Path = tuple[tuple[str, Any], ...]  # of ("attribute", name), ("item", index), ("key", node)


def _differing(old: Node, new: Node, path: Path = ()) -> Iterator[tuple[Path, Any, Any]]:
    """The parts in which two contents of one object differ, as deep as few of them do."""
    parts = differing_parts(old, new)
    if parts is None or (len(parts) > _MOST_PARTS and not is_instance(new)):
        if not same(old, new):
            yield path, old, new
        return
    for step, before, after in parts:
        if isinstance(before, _Nothing) or isinstance(after, _Nothing):
            yield (*path, step), before, after
        else:
            yield from _differing(before, after, (*path, step))


def is_instance(node: Node) -> bool:
    """Whether a node is an object with its attributes."""
    return _has_items(node) and node[0][:1] == "."


def _has_items(node: Node) -> bool:
    return isinstance(node, tuple) and len(node) == 3 and node[2] is not None


def differing_parts(old: Node, new: Node) -> list[tuple[tuple[str, Any], Any, Any]] | None:
    """Where two nodes of one kind differ, a level in; None where they cannot be told apart so."""
    if not (_has_items(old) and _has_items(new)) or old[0] != new[0]:
        return None
    kind, before, after = new[0], old[2], new[2]
    if kind == "dict" or kind[:1] == ".":
        return _pairs(kind, before, after)
    if kind in ("list", "tuple"):
        return _items(before, after) if (old[1], new[1]) == (len(before), len(after)) else None
    return None  # a set has no places


def _pairs(kind: str, before: list[Node], after: list[Node]) -> list[tuple[Any, Any, Any]]:
    word = "key" if kind == "dict" else "attribute"
    old = {scalar_text(k): (k, v) for k, v in zip(before[::2], before[1::2], strict=True)}
    new = {scalar_text(k): (k, v) for k, v in zip(after[::2], after[1::2], strict=True)}
    found: list[tuple[Any, Any, Any]] = []
    for text, (key, value) in new.items():
        was = old[text][1] if text in old else _NONE
        if isinstance(was, _Nothing) or not same(was, value):
            found.append(((word, key), was, value))
    found += [((word, key), value, _NONE) for text, (key, value) in old.items() if text not in new]
    return found


def _items(before: list[Node], after: list[Node]) -> list[tuple[Any, Any, Any]] | None:
    """Items that changed in place; or the one run of items that came in, or went."""
    if len(before) == len(after):
        return [
            (("item", n), a, b)
            for n, (a, b) in enumerate(zip(before, after, strict=True))
            if not same(a, b)
        ]
    short, long = sorted((before, after), key=len)
    start = next((n for n, (a, b) in enumerate(zip(short, long, strict=False)) if not same(a, b)),
                 len(short))  # fmt: skip
    more = len(long) - len(short)
    rest = zip(short[start:], long[start + more :], strict=True)
    if more > _MOST_PARTS or not all(same(a, b) for a, b in rest):
        return None
    moved = [(("item", start + n), long[start + n]) for n in range(more)]
    if long is after:
        return [(step, _NONE, item) for step, item in moved]
    return [(step, item, _NONE) for step, item in moved]


def _inner(variable: str, owner: int, root: Node, told: tuple[Path, Any, Any]) -> Inner:
    path, before, after = told
    column, whole = variable, _text(root) or ""
    fields = () if path else fields_of(root)
    if path and path[0][0] == "attribute":
        name = str(path[0][1])
        column = attribute_column(variable, name)
        whole = text_of(attribute_of(root, name))[0]
        path = path[1:]
    return Inner(column, variable, owner, "".join(_written(step) for step in path),
                 _text(before), _text(after), whole, fields)  # fmt: skip


def attribute_of(node: Node, name: str) -> Node:
    """One attribute of an object; None where it has none of the name."""
    if not is_instance(node):
        return None
    return next((v for k, v in zip(node[2][::2], node[2][1::2], strict=True) if k == name), None)


def _text(node: Any) -> str | None:
    return None if isinstance(node, _Nothing) else text_of(node)[0]


def _written(step: tuple[str, Any]) -> str:
    kind, what = step
    return f".{what}" if kind == "attribute" else f"[{text_of(what)[0]}]"


def attribute_column(variable: str, name: str) -> str:
    """The title of the column of an attribute of what a variable holds."""
    return f"{variable}.{name}"
