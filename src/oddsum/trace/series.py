"""Numbers through a run: what a chart is drawn of."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from oddsum.model.column import short_name
from oddsum.model.errors import OddSumError
from oddsum.trace.ask import Story
from oddsum.trace.inside import attribute_of
from oddsum.trace.nodes import Node
from oddsum.trace.rounds import Pass

_MOST_POINTS = 20_000  # of one line; beyond, the points are thinned evenly


class SeriesError(OddSumError):
    """There is nothing to draw: no such variable, or no numbers in it."""


@dataclass(frozen=True)
class Series:
    """One variable: a value at each of its moments; ``where`` counts steps or rounds from 1."""

    name: str
    where: tuple[int, ...]
    values: tuple[float, ...]


def series(story: Story, name: str, loop: Pass | None = None) -> Series:
    """A numeric variable over the steps, or over the rounds of one time a loop was gone through.

    Of a list, its length. Raises SeriesError.
    """
    column = column_of(story, name)
    found: list[tuple[int, float]] = []
    for number, node in _contents(story, column):
        value = _number(node)
        if value is not None:
            found.append((number, value))
    if loop is not None:
        found = _by_round(found, loop)
    if not found:
        where = f" in the rounds of the loop on line {loop.header.line}" if loop is not None else ""
        raise SeriesError(f"{name} holds no number{where}: there is nothing to draw.")
    thin = max(1, len(found) // _MOST_POINTS)
    kept = found[::thin]
    return Series(column, tuple(n for n, _ in kept), tuple(v for _, v in kept))


def _contents(story: Story, title: str) -> Iterator[tuple[int, Node]]:
    """What a variable, or an attribute of what one holds, became: the steps, and the values."""
    column = story.table.by_title.get(title)
    if column is None or not column.attribute:
        for number in story.changes_of(title):
            yield number, story.node_after(title, number)
        return
    for place in story.table.places[title]:
        number = story.number(place)
        node = story.node_after(column.variable, number)
        yield number, attribute_of(node, column.attribute)


def _by_round(found: Sequence[tuple[int, float]], loop: Pass) -> list[tuple[int, float]]:
    """The last value of each round."""
    last: dict[int, float] = {}
    for number, value in found:
        if loop.enters <= number <= loop.ends and loop.round_at(number):
            last[loop.round_at(number)] = value
    return sorted(last.items())


def column_of(story: Story, name: str) -> str:
    """The column that a variable's name means, with or without its function; raises SeriesError."""
    names = story.columns
    mine = [c for c in names if name in (c, short_name(c))]
    mine += [t for t, c in story.table.by_title.items() if c.attribute and name in (t, c.name)]
    if not mine:
        known = ", ".join(names[:12])
        raise SeriesError(f"No variable is called {name} in this trace.",
                          hint=f"There are: {known}." if known else "")  # fmt: skip
    return mine[0]


def _number(node: Node) -> float | None:
    if isinstance(node, (int, float)):
        try:
            return float(node)
        except OverflowError:
            return None
    if isinstance(node, tuple) and len(node) == 3 and node[0][:1] != ".":
        return float(node[1])
    return None


def bars(story: Story, name: str, number: int) -> Series:
    """The items of a list at a step: where is the index, from 0. Raises SeriesError."""
    column = column_of(story, name)
    node = story.node_of(column, number)
    items = node[2] if isinstance(node, tuple) and len(node) == 3 and node[2] is not None else ()
    found = [(n, v) for n, item in enumerate(items) if (v := _number(item)) is not None]
    if not found:
        raise SeriesError(f"{name} is no list of numbers at step {number}.")
    return Series(column, tuple(n for n, _ in found), tuple(v for _, v in found))


def numeric(story: Story) -> list[str]:
    """The variables that hold numbers or lists somewhere, those that change most often first."""
    found = []
    for name in story.columns:
        numbers = story.changes_of(name)
        if numbers and _number(story.node_after(name, numbers[-1])) is not None:
            found.append((len(numbers), name))
    return [name for _, name in sorted(found, key=lambda f: -f[0])]
