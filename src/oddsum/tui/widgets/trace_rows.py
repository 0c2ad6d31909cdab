"""The rows of the trace table: a row a step, a column a variable, only what changed is inked."""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Sequence
from functools import lru_cache

from oddsum.model.column import short_name
from oddsum.model.trace import Change, Step, Value
from oddsum.trace.ask import Story
from oddsum.trace.words import condition_words, place_words
from oddsum.tui.glyphs import own
from oddsum.tui.widgets.ruled_table import Column
from oddsum.tui.writing import Cell, Piece, cell, clean

_LEAST, _MOST = 2, 20
_SHOWN_BEFORE = 8  # characters of an old value in "12 → 17"


def trace_columns(
    story: Story, names: Sequence[str], width: int, in_hand: str = ""
) -> list[Column]:
    """Columns for a trace table: step, line, what happened, a column a variable, output."""
    widths = _widths(story, tuple(names))
    fixed = 6 + 7 + 3 + sum(w + 3 for w in widths.values()) + 3
    rest = width - fixed
    happened = 22 if rest >= 44 else 14
    return [
        Column("step", max(5, len(str(story.last))), "right", ruled=False),
        Column("line", 4, "right"),
        Column("what happened", happened),
        *(
            Column(title, widths[n], "right", lit=n == in_hand)
            for n, title in _titles(names).items()
        ),
        Column("output", max(14, rest - happened)),
    ]


def _titles(names: Sequence[str]) -> dict[str, str]:
    """What stands over each column: the name alone where no other function has one like it."""
    short = [short_name(n) for n in names]
    return {n: s if short.count(s) == 1 else n for n, s in zip(names, short, strict=True)}


_LOOKED_AT = 3_000  # steps at either end that say how wide a column must be: all would take seconds


@lru_cache(maxsize=4)
def _widths(story: Story, names: tuple[str, ...]) -> dict[str, int]:
    """Cells each column needs; kept, for it takes a look at many steps."""
    widest = {n: max(_LEAST, len(t)) for n, t in _titles(names).items()}
    count = len(story)
    ends = (range(min(_LOOKED_AT, count)), range(max(_LOOKED_AT, count - _LOOKED_AT), count))
    for places in ends:
        for at in places:
            for change in story.steps[at].changes:
                if change.name in widest:
                    size = len(_plain(change))
                    widest[change.name] = min(_MOST, max(widest[change.name], size))
    return widest


def _plain(change: Change) -> str:
    after = change.after.text if change.after else "gone"
    before = change.before.text if change.before else ""
    if before and len(before) <= _SHOWN_BEFORE:
        return f"{before} → {after}"
    return after


class TraceRows(Sequence[Sequence[Cell]]):
    """The rows, made when they are looked at: a trace may have very many."""

    def __init__(
        self,
        story: Story,
        names: Sequence[str],
        current: int,
        fill: bool,
        places: Sequence[int] | None = None,
    ) -> None:
        self.story, self.names, self.current, self.fill = story, names, current, fill
        self.places = range(len(story)) if places is None else places

    def __len__(self) -> int:
        return len(self.places)

    def row_of(self, number: int) -> int:
        """The row of a step; the one before it where it is not shown."""
        return max(0, bisect_right(self.places, self.story.place(number)) - 1)

    def number_of(self, row: int) -> int:
        """The number of the step in a row."""
        return self.story.number(self.places[row])

    def __getitem__(self, at: int) -> Sequence[Cell]:  # type: ignore[override]
        step = self.story.steps[self.places[at]]
        here = step.number == self.current
        old = self.story.values_at(step.number) if self.fill else {}
        changes = {c.name: c for c in step.changes}
        number = str(step.number)
        return (
            cell(number, "blue" if here else "quiet", here),
            cell(str(step.line), "ink" if step.visit else "quiet"),
            _happened(step),
            *(_value_cell(changes.get(n), old.get(n), here) for n in self.names),
            cell(clean(step.output.rstrip("\n")), "ink"),
        )


def _value_cell(change: Change | None, old: Value | None, here: bool) -> Cell:
    if change is None:
        return cell(clean(old.text), "quiet") if old is not None else ()
    if change.after is None:
        return cell("gone", "quiet", italic=True)
    ink = "blue" if here else "strong"
    before = change.before.text if change.before else ""
    after = clean(change.after.text)
    if before and len(before) <= _SHOWN_BEFORE and len(before) + len(after) + 3 <= _MOST:
        return (Piece(clean(before) + own(" → "), "quiet"), Piece(after, ink, True))
    return cell(after, ink, True)


def _happened(step: Step) -> Cell:
    words = condition_words(step)
    place = place_words(step)
    if step.condition is not None:
        return cell(str(step.condition), "straw" if step.condition else "ink")
    if "raise" in step.events:
        return cell(place, "stopped")
    return cell(", ".join(w for w in (place, words) if w), "quiet")
