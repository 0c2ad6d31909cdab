"""Moving about in a trace, and lists that move about in it."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from oddsum.trace.ask import Story
from oddsum.tui.dialogs.pick import Pick
from oddsum.tui.screens.station import Station
from oddsum.tui.widgets.ruled_table import Column
from oddsum.tui.widgets.trace_rows import shown_names
from oddsum.tui.work import Traced
from oddsum.tui.writing import Cell


class WalkingScreen(Station):
    """A station with a recording and a step in hand."""

    @property
    def traced(self) -> Traced | None:
        """The recording that is shown, None where there is none with a step in it."""
        traced = self.work.traced
        return traced if traced is not None and len(traced.story) else None

    def go(self, step: int | None, otherwise: str = "") -> None:
        """Go to a step; say why where there is none."""
        traced = self.traced
        if traced is None:
            return
        if step is None:
            self.notify(otherwise)
            return
        traced.step = traced.story.nearest(step)
        self.show()

    def go_where_there_is(self, step: int | None) -> None:
        """Go to a step that was asked for; nothing where the question was left."""
        if step is not None:
            self.go(step)

    @staticmethod
    def files_of(traced: Traced) -> list[str]:
        """The program's files that ran."""
        return list(dict.fromkeys(s.file for s in traced.story.statements))

    def walk_through(
        self,
        title: str,
        columns: Sequence[Column],
        rows: Sequence[Sequence[Cell]],
        steps: list[int],
        hint: str = "",
        *,
        hint_of: Callable[[int], str] | None = None,
        then: Callable[[int], None] | None = None,
        start: int = 0,
    ) -> None:
        """Show a list; the trace follows its rows. Left with Esc, one is back where one was."""
        traced = self.traced
        if traced is None:
            return
        if not rows:
            self.notify("There is nothing of that kind in this run.")
            return
        before = traced.step

        def follow(row: int) -> None:
            if row < len(steps) and steps[row]:
                self.go(steps[row])

        def chosen(row: int | None) -> None:
            if row is None:
                self.go(before)
            elif then is not None:
                follow(row)
                then(row)
            else:
                follow(row)

        right = "Enter stays there · Esc goes back" if steps else "Esc puts this away"
        page = Pick(
            title, columns, rows, hint=hint, hint_of=hint_of, right=right, start=start,
            on_row=follow,
        )  # fmt: skip
        self.app.push_screen(page, chosen)

    # -- the variable in hand --------------------------------------------------------------------

    def variable_in_hand(self, traced: Traced) -> str:
        """The variable chosen with Tab, else the one that this step changes; blank for none."""
        if traced.column:
            return traced.column
        changes = traced.story.step(traced.step).changes
        return changes[0].name if len(changes) == 1 else ""

    def action_column(self, by: int) -> None:
        """Take the next or the last column in hand; after the last, none."""
        traced = self.traced
        if traced is None:
            return
        names = ["", *self._columns(traced.story)]
        at = names.index(traced.column) if traced.column in names else 0
        traced.column = names[(at + by) % len(names)]
        self.show()

    def _columns(self, story: Story) -> list[str]:
        view = self.work.view
        return [n for n in shown_names(story, view.order) if n not in view.hidden]

    def action_change(self, side: int) -> None:
        """To the next or last change of the variable in hand."""
        traced = self.traced
        if traced is None:
            return
        name = self.variable_in_hand(traced)
        if not name:
            self.notify("Choose a variable with Tab first: then this goes through its changes.")
            return
        story = traced.story
        frame = story.frame_of(name, traced.step)
        here = story.place(traced.step)
        at = story.next_change(name, frame, traced.step) if side > 0 else None
        if side < 0 and here:
            at = story.last_change(name, frame, story.number(here - 1))
        way = "after" if side > 0 else "before"
        self.go(at, f"{name.rpartition('.')[2]} does not change {way} this step.")

    def action_same_line(self, side: int) -> None:
        """To the next or last time that this line runs."""
        traced = self.traced
        if traced is not None:
            step = traced.story.step(traced.step)
            place = {(step.statement.file, step.line)}
            find = traced.story.next_at if side > 0 else traced.story.last_at
            way = "after" if side > 0 else "before"
            self.go(find(place, traced.step), f"Line {step.line} does not run {way} this step.")

    def action_odd_place(self) -> None:
        """To where it first goes odd: a claim broken, the output departing, an error."""
        traced = self.traced
        if traced is None:
            return
        raised = traced.story.where_raised
        odd = traced.result.outcome.odd
        broken = traced.broken.step if traced.broken is not None else None
        places = [broken, traced.departs if odd else None, raised if odd else None]
        found = [p for p in places if p is not None]
        self.go(min(found, default=None), "Nothing is odd in this run.")

    # -- the table -------------------------------------------------------------------------------

    def action_hide(self) -> None:
        """Hide the column in hand."""
        traced = self.traced
        if traced is None or not traced.column:
            self.notify("Choose a column with Tab first: then this hides it.")
            return
        self.work.view.hidden.add(traced.column)
        traced.column = ""
        self.show()

    def action_all_columns(self) -> None:
        """Show every column and every row again, in the order they came."""
        view = self.work.view
        view.hidden.clear()
        view.order.clear()
        view.only = None
        self.show()

    def action_pin(self) -> None:
        """Pin the column in hand to the front, where it stays; or let it go."""
        traced, view = self.traced, self.work.view
        if traced is None or not traced.column:
            self.notify("Choose a column with Tab first: then this pins it to the front.")
            return
        if traced.column in view.order:
            view.order.remove(traced.column)
        else:
            view.order.append(traced.column)
        self.show()

    def action_only(self) -> None:
        """Only the rows of the function in hand, or all."""
        traced, view = self.traced, self.work.view
        if traced is not None:
            function = traced.story.step(traced.step).function
            view.only = None if view.only is not None else function
            self.show()
