"""The rows of the trace table: a row a step, a column a variable, only what changed is inked."""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Sequence

from oddsum.model.trace import Step
from oddsum.trace.ask import Story
from oddsum.trace.inside import Inner
from oddsum.trace.words import answer_of, condition_words, place_words
from oddsum.tui.glyphs import own
from oddsum.tui.widgets.ruled_table import Column
from oddsum.tui.widgets.trace_columns import BEFORE_VALUES, value_words
from oddsum.tui.writing import Cell, Piece, cell, clean
from oddsum.workspace.odd_moments import OddMoment

_MANY_CALLS = 50  # calls around one that are looked through for an old value


class TraceRows(Sequence[Sequence[Cell]]):
    """The rows, made when they are looked at: a trace may have very many.

    ``titles`` are the columns of values in sight, ``moments`` what is not as it should be.
    """

    def __init__(
        self,
        story: Story,
        titles: Sequence[str],
        columns: Sequence[Column],
        current: int,
        *,
        fill: bool = False,
        places: Sequence[int] | None = None,
        moments: Sequence[OddMoment] = (),
    ) -> None:
        self.story, self.titles, self.current, self.fill = story, titles, current, fill
        self.widths = [c.width for c in columns[BEFORE_VALUES:-1]]
        self.places = range(len(story)) if places is None else places
        self.moments = {m.step: m for m in reversed(moments)}
        self._many_files = len(story.table.files) > 1

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
        changes = {c.column: c for c in self.story.table.inner(step.number)}
        odd = self.moments.get(step.number)
        number = Piece(str(step.number), "blue" if here else "quiet", here)
        return (
            (Piece(own(odd.mark), odd.ink, True), Piece(" "), number) if odd else (number,),
            self._line(step),
            cell(clean(odd.told), odd.ink, True) if odd else _happened(step),
            *(
                self._value(step, title, width, changes.get(title), here)
                for title, width in zip(self.titles, self.widths, strict=True)
            ),
            cell(clean(step.output.rstrip("\n")), odd.ink if odd else "ink", bool(odd)),
        )

    def _line(self, step: Step) -> Cell:
        ink = "ink" if step.visit else "quiet"
        line = Piece(str(step.line), ink)
        return (Piece(f"{step.statement.file} ", "quiet"), line) if self._many_files else (line,)

    def _value(self, step: Step, title: str, width: int, change: Inner | None, here: bool) -> Cell:
        if change is None:
            return cell(clean(self._old(step, title)), "quiet") if self.fill else ()
        if change.after is None and not change.place:
            return cell("gone", "quiet", italic=True)
        words = clean(value_words(change, width, self._changing(title)))
        ink = "blue" if here else "strong"
        before, arrow, after = words.partition(own(" → "))
        if arrow and not change.place and before == change.before:
            return (Piece(before + arrow, "quiet"), Piece(after, ink, True))
        return cell(words, ink, True)

    def _changing(self, title: str) -> list[str]:
        """The attributes of what a variable holds that change in this run."""
        table = self.story.table
        return [c.attribute for c in table.by_title.values() if c.variable == title and c.attribute]

    def _old(self, step: Step, title: str) -> str:
        """What a column held already at a step, of a call that is still under way."""
        table, place = self.story.table, self.story.place(step.number)
        at = table.last_change(title, place + 1)
        if at is None:
            return ""
        number = self.story.number(at)
        found = next((c for c in self.story.table.inner(number) if c.column == title), None)
        mine = found is not None and found.owner in self._calls_around(step.frame)
        return found.whole if mine and found is not None else ""

    def _calls_around(self, frame: int) -> list[int]:
        found = [0, frame]
        while len(found) < _MANY_CALLS:
            place = self.story.caller_of(frame)
            if place is None:
                break
            part, row = self.story.steps.place(place)
            frame = part.frame[row]
            found.append(frame)
        return found


def _happened(step: Step) -> Cell:
    words = condition_words(step)
    place = place_words(step)
    if step.condition is not None:
        return cell(answer_of(step), "straw" if step.condition else "ink")
    if "raise" in step.events:
        return cell(clean(place), "stopped")
    return cell(clean(", ".join(w for w in (place, words) if w)), "quiet")
