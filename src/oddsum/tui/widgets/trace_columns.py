"""Which columns of a trace table are in sight, and how wide: those that matter around a step.

A program soon has more variables than a screen has room for. In sight are the column in hand, those
that were pinned, those that this step inks, then those that change nearest to it; they stay as they
are for as long as they do, for a table that rearranges itself at every step cannot be read.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from oddsum.trace.ask import Story
from oddsum.trace.inside import Inner, brief
from oddsum.tui.glyphs import own
from oddsum.tui.widgets.ruled_table import Column

STEP, LINE, HAPPENED = 0, 1, 2
BEFORE_VALUES = 3  # columns: step, line, what happened
_LEAST, _ADMITTED, _MOST = 3, 18, 60  # cells of a value: at least, when chosen, at most
_LOOKED_AT = 24  # changes at either end of a column that say how wide it must be
_RULE = 3  # cells of a column's rule and blanks
_NEAR = 10  # steps within which the columns stay as they are


@dataclass(frozen=True)
class Room:
    """Cells of a table, and of the columns that are always there."""

    width: int
    step: int
    line: int

    @property
    def happened(self) -> int:
        """Cells for what happened."""
        return 20 if self.width >= 110 else 14 if self.width >= 60 else 11

    @property
    def output(self) -> int:
        """Cells that output has at least."""
        return 24 if self.width >= 110 else 14 if self.width >= 60 else 10

    @property
    def for_values(self) -> int:
        """Cells for the columns of values, their rules among them."""
        fixed = self.step + 1 + self.line + self.happened + self.output + 3 * _RULE
        return max(0, self.width - fixed)


def room_of(story: Story, width: int, marked: bool) -> Room:
    """The room of a table in so many cells; ``marked``: the step's number has a mark before it."""
    names = {s.file for s in story.statements}
    files = max((len(n) for n in names), default=0) + 1 if len(names) > 1 else 0
    lines = max((len(str(s.line)) for s in story.statements), default=1)
    step = max(4, len(str(story.last))) + (2 if marked else 0)
    return Room(width, step, max(4, min(files, 14) + lines))


@dataclass(frozen=True)
class InSight:
    """The columns that are shown, in their order, and the step they were chosen at."""

    titles: tuple[str, ...] = ()
    step: int = 0
    width: int = 0
    chosen: bool = False  # by the user, with Shift and an arrow: they stay until the step is left


def columns_in_sight(
    story: Story,
    number: int,
    room: Room,
    before: InSight,
    in_hand: str = "",
    pinned: Sequence[str] = (),
    hidden: frozenset[str] = frozenset(),
) -> InSight:
    """The columns for a step, as few of them new as can be."""
    every = [t for t in story.table.order() if t not in hidden]
    inked = [c.column for c in story.inner(number)]
    must = [t for t in dict.fromkeys([*pinned, in_hand, *inked]) if t in every]
    kept = set(before.titles) <= set(every) and before.width == room.width
    near = abs(story.place(number) - before.step) <= _NEAR
    if kept and (before.step == story.place(number) if before.chosen else near):
        if before.chosen or set(must) <= set(before.titles):
            return before
    wanted = _by_nearness(story, number, every, frozenset(before.titles) if near else frozenset())
    chosen = _that_fit(story, [*must, *(t for t in wanted if t not in must)], room)
    front = [t for t in pinned if t in chosen]
    titles = (*front, *(t for t in every if t in chosen and t not in front))
    return InSight(titles, story.place(number), room.width)


def next_columns(story: Story, now: InSight, room: Room, number: int, by: int) -> InSight:
    """The columns after those in sight, or before them; round and round."""
    every = story.table.order()
    if not every:
        return now
    ends = [every.index(t) for t in now.titles if t in every] or [0]
    start = max(ends) + 1 if by > 0 else min(ends) - 1
    order = [every[(start + by * n) % len(every)] for n in range(len(every))]
    chosen = _that_fit(story, order, room)
    return InSight(
        tuple(t for t in every if t in chosen), story.place(number), room.width, chosen=True
    )


