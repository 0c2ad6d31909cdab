"""Going about in a recording, in both directions of time, and which of its columns are shown."""

from __future__ import annotations

from bisect import bisect_left, bisect_right
from collections.abc import Sequence

from oddsum.trace.table_columns import TableColumn
from oddsum.workspace.breakpoints import Breakpoints
from oddsum.workspace.interface import Interface, Part
from oddsum.workspace.tracing import Traced, Tracing


class Walking:
    """Moves the step and the column in hand; says why where there is nowhere to go."""

    def __init__(self, tracing: Tracing, breakpoints: Breakpoints, interface: Interface) -> None:
        self._tracing, self._breakpoints, self._interface = tracing, breakpoints, interface
        self.in_sight: Sequence[str] = ()  # columns of the table that are shown, by their titles

    # -- steps -------------------------------------------------------------------------------

    def step(self, by: int) -> None:
        """Steps on or back."""
        traced = self._tracing.walked
        if traced is not None:
            story = traced.story
            at = story.place(traced.step) + by
            self._tracing.go(story.number(min(max(at, 0), len(story) - 1)))

    def to_end(self, side: int) -> None:
        """To the first step or the last."""
        traced = self._tracing.walked
        if traced is not None:
            self._tracing.go(1 if side < 0 else traced.story.last)

    def into(self) -> None:
        """Into the next call made from here."""
        traced = self._tracing.walked
        if traced is not None:
            story, here = traced.story, traced.step
            found = story.into(here) or story.next_call(here)
            self._tracing.go(found, "No further call is made here.")

    def out(self) -> None:
        """To where the caller goes on."""
        traced = self._tracing.walked
        if traced is not None:
            self._tracing.go(traced.story.out(traced.step), "This is not inside a call.")

    def over(self) -> None:
        """On, past any call made here."""
        traced = self._tracing.walked
        if traced is not None:
            self._tracing.go(traced.story.over(traced.step), "This is the last step.")

    def run(self, side: int) -> None:
        """To the next breakpoint, or back to the one before."""
        traced = self._tracing.walked
        if traced is None:
            return
        if not self._breakpoints:
            self._interface.say("No line is held yet. H holds at this line.")
            return
        stops = self._breakpoints.stops()
        at = bisect_right(stops, traced.step) if side > 0 else bisect_left(stops, traced.step) - 1
        found = stops[at] if 0 <= at < len(stops) else None
        self._tracing.go(found, f"No line that is held runs {_way(side)} this step.")

    def change(self, side: int) -> None:
        """To the next or last change of the variable in hand."""
        traced = self._tracing.walked
        if traced is None:
            return
        name = self.variable_in_hand()
        if not name:
            self._interface.say(
                "Choose a variable with Tab first: then this goes through its changes."
            )
            return
        story = traced.story
        here, column = story.place(traced.step), self.column_of(traced, name)
        if column.attribute:
            find = story.table.next_change if side > 0 else story.table.last_change
            place = find(name, here)
            at = None if place is None else story.number(place)
        else:
            frame = story.frame_of(name, traced.step)
            at = story.next_change(name, frame, traced.step) if side > 0 else None
            if side < 0 and here:
                at = story.last_change(name, frame, story.number(here - 1))
        self._tracing.go(at, f"{column.name} does not change {_way(side)} this step.")

    def same_line(self, side: int) -> None:
        """To the next or last time that this line runs."""
        traced = self._tracing.walked
        if traced is not None:
            step = traced.story.step(traced.step)
            find = traced.story.next_at if side > 0 else traced.story.last_at
            found = find({(step.statement.file, step.line)}, traced.step)
            self._tracing.go(found, f"Line {step.line} does not run {_way(side)} this step.")

    def odd_place(self) -> None:
        """To where it first goes odd: a claim broken, the output departing, an error."""
        traced = self._tracing.walked
        if traced is None:
            return
        moments = traced.odd_moments()
        ahead = [m.step for m in moments if m.step > traced.step]
        found = ahead or [m.step for m in moments]
        self._tracing.go(found[0] if found else None, "Nothing is odd in this run.")

    def to_line(self, line: int) -> None:
        """To the next time that a line of this file runs; else to the last."""
        traced = self._tracing.walked
        if traced is not None:
            place = {(traced.story.step(traced.step).statement.file, line)}
            story = traced.story
            found = story.next_at(place, traced.step) or story.last_at(place, traced.step)
            self._tracing.go(found, f"Line {line} does not run in this case.")

    def toggle_breakpoint(self, line: int | None = None) -> None:
        """Stop at the line in hand, or at another one of its file; or no longer."""
        traced = self._tracing.walked
        if traced is not None:
            step = traced.story.step(traced.step)
            self._breakpoints.toggle(step.statement.file, line or step.line)

    # -- columns -----------------------------------------------------------------------------

    def variable_in_hand(self) -> str:
        """The variable that was chosen, else the one that this step changes; blank for none."""
        traced = self._tracing.walked
        if traced is None:
            return ""
        if traced.column:
            return traced.column
        columns = {c.column for c in traced.story.table.inner(traced.step)}
        return columns.pop() if len(columns) == 1 else ""

    @staticmethod
    def column_of(traced: Traced, title: str) -> TableColumn:
        """A column of the table by its title."""
        return traced.story.table.by_title.get(title, TableColumn(title))

    def name_in_hand(self) -> str:
        """The variable in hand as the program writes it; blank for none."""
        traced, title = self._tracing.walked, self.variable_in_hand()
        return self.column_of(traced, title).name if traced is not None and title else ""

    def column(self, by: int) -> None:
        """Take the next or the last of the columns in sight in hand; after the last, none."""
        traced = self._tracing.walked
        if traced is None:
            return
        names = ["", *(self.in_sight or traced.story.table.order())]
        at = names.index(traced.column) if traced.column in names else 0
        self.take_column(names[(at + by) % len(names)])

    def take_column(self, title: str) -> None:
        """Take a column in hand; blank for none."""
        traced = self._tracing.walked
        if traced is not None:
            traced.column = title
            self._interface.changed(Part.TRACE)

    def hide(self) -> None:
        """Set the column in hand aside."""
        traced = self._tracing.walked
        if traced is None or not traced.column:
            self._interface.say("Choose a column with Tab first: then this hides it.")
            return
        self._tracing.view.hidden.add(traced.column)
        traced.column = ""
        self._interface.changed(Part.TRACE)

    def pin(self) -> None:
        """Pin the column in hand to the front, where it stays; or let it go."""
        traced, view = self._tracing.walked, self._tracing.view
        if traced is None or not traced.column:
            self._interface.say("Choose a column with Tab first: then this pins it to the front.")
            return
        if traced.column in view.order:
            view.order.remove(traced.column)
        else:
            view.order.append(traced.column)
        self._interface.changed(Part.TRACE)

    def only(self) -> None:
        """Only the rows of the function in hand, or all."""
        traced, view = self._tracing.walked, self._tracing.view
        if traced is not None:
            function = traced.story.step(traced.step).function
            view.only = None if view.only is not None else function
            self._interface.changed(Part.TRACE)

    def all_columns(self) -> None:
        """Every column and every row again, in the order they came."""
        view = self._tracing.view
        view.hidden.clear()
        view.order.clear()
        view.only = None
        self._interface.changed(Part.TRACE)

    def fill_down(self) -> None:
        """Old values too, or only what changed."""
        self._tracing.view.fill_down = not self._tracing.view.fill_down
        self._interface.changed(Part.TRACE)


def _way(side: int) -> str:
    return "after" if side > 0 else "before"
