"""Which columns of a trace table are in sight, and how wide: those that matter around a step.

A program soon has more variables than a screen has room for. In sight are the column in hand, those
that were pinned, those that this step inks, then those that change nearest to it; they stay as they
are for as long as they do, for a table that rearranges itself at every step cannot be read.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from oddsum.model.column import is_watched
from oddsum.trace.ask import Story
from oddsum.trace.inside import Inner, brief
from oddsum.tui.glyphs import own
from oddsum.tui.widgets.ruled_table import Column

BEFORE_VALUES = 3  # columns: step, line, what happened
_LEAST, _ADMITTED, _MOST = 3, 18, 60  # cells of a value: at least, when chosen, at most
_HAPPENED, _OUTPUT, _LEAST_OUTPUT = 14, 12, 6  # cells of those two columns
_READ = 20_000  # characters of output that say how wide it is
_LOOKED_AT = 24  # changes at either end of a column that say how wide it must be
_RULE = 3  # cells of a column's rule and blanks
_OUT_OF_SIGHT = 60  # steps to a change that is surely not on the screen
_NEAR = 10  # steps within which the columns stay as they are


@dataclass(frozen=True)
class Room:
    """Cells of a table: all of them, those of step and line, and what the columns that are always
    there would like to have for what happened and for output."""

    width: int
    step: int
    line: int
    happened: int
    output: int

    @property
    def shared(self) -> int:
        """Cells that what happened, the values and output share, rules and blanks apart."""
        return max(0, self.width - self.step - 1 - self.line - 3 * _RULE)

    @property
    def for_values(self) -> int:
        """Cells for the columns of values when they are chosen, their rules among them."""
        fixed = self.happened + min(self.output, _OUTPUT)
        return max(0, self.shared - fixed)


def room_of(story: Story, width: int, told: Sequence[str]) -> Room:
    """The room of a table in so many cells; ``told`` stands in rows of odd moments, which have a
    mark before their number."""
    files = story.table.files
    longest = max(map(len, files)) + 1 if len(files) > 1 else 0
    lines = max((len(str(s.line)) for s in story.statements), default=1)
    step = max(4, len(str(story.last))) + (2 if told else 0)
    output = max((len(t) for t in story.all_output[0][:_READ].split("\n")), default=0)
    return Room(
        width, step, max(4, min(longest, 14) + lines),
        min(max([_HAPPENED, *map(len, told)]), max(_HAPPENED, width // 4)),
        min(max(output, _LEAST_OUTPUT), _MOST),
    )  # fmt: skip


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
    inked = [c.column for c in story.table.inner(number)]
    watched = [t for t in every if is_watched(t)]  # asked for by hand
    must = [t for t in dict.fromkeys([*pinned, *watched, in_hand, *inked]) if t in every]
    kept = set(before.titles) <= set(every) and before.width == room.width
    kept = kept and [*before.titles[: len(pinned)]] == [*pinned]
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
        weight = (0.6 if own_one else 1.0) * (0.6 if title in before else 1.0)
        far_one = story.table.distance(title, place) + 1
        # Beyond what is on the screen one column is as far as another: then the narrow one.
        return min(far_one, _OUT_OF_SIGHT) * weight + widest(story, title) / 4

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
        for c in story.table.inner(story.number(place))
        if c.column == title
    ]
    return min(_MOST, max([_LEAST, len(_name_of(story, title)), *texts]))


def _name_of(story: Story, title: str) -> str:
    """What stands over a column, at its longest: with its function, where another is named so."""
    mine = story.table.by_title[title].name
    alike = [c for c in story.table.by_title.values() if c.name == mine]
    return mine if len(alike) == 1 else title


def trace_columns(story: Story, now: InSight, room: Room, in_hand: str = "") -> list[Column]:
    """Step, line, what happened, a column a variable, output: the width shared among them."""
    wishes = [*(widest(story, t) for t in now.titles), room.output]
    left = room.shared - room.happened - _RULE * len(now.titles)
    *widths, output = shared_out(wishes, left)
    spare = left - sum(widths) - output
    return [
        Column("step", room.step, "right", ruled=False),
        Column("line", room.line, "right"),
        Column("what happened", room.happened),
        *(
            Column(title, width, "right", lit=t == in_hand)
            for (t, title), width in zip(titles_of(story, now.titles).items(), widths, strict=True)
        ),
        Column("output", output + max(0, spare)),
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
    own_names = ("step", "line", "what happened", "output")
    return {
        t: f".{s}" if s in own_names else s if short.count(s) == 1 else t
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
