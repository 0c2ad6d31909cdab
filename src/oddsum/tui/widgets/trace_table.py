"""The trace table: the rows of a recording, and which of its columns are in sight."""

from __future__ import annotations

from collections.abc import Sequence

from textual.message import Message

from oddsum.trace.words import counted
from oddsum.tui.glyphs import own
from oddsum.tui.widgets.ruled_table import RuledTable
from oddsum.tui.widgets.trace_columns import (
    BEFORE_VALUES,
    InSight,
    Room,
    columns_in_sight,
    next_columns,
    room_of,
    trace_columns,
)
from oddsum.tui.widgets.trace_rows import TraceRows
from oddsum.workspace.tracing import Traced, View

_LEAST = 40  # cells


class TraceTable(RuledTable):
    """Shows a recording at its step. The keys belong to the station, not to it."""

    can_focus = False

    def __init__(self, *, id: str | None = None) -> None:
        super().__init__(id=id)
        self._shown: Traced | None = None  # what the columns in sight belong to
        self._in_sight = InSight()
        self._view: View | None = None

    class Resized(Message):
        """It has another width, and other columns in sight."""

    def on_resize(self) -> None:
        """Share the width there is now; while nothing was shown it had none."""
        if self._shown is not None and self._view is not None:
            self.show_step(self._shown, self._view)
            self.post_message(self.Resized())

    @property
    def titles(self) -> tuple[str, ...]:
        """The columns of values in sight, by their titles."""
        return self._in_sight.titles

    def title_at(self, column: int) -> str:
        """The title of a column of the table, from 0; blank where it is none of a value."""
        at = column - BEFORE_VALUES
        return self.titles[at] if 0 <= at < len(self.titles) else ""

    def show_step(self, traced: Traced, view: View) -> None:
        """Bring the step in hand and the columns that matter around it into sight."""
        story, room, self._view = traced.story, self._room(traced), view
        if self._shown is not traced:
            self._shown, self._in_sight = traced, InSight()
        self._in_sight = columns_in_sight(
            story, traced.step, room, self._in_sight, traced.column,
            [n for n in view.order if n not in view.hidden], frozenset(view.hidden),
        )  # fmt: skip
        columns = trace_columns(story, self._in_sight, room, traced.column)
        places = story.table.rows_of(view.only) if view.only is not None else None
        rows = TraceRows(
            story, self.titles, columns, traced.step, fill=view.fill_down,
            places=_unveiled(traced, places), moments=traced.odd_moments(),
        )  # fmt: skip
        self.show(columns, rows, rows.row_of(traced.step))

    def turn(self, traced: Traced, by: int) -> None:
        """Bring the columns after those in sight, or before them."""
        room = self._room(traced)
        self._in_sight = next_columns(traced.story, self._in_sight, room, traced.step, by)

    def _room(self, traced: Traced) -> Room:
        told = [m.told for m in traced.odd_moments()]
        return room_of(traced.story, max(_LEAST, self.size.width - 1), told)

    def words(self, traced: Traced, view: View) -> str:
        """What is shown of it, and what brings the rest."""
        if traced.stale:
            return "~ of the program before the last save · T records it anew"
        told: list[str] = []
        if view.only is not None:
            told.append(f"only {view.only or 'the main part'}")
        every = traced.story.table.titles
        hidden = [n for n in every if n in view.hidden]
        if hidden:
            told.append(f"{len(hidden)} hidden, 0 brings back")
        count = len(every) - len(hidden)
        if len(self.titles) < count:
            told.append(f"{len(self.titles)} of {count} columns, Shift+→ shows others")
        return own(" · ".join(told) or counted(traced.story.last, "step"))


def _unveiled(traced: Traced, places: Sequence[int] | None) -> Sequence[int] | None:
    """The rows that may be seen: while one guesses, none that comes after what is known."""
    if traced.veil is None:
        return places
    last = traced.story.place(traced.veil.seen) + 1
    return range(last) if places is None else [p for p in places if p < last]
