"""Names and lists at a step: which name holds which list, numbered as entries of a ledger."""

from __future__ import annotations

from dataclasses import dataclass

from oddsum.model.trace import Value
from oddsum.trace.ask import Story
from oddsum.trace.containment import Containment, Places, Way, has_inner, node_at, put_at
from oddsum.trace.nodes import Node, value_of
from oddsum.trace.store import Part, ref_number

_NO_WEB = Containment({})
_MOST_NAMES = 500  # of calls within calls that are looked through
_MOST_HOLDERS = 6  # that a sentence names


@dataclass(frozen=True)
class Name:
    """A variable: its value as a text, or the number of its entry; 0 for none."""

    name: str
    text: str
    entry: int


@dataclass(frozen=True)
class Entry:
    """A list, dict or object, with the names and the places that hold it; numbered from 1."""

    number: int
    type: str
    size: int | None
    text: str
    names: tuple[str, ...]
    places: tuple[str, ...] = ()

    @property
    def holders(self) -> tuple[str, ...]:
        """All that holds it: the names, then places inside of others."""
        return (*self.names, *self.places)


@dataclass(frozen=True)
class Ledger:
    """The names that have a value at a step, and the entries that they carry the numbers of."""

    names: tuple[Name, ...]
    entries: tuple[Entry, ...]

    def shared(self) -> list[str]:
        """A sentence for each entry that is held more than once, then what it means."""
        told = [_shared_words(e) for e in self.entries if len(e.holders) > 1]
        return [*told, "What is done to one of them is done to all."] if told else []


def _shared_words(entry: Entry) -> str:
    told, more = list(entry.holders[:_MOST_HOLDERS]), len(entry.holders) - _MOST_HOLDERS
    if more > 0:
        told.append(f"{more} more")
    return f"{', '.join(told[:-1])} and {told[-1]} are one and the same {entry.type}."


def ledger_at(story: Story, number: int, containment: Containment | None = None) -> Ledger:
    """What every name in sight holds after a step.

    A value that can change is told by the number of the object it is, which the recording has: two
    names with one number are two names for one object. With a ``containment`` of the step the same
    is told of what lies inside: an object that a name or a second place holds as well is an entry
    of its own, and others carry its number. One that is held once stands in its holder's content.
    """
    seen = _in_sight(story, number)
    values = {name: value_of(part.node(ref), ref_number(ref)) for name, (part, ref) in seen.items()}
    named: dict[int, list[str]] = {}
    for name, value in values.items():
        if value.number:
            named.setdefault(value.number, []).append(name)
    nodes = {n: seen[names[0]][0].node(seen[names[0]][1]) for n, names in named.items()}
    inner = _Inner(containment or _NO_WEB, named, nodes)
    numbers = {known: n for n, known in enumerate((*named, *inner.shared), 1)}
    return Ledger(
        tuple(Name(name, v.text, numbers.get(v.number, 0)) for name, v in values.items()),
        tuple(inner.entry(known, n, numbers) for known, n in numbers.items()),
    )


def may_share(story: Story, number: int) -> bool:
    """Whether, at a step, a list or an object lies inside of another: there is more to tell."""
    seen = _in_sight(story, number).values()
    return any(has_inner(part.node(ref)) for part, ref in seen if ref_number(ref))


def _in_sight(story: Story, number: int) -> dict[str, tuple[Part, int]]:
    """What every name under way refers to: those in sight, then those of the calls around.

    A call further out of a function that is called from itself has its step beside its names.
    """
    found = story.refs_at(number)
    at = story.caller_of(story.frame_at(number))
    while at is not None and len(found) < _MOST_NAMES:
        part, row = story.steps.place(at)
        frame = part.frame[row]
        for name, ref in story.refs_at(number, frame).items() if frame else ():
            if name not in found:
                found[name] = ref
            elif found[name] != ref and story.column_owner(name, frame):
                found[f"{name}, call {frame}"] = ref
        at = story.caller_of(frame)
    return found


class _Inner:
    """What lies inside of the objects that names hold."""

    def __init__(
        self, containment: Containment, named: dict[int, list[str]], nodes: dict[int, Node]
    ) -> None:
        self.named, self.nodes = named, nodes
        # A way that the recording does not know belongs to a run that went another way.
        self.ways: dict[int, dict[Way, int]] = {
            root: {
                way: member
                for way, member in containment.ways.get(root, {}).items()
                if node_at(node, way) is not None
            }
            for root, node in nodes.items()
        }
        holders = Containment(self.ways).holders(named)
        self.places = Places({n: names[0] for n, names in named.items()}, holders)
        self.shared = [n for n, held in holders.items() if n not in named and len(held) > 1]

    def entry(self, known: int, number: int, numbers: dict[int, int]) -> Entry:
        """The entry of an object, what else is an entry standing in it as its number."""
        value = self._value(known, numbers)
        return Entry(number, value.type, value.size, value.text, tuple(self.named.get(known, ())),
                     tuple(self.places.of(known)))  # fmt: skip

    def _value(self, known: int, numbers: dict[int, int]) -> Value:
        root, start = self._way_to(known)
        puts = {
            way[len(start) :]: [f"entry {numbers[member]}", f"entry {numbers[member]}", None, True]
            for way, member in self.ways[root].items()
            if member in numbers and len(way) > len(start) and way[: len(start)] == start
        }
        return value_of(put_at(node_at(self.nodes[root], start), puts))

    def _way_to(self, known: int) -> tuple[int, Way]:
        if known in self.named:
            return known, ()
        return next((root, way) for root, ways in self.ways.items()
                    for way, member in ways.items() if member == known)  # fmt: skip
