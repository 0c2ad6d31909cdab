"""Which values would have been right: a case is run with one expression's value changed."""

from __future__ import annotations

import copy
import itertools
import sys
import time
import types

from .conditions import conditions, frames_at, holding, scalars_at
from .gaps import Printed, missing_text, tried
from .sites import HOOK, Places, Sites
from .summary import summarise
from .would import TEXTS, Hints, candidates, numbers_in_rounds, times

TYPE_CHECKING = False  # importing typing would cost every run some milliseconds
if TYPE_CHECKING:
    from collections.abc import Callable, Iterator, Sequence
    from typing import Any

    from .conditions import Condition

    Request = dict[str, Any]

OPAQUE = object()  # a value that is not looked into
MOST_VISITS = 12  # of an expression in a run, that are looked at
EACH = 4  # of them, at which a number, text or list is changed by itself
MOST_ROUNDS = 40  # visits in which it is looked at what names have; with more it is not done
_SCALARS = (int, float, str, bool, type(None), bytes, complex)
_CHANGED = (int, float, str)  # of these, in some rounds only
_LARGE = 300  # items in all: a larger value is not kept
_TOLD = 3  # values that are told of an expression that is exchanged at every visit
_THEN = " then "
MOMENTS = 8  # of one run, at which what could stand there is tried
_IN_ROUNDS = 6  # values that are tried under one condition


class Row:
    """One value that was put in the place of another: of an expression, at a visit; 0: at all.

    Of all of them, only where it gives ``gave``, or where ``when`` holds, if that is said: what
    stands there are conditions that hold at the same visits.
    ``change``: what is made of the value that it gave, in place of one that is always the same.
    """

    def __init__(
        self,
        place: int,
        visit: int,
        would: Any,
        change: Callable[[Any], Any] | None = None,
        gave: Any = OPAQUE,
        when: Sequence[Condition] = (),
    ) -> None:
        self.place, self.visit, self.would, self.change = place, visit, would, change
        self.gave, self.when = gave, when

    def concerns(self, visit: int, value: Any, frame: Any) -> bool:
        """Whether another value is put there at a visit; ``frame`` is where that is."""
        if self.gave is not OPAQUE:
            return type(value) is type(self.gave) and bool(value == self.gave)
        if self.when:
            return self.when[0].holds(scalars_at(frame))
        return self.visit in (0, visit)

    def instead(self, value: Any) -> Any:
        """What the expression gives at a visit that it concerns, where it would give ``value``."""
        if isinstance(self.would, Printed):
            self.would.put()
            return value
        if self.change is not None:
            return self.change(value)
        return copy.deepcopy(self.would) if type(self.would) in (list, dict, set) else self.would


class Moment:
    """What names meant at one visit of an expression, and what it should give there.

    ``needed``: it was found that this value is right; else it is merely what it gave where nothing
    was wrong, and another value might do as well.
    """

    def __init__(self, names: dict[str, Any], wanted: Any, needed: bool) -> None:
        self.names, self.wanted, self.needed = names, wanted, needed