def _by_nearness(
    story: Story, number: int, every: Sequence[str], before: frozenset[str]
) -> list[str]:
    """Columns, those that change nearest to a step first; the function's own are nearer."""
    place, function = story.place(number), story.step(number).function

    def far(title: str) -> float:
        column = story.table.by_title[title]
        own_one = column.variable.rpartition(".")[0] == function
        weight = (0.3 if own_one else 1.0) * (0.6 if title in before else 1.0)
        return (story.table.distance(title, place) + 1) * weight

    return sorted(every, key=far)


def _that_fit(story: Story, wanted: Sequence[str], room: Room) -> list[str]:
    """The first of some columns that find room, each as wide as it would like to be, in reason."""
    left, chosen = room.for_values, list[str]()
    for title in wanted:
        needs = min(widest(story, title), _ADMITTED) + _RULE
        if needs <= left:
            chosen.append(title)
            left -= needs
        elif not chosen:
            return [title]
    return chosen


def widest(story: Story, title: str) -> int:
    """Cells that a column would need to show everything in it, as far as was looked."""
    widths = story.table.widths
    if title not in widths:
        widths[title] = _measured(story, title)
    return widths[title]


def _measured(story: Story, title: str) -> int:
    places = story.table.places.get(title, ())
    looked = [*places[:_LOOKED_AT], *places[_LOOKED_AT:][-_LOOKED_AT:]]
    texts = [
        len(value_words(c, _MOST))
        for place in looked
        for c in story.inner(story.number(place))
        if c.column == title
    ]
    return min(_MOST, max([_LEAST, len(story.table.by_title[title].name), *texts]))


def trace_columns(story: Story, now: InSight, room: Room, in_hand: str = "") -> list[Column]:
    """Step, line, what happened, a column a variable, output: the width shared among them."""
    wishes = [widest(story, t) for t in now.titles]
    widths = shared_out(wishes, room.for_values - _RULE * len(wishes))
    taken = sum(widths) + _RULE * len(widths)
    rest = room.for_values - taken
    happened = room.happened + max(0, min(12, rest - 20))
    return [
        Column("step", room.step, "right", ruled=False),
        Column("line", room.line, "right"),
        Column("what happened", happened),
        *(
            Column(title, width, "right", lit=t == in_hand)
            for (t, title), width in zip(titles_of(story, now.titles).items(), widths, strict=True)
        ),
        Column("output", max(8, room.output + rest - (happened - room.happened))),
    ]


def shared_out(wishes: Sequence[int], room: int) -> list[int]:
    """So many cells shared among columns: nobody gets more than they wish, nor less than a fair
    part while another has more."""
    widths = [0] * len(wishes)
    for done, at in enumerate(sorted(range(len(wishes)), key=lambda n: wishes[n])):
        widths[at] = max(_LEAST, min(wishes[at], room // (len(wishes) - done)))
        room -= widths[at]
    return widths


def titles_of(story: Story, titles: Sequence[str]) -> dict[str, str]:
    """What stands over each column: as the program writes it, where no other in sight is the same.

    A variable that is named as one of the table's own columns stands with its function, or a dot.
    """
    short = [story.table.by_title[t].name for t in titles]
    taken = [*short, "step", "line", "what happened", "output"]
    return {
        t: s if taken.count(s) == 1 else (t if t != s else f".{t}")
        for t, s in zip(titles, short, strict=True)
    }


def value_words(change: Inner, room: int, attributes: Sequence[str] = ()) -> str:
    """A change for a column: ``12 → 17`` where both fit; else the part; else what is there now."""
    if change.after is None:
        return change.said if change.place else "gone"
    whole = brief(change.whole, change.fields, room, attributes)
    if not change.place:
        if change.before is not None and not change.fields:
            both = f"{change.before} → {change.after}"
            if len(both) <= min(room, 24):
                return own(both)
        return whole
    if len(whole) <= min(room, 24):
        return whole
    return own(change.said)
