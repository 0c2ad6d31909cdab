"""Which variable a name means at a step: the call's own before those of the calls that its function
was made in, before the module's; and which variables can be seen from a step at all."""

from __future__ import annotations

from collections.abc import Iterator
from typing import TYPE_CHECKING, Any

from oddsum.trace.nodes import Node
from oddsum.trace.plain import UNKNOWN, Recorded, plain
from oddsum.trace.store import NOTHING, Part

if TYPE_CHECKING:
    from oddsum.trace.ask import Story
    from oddsum.trace.index import Index

Held = tuple[Part, int, "Variable"]  # a part, a reference in it, and whose it is
Variable = tuple[int, int]  # the call it belongs to (0 for the module), and its column's number


def owners(story: Index, column: int, frame: int) -> list[int]:
    """The calls whose variable a column can be, seen from a call, the nearest first; 0 for none."""
    told = story.steps.columns[column]
    around = story.steps.closures.get(frame, {}).get(told.function)
    mine = [told.owner(frame)]
    return mine if around is None else [*mine, around]


def calls_seen(story: Index, frame: int, function: str) -> Iterator[tuple[str, int]]:
    """A call's function and number, then those of the calls its function was made in."""
    yield function, frame
    around = story.steps.closures.get(frame, {})
    for title in sorted(around, key=len, reverse=True):  # the innermost has the longest title
        yield title, around[title]


class Sight:
    """Looks up some names in one story."""

    def __init__(self, story: Story, names: tuple[str, ...]) -> None:
        self.story, self.names = story, names
        table = list(enumerate(story.steps.columns))
        self._of = {n: [(number, c) for number, c in table if c.name == n] for n in names}
        self.columns = frozenset(number for mine in self._of.values() for number, _ in mine)

    def candidates(self, name: str, at: int) -> Iterator[Variable]:
        """The variables that a name could mean at a place, the nearest first."""
        story = self.story
        part, row = story.steps.place(at)
        statement = story.steps.statement_table[part.statement[row]]
        home = story.steps.homes.get(statement.file, "")
        for function, frame in calls_seen(story, part.frame[row], statement.function):
            for number, column in self._of[name]:
                if not column.shared and column.function == function:
                    yield frame, number
        for number, column in self._of[name]:
            in_body = column.function == statement.function and column.shared
            if in_body or column.function == home:
                yield 0, number

    def ref(self, name: str, at: int, part: Part | None = None) -> Held | None:
        """What a name refers to after the step at a place; None where it has no value."""
        part = part or self.story.steps.place(at)[0]
        for owner, number in self.candidates(name, at):
            told = self.story.ref_at(owner, number, at, part)
            if told is not None and told[1] != NOTHING:
                return told[0], told[1], (owner, number)
        return None

    def node_of(self, name: str, step: int) -> Node:
        """What a name holds after a step; UNKNOWN where it holds nothing."""
        found = self.ref(name, self.story.place(step))
        return UNKNOWN if found is None else found[0].node(found[1])

    def value(self, name: str, at: int, part: Part | None = None) -> Any:
        """What a name holds after the step at a place, as a plain value; UNKNOWN for nothing.

        The name of a class, a function or a module is one for its attributes.
        """
        part = part or self.story.steps.place(at)[0]
        found = self.ref(name, at, part)

        def attribute(title: str, wanted: str) -> Any:
            return self._attribute(title, wanted, at, part)

        if found is not None:
            return plain(found[0].node(found[1]), attribute)
        named = any(c.shared and c.function == name for c in self.story.steps.columns)
        return Recorded(name, {}, attribute) if named else UNKNOWN

    def _attribute(self, kind: str, name: str, at: int, part: Part) -> Any:
        """An attribute of a class, its own or one that it has from those it is made from."""
        steps = self.story.steps
        titles = [t for t in (*steps.bases, kind) if t.rpartition(".")[2] == kind]
        for title in titles[:1]:
            for owner in (title, *steps.bases.get(title, ())):
                number = self.story.column_number(f"{owner}.{name}")
                if number is None or not steps.columns[number].shared:
                    continue
                told = self.story.ref_at(0, number, at, part)
                if told is not None:
                    return plain(
                        told[0].node(told[1]), lambda k, n: self._attribute(k, n, at, part)
                    )
        return UNKNOWN

    def variable(self, name: str, step: int) -> Variable | None:
        """The variable that a name means at a step, where it holds something."""
        found = self.ref(name, self.story.place(step))
        return None if found is None else found[2]

    def changes(self, name: str, first: int, last: int) -> bool:
        """Whether what a name means at ``last`` changed after ``first``, up to then."""
        found = self.variable(name, last)
        if found is None:
            return False
        title = self.story.steps.columns[found[1]].title
        made = self.story.last_change(title, found[0], last)
        return made is not None and made > first