class Solving:
    """The program with its expressions hooked, on the bench that runs its cases."""

    def __init__(self, run: Callable[[Any, Request], dict[str, Any]], put: Any) -> None:
        self.run, self.put = run, put
        self.places = Places()
        self.codes: dict[tuple[str, bool], Any] = {}
        self.rows: list[Row] = []
        self.seen: list[list[Any]] = []
        self.rounds: list[list[tuple[Any, dict[str, Any]]]] = []  # values, and what names had
        self.counts: list[int] = []
        self.put(HOOK, _hand_on)

    def prepare(self, name: str, text: str, path: str, select: Any) -> None:
        """Read and compile a file with hooks, once."""
        key = name, select is None
        if key not in self.codes:
            self.codes[key] = Sites(text, path, name, select, self.places).code

    def _with(self, hook: Any, case: Any, asked: Request) -> dict[str, Any]:
        """Run a case with a hook that hears, and may change, what expressions give."""
        self.put(HOOK, hook)
        try:
            return self.run(case, asked)
        finally:
            self.put(HOOK, _hand_on)

    # -- which values --------------------------------------------------------------------------

    def values(self, case: Any, asked: Request, expected: str, actual: str) -> Iterator[Any]:
        """Try values on a case; gives ``(row, what the run did)`` for each."""
        self._listen(case, asked)
        hints = Hints(expected, actual, case.get("returns") is not None)
        only = set(asked["only"]) if asked.get("only") is not None else None
        until = time.monotonic() + asked["spend"]
        missing = None if hints.is_value else missing_text(expected, actual)
        for row in itertools.chain(
            self._in_gaps(missing, asked["share"]), self._rows(hints, only, asked["share"])
        ):
            if time.monotonic() > until:
                return
            yield row, self._forced(case, asked, row)

    def _listen(self, case: Any, asked: Request) -> None:
        """Run the case as it is, and hear what each expression gives."""
        count = len(self.places.all)
        self.seen, self.counts = [[] for _ in range(count)], [0] * count
        self.rounds = [[] for _ in range(count)]
        seen, counts, rounds = self.seen, self.counts, self.rounds

        def hear(number: int, value: Any) -> Any:
            counts[number] += 1
            if counts[number] <= MOST_VISITS:
                seen[number].append(_kept(value))
            if counts[number] <= MOST_ROUNDS and type(value) in _CHANGED:
                rounds[number].append((value, scalars_at(sys._getframe(1))))
            return value

        self._with(hear, case, asked)

    def _rows(self, hints: Hints, only: set[int] | None, share: list[int]) -> Iterator[Row]:
        """What to try in expressions, conditions first: they have one other value only."""
        order = sorted(range(len(self.seen)), key=lambda n: not self.places.all[n].decides)
        pools, mine = self._pools(), []
        for number in order:
            values = self.seen[number]
            here = number in only if only is not None else number % share[1] == share[0]
            if values and here and not self.places.all[number].gap:
                mine.append(number)
                yield from self._at(number, values, hints, pools)
        for number in mine:
            yield from self._in_some_rounds(number, hints)

    def _in_gaps(self, missing: str | None, share: list[int]) -> Iterator[Row]:
        """Lines that are missing, printed in every gap of this process's share."""
        for number, place in enumerate(self.places.all):
            if place.gap and number % share[1] == share[0]:
                for visit, printed in tried(missing, self.counts[number], EACH):
                    yield Row(number, visit, printed)

    def _pools(self) -> dict[type, list[Any]]:
        pools: dict[type, list[Any]] = {}
        for place, values in zip(self.places.all, self.seen):
            for value in values[:3] if not place.gap else ():
                pool = pools.setdefault(type(value), [])
                if value is not OPAQUE and len(pool) < 12 and not any(value == p for p in pool):
                    pool.append(value)
        return pools

    def _at(self, number: int, values: list[Any], hints: Hints, pools: Any) -> Iterator[Row]:
        decides, count = self.places.all[number].decides, self.counts[number]
        truth = decides or type(values[0]) is bool
        if truth:
            for visit, value in enumerate(values, 1):
                yield Row(number, visit, not value)
            if count > 1:
                yield from (Row(number, 0, True), Row(number, 0, False))
            return
        alike = all(type(v) is type(values[0]) and v == values[0] for v in values)
        if count > 1 and alike and values[0] is not OPAQUE:
            pool = pools.get(type(values[0]), [])
            for would in candidates(values[0], hints, pool, False):
                yield Row(number, 0, would)
        if count > 1 and type(values[0]) in (int, float):
            yield from (Row(number, 0, None, times(f)) for f in hints.factors)
            if not alike:
                yield from (Row(number, 0, c) for c in (1, 0, 2, -1))
        if count > 1 and not alike:
            yield from self._wherever(number, values, hints)
        for visit, value in enumerate(values[:EACH] if count > 1 else values, 1):
            if value is not OPAQUE:
                for would in candidates(value, hints, pools.get(type(value), []), False):
                    yield Row(number, visit, would)

    def _wherever(self, number: int, values: list[Any], hints: Hints) -> Iterator[Row]:
        """Another value wherever it gives one certain value: a branch of its own may be missing."""
        distinct: list[Any] = []
        for value in values:
            if type(value) in (int, float, str) and value not in distinct:
                distinct.append(value)
        for gave in distinct[:5]:
            if values.count(gave) > 1:
                for would in candidates(gave, hints, [], False)[:10]:
                    yield Row(number, 0, would, None, gave)

    def _in_some_rounds(self, number: int, hints: Hints) -> Iterator[Row]:
        """Another value where a condition on a name holds: only some of the rounds may be wrong."""
        rounds, count = self.rounds[number], self.counts[number]
        if self.places.all[number].decides or not 1 < count == len(rounds):
            return
        for when, where in conditions([scalars for _, scalars in rounds]):
            values = [rounds[n][0] for n in where]
            kinds = {type(v) for v in values}
            if kinds <= {int, float}:
                for change in numbers_in_rounds(len(values), hints):
                    yield Row(number, 0, None, change, when=when)
            if kinds == {str}:
                for change in TEXTS:
                    if any(change(v) != v for v in values):
                        yield Row(number, 0, None, change, when=when)
            if all(v == values[0] for v in values) and len(kinds) == 1:
                for would in candidates(values[0], hints, [], False)[:_IN_ROUNDS]:
                    yield Row(number, 0, would, when=when)

    def _forced(self, case: Any, asked: Request, row: Row) -> dict[str, Any]:
        place, count = row.place, [0]

        def force(number: int, value: Any) -> Any:
            if number != place:
                return value
            count[0] += 1
            return row.instead(value) if row.concerns(count[0], value, sys._getframe(1)) else value

        return self._with(force, case, asked)

    def told(self, row: Row) -> list[Any]:
        """A row as it is told: place, visit, what it gave, what it would have to give.

        Where it is exchanged at every visit, and gives several values, the first of them are told.
        """
        values = self.seen[row.place]
        if isinstance(row.would, Printed):
            return [row.place, row.visit, "", row.would.text]
        if row.gave is not OPAQUE:
            gave = [row.gave]
        elif row.when:
            holds = row.when[0].holds
            gave = [v for v, scalars in self.rounds[row.place] if holds(scalars)][:_TOLD]
            gave = gave if any(v != gave[0] for v in gave) else gave[:1]
        elif row.visit:
            gave = values[row.visit - 1 : row.visit]
        else:
            gave = values[:_TOLD] if any(v != values[0] for v in values) else values[:1]
        would = [row.instead(g) for g in gave]
        if self.places.all[row.place].decides:  # it is asked for its truth alone
            gave = [True if g is OPAQUE else bool(g) for g in gave]
        texts = [_THEN.join(summarise(v).text for v in some) for some in (gave, would)]
        return [row.place, row.visit, *texts]

    def told_when(self, row: Row) -> list[tuple[str, str]]:
        """Under which conditions a row is due, each with what it has in common with those of other
        runs; of an expression that is come to once, what holds there, without a word of it."""
        if row.when or self.counts[row.place] != 1 or not self.rounds[row.place]:
            return [(one.text, one.key) for one in row.when]
        return [("", one.key) for one in holding(self.rounds[row.place][0][1])]

    # -- moments -------------------------------------------------------------------------------

    def moments(self, case: Any, asked: Request, place: int, row: Row | None) -> list[Moment]:
        """What names meant at visits of an expression, with what it gives there, or should."""
        found: list[Moment] = []
        count = [0]

        def note(number: int, value: Any) -> Any:
            if number != place:
                return value
            count[0] += 1
            frame = sys._getframe(1)
            needed = row is not None and row.concerns(count[0], value, frame)
            wanted = row.instead(value) if row is not None and needed else value
            alike = sum(m.needed == needed for m in found)
            if alike < MOMENTS or (needed and row is not None and row.visit):
                kept = _kept(wanted)
                if kept is not OPAQUE:
                    found.append(Moment(names_at(frame), kept, needed))
            return wanted

        self._with(note, case, asked)
        return found


