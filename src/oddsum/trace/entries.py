"""Names and lists at a step: which name holds which list, numbered as entries of a ledger."""

from __future__ import annotations

from dataclasses import dataclass

from oddsum.trace.ask import Story


@dataclass(frozen=True)
class Name:
    """A variable: its value as a text, or the number of its entry; 0 for none."""

    name: str
    text: str
    entry: int


@dataclass(frozen=True)
class Entry:
    """A list, dict or object, with the names that hold it; numbered from 1."""

    number: int
    type: str
    size: int | None
    text: str
    names: tuple[str, ...]


@dataclass(frozen=True)
class Ledger:
    """The names that have a value at a step, and the entries that they carry the numbers of."""

    names: tuple[Name, ...]
    entries: tuple[Entry, ...]


def ledger_at(story: Story, number: int) -> Ledger:
    """What every name in sight holds after a step.

    A value that can change is told by the number of the object it is, which the recording has: two
    names with one number are two names for one object. What lies inside of another list has no
    number of its own there, and stands in its content.
    """
    values = story.values_at(number)
    numbers: dict[int, int] = {}
    holders: dict[int, list[str]] = {}
    for name, value in values.items():
        if value.number:
            numbers.setdefault(value.number, len(numbers) + 1)
            holders.setdefault(value.number, []).append(name)
    names = tuple(
        Name(name, value.text, numbers.get(value.number, 0)) for name, value in values.items()
    )
    entries = []
    for name, value in values.items():
        if value.number and holders[value.number][0] == name:
            entries.append(Entry(numbers[value.number], value.type, value.size, value.text,
                                 tuple(holders[value.number])))  # fmt: skip
    return Ledger(names, tuple(entries))
