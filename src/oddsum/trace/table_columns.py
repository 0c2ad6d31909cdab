"""The columns of a trace table: every variable, and every attribute that an object changes.

Which object's attribute changed is read off the changes as they were recorded, without comparing
whole values: the columns of a run of a million steps are found in about a second.
"""

from __future__ import annotations

from array import array
from bisect import bisect_left, bisect_right
from functools import lru_cache, partial
from typing import Any, NamedTuple

from oddsum.model.column import is_watched, short_name
from oddsum.trace.inside import (
    Inner,
    attribute_column,
    differing_parts,
    inner_changes,
    is_instance,
    unfilled,
)
from oddsum.trace.objects import copied
from oddsum.trace.store import Part, Steps, is_object, ref_number

_KEPT_ROWS = 4096  # steps whose changes are remembered: a table writes the same rows often
FAR = 1 << 40  # steps to the nearest change of a column that never changes

_VERSION = (1 << 28) - 1  # the bits of a reference that are an object's version


class TableColumn(NamedTuple):
    """A column: the variable, and the attribute of what that holds; blank for all of it."""

    variable: str
    attribute: str = ""

    @property
    def title(self) -> str:
        """The column's title, whole."""
        return attribute_column(self.variable, self.attribute) if self.attribute else self.variable

    @property
    def name(self) -> str:
        """As the program writes it: ``total``, ``kiosk.takings``."""
        short = short_name(self.variable)
        return attribute_column(short, self.attribute) if self.attribute else short


class TableColumns:
    """Finds the columns, and the steps that ink each of them, of one recording."""

    def __init__(self, steps: Steps) -> None:
        self._steps, self._names = steps, steps.column_names
        self.places: dict[str, array[int]] = {}
        self.by_title: dict[str, TableColumn] = {}
        start = 0
        for part in steps.parts:
            self._look_at(start, part)
            start += len(part)
        self.titles = tuple(self.by_title)
        ran = dict.fromkeys(n for part in steps.parts for n in dict.fromkeys(part.statement))
        # The program's files that ran, in the order of their first step.
        self.files = tuple(dict.fromkeys(steps.statement_table[n].file for n in ran))
        self.widths: dict[str, int] = {}  # cells of a column, kept by who has measured it
        self._inner = lru_cache(maxsize=_KEPT_ROWS)(partial(inner_changes, steps))

    def inner(self, number: int) -> tuple[Inner, ...]:
        """What changed in a step, in the smallest parts that tell it; raises IndexError."""
        place = self._steps.index_of(number)
        if place is None:
            raise IndexError(number)
        return self._inner(place)

    def rows_of(self, function: str) -> array[int]:
        """The places of the steps of one function, blank for the main part."""
        mine = {n for n, s in enumerate(self._steps.statement_table) if s.function == function}
        found, start = array("i"), 0
        for part in self._steps.parts:
            found.extend(start + row for row, one in enumerate(part.statement) if one in mine)
            start += len(part)
        return found

    def _look_at(self, start: int, part: Part) -> None:
        before, after, rows = part.before, part.after, part.row
        seen: dict[tuple[int, str], tuple[int, int]] = {}  # in one row: an object's attribute
        at_row = -1
        for n, column in enumerate(part.column):
            old, new = before[n], after[n]
            if old == new:
                continue
            if rows[n] != at_row:
                self._put_attributes(start + at_row, seen)
                seen, at_row = {}, rows[n]
            attributes: tuple[str, ...] = ()
            mine = ref_number(new) if is_object(new) else 0
            if mine and is_object(old) and ref_number(old) == mine:
                attributes = _attributes(part, mine, old & _VERSION, new & _VERSION)
            for name in attributes:
                known = seen.get((mine, name))
                if known is None or part.owner[n] < known[0]:
                    seen[mine, name] = part.owner[n], column
            if not attributes:
                self._put(TableColumn(self._names[column]), start + rows[n])
        self._put_attributes(start + at_row, seen)

    def _put_attributes(self, place: int, seen: dict[tuple[int, str], tuple[int, int]]) -> None:
        for (_, name), (_, column) in seen.items():
            self._put(TableColumn(self._names[column], name), place)

    def _put(self, column: TableColumn, place: int) -> None:
        title = column.title
        places = self.places.get(title)
        if places is None:
            self.by_title[title] = column
            self.places[title] = places = array("i")
        if not places or places[-1] != place:
            places.append(place)

    def order(self) -> list[str]:
        """The titles as a table has them: watched expressions first, constants (all capitals)
        last."""
        return sorted(
            self.titles, key=lambda t: (not is_watched(t), self.by_title[t].name.isupper())
        )

    def distance(self, title: str, place: int) -> int:
        """Steps from a place to the nearest change of a column; what comes weighs twice."""
        places = self.places.get(title)
        if not places:
            return FAR
        at = bisect_right(places, place)
        back = place - places[at - 1] if at else FAR
        on = 2 * (places[at] - place) if at < len(places) else FAR
        return min(back, on)

    def next_change(self, title: str, place: int) -> int | None:
        """The place of the next change of a column after this one."""
        places = self.places.get(title, array("i"))
        at = bisect_right(places, place)
        return places[at] if at < len(places) else None

    def last_change(self, title: str, place: int) -> int | None:
        """The place of the last change of a column before this one."""
        places = self.places.get(title, array("i"))
        at = bisect_left(places, place)
        return places[at - 1] if at else None


def _attributes(part: Part, number: int, old: int, new: int) -> tuple[str, ...]:
    """The attributes that an object changed between two of its versions; none for what has none."""
    life = part.lives.get(number)
    if life is None or not is_instance(life.now):
        return ()
    found: dict[str, None] = {}
    for version in range(old + 1, new + 1):
        change = life.change(version)
        if change is None:
            continue
        if change[0] == "all":
            was = unfilled(copied(life.version(version - 1)), change[1])
            unlike = differing_parts(was, change[1]) or ()
            found.update(dict.fromkeys(str(step[1]) for step, _, _ in unlike))
        else:
            path: tuple[Any, ...] = change[1] or change[2:3]
            if path and isinstance(path[0], str):
                found[path[0].lstrip("≠")] = None
    return tuple(found)