def _hand_on(_number: int, value: Any) -> Any:
    return value


def _kept(value: Any) -> Any:
    """A value as it is now; OPAQUE, where it is large or of the program's own making."""
    if type(value) in _SCALARS:
        return value
    if type(value) in (list, tuple, dict, set) and _size(value) <= _LARGE:
        try:
            return copy.deepcopy(value)
        except Exception:
            return OPAQUE
    return OPAQUE


def _size(value: Any) -> int:
    """How many values are in a value, itself included; more than enough where it is too many."""
    todo, count = [value], 0
    while todo and count <= _LARGE:
        one = todo.pop()
        count += 1
        if type(one) in (list, tuple, set):
            todo += one
        elif type(one) is dict:
            todo += [*one, *one.values()]
    return count


_NOT_VALUES = (types.ModuleType, types.GeneratorType)


def names_at(frame: Any) -> dict[str, Any]:
    """The values that names have in a frame, its function's and the module's, as they are now."""
    names: dict[str, Any] = {k: v for k, v in frame.f_globals.items() if _is_value(k, v)}
    for one in frames_at(frame):
        if one.f_locals is not one.f_globals:
            names.update((k, v) for k, v in one.f_locals.items() if _is_value(k, v))
    try:
        return copy.deepcopy(names)
    except Exception:
        return {k: v for k, v in names.items() if type(v) in _SCALARS}


def _is_value(name: str, value: Any) -> bool:
    return not name.startswith(("_", ".")) and not isinstance(value, _NOT_VALUES)
