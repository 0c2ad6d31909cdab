"""Trace: one case, step by step, in both directions of time."""

from __future__ import annotations

from bisect import bisect_left, bisect_right
from collections.abc import Iterable
from typing import ClassVar

from textual import on
from textual.binding import BindingType
from textual.containers import Horizontal, Vertical, VerticalScroll
from textual.widget import Widget

from oddsum.model.trace import Step
from oddsum.tui.actions import bindings_of
from oddsum.tui.dialogs.number import StepNumber
from oddsum.tui.dialogs.page import TextPage
from oddsum.tui.glyphs import glyph, own
from oddsum.tui.screens.questions import QuestionsScreen
from oddsum.tui.widgets.heading import Heading
from oddsum.tui.widgets.prose import Prose, wrapped
from oddsum.tui.widgets.ruled_table import RuledTable
from oddsum.tui.widgets.run_line import RunLine, RunMark
from oddsum.tui.widgets.side_by_side import side_by_side
from oddsum.tui.widgets.source_view import SourceView
from oddsum.tui.widgets.trace_rows import TraceRows, shown_names, trace_columns
from oddsum.tui.widgets.values_now import step_values, values_now
from oddsum.tui.work import Traced, printed_so_far
from oddsum.tui.writing import Cell, Piece, cell

_MOST_MARKS = 400  # on the run's line
_PRINTED = 60  # lines of output that can be scrolled through; D has them all
_FROZEN = 3  # columns that stay when the table scrolls: step, line, what happened


class TraceScreen(QuestionsScreen):
    """The run, the program with its margin, the trace table, and what was printed so far."""

    station = "trace"
    AUTO_FOCUS = ""  # the keys belong to the station, not to the table in it
    BINDINGS: ClassVar[list[BindingType]] = [*bindings_of("trace")]

    def compose_body(self) -> Iterable[Widget]:
        """Lay out the run above, the program at the left, the table at the right."""
        with Vertical(id="body"):
            yield Heading("THE RUN", id="run-heading").add_class("roomy")
            yield RunLine(id="run").add_class("roomy")
            with Horizontal(id="panels"):
                with Vertical(id="left", classes="column"):
                    yield Heading(id="source-heading")
                    yield SourceView(id="source")
                    yield Heading("VALUES NOW", id="values-heading").add_class("spaced", "roomy")
                    yield Prose(id="values").add_class("roomy")
                yield Vertical(classes="gap")
                with Vertical(id="right", classes="column"):
                    yield Heading("TRACE TABLE", id="table-heading")
                    yield self._table()
                    yield Heading("PRINTED SO FAR", id="printed-heading").add_class(
                        "spaced", "roomy"
                    )
                    with VerticalScroll(id="printed-scroll", can_focus=False, classes="roomy"):
                        yield Prose(id="printed")
            yield Prose(id="empty")

    @staticmethod
    def _table() -> RuledTable:
        table = RuledTable(id="table")
        table.can_focus = False
        return table

    def show_body(self) -> None:
        """Bring every panel to the step in hand."""
        traced = self.traced
        self.set_class(traced is None, "-empty")
        if traced is None:
            self.query_one("#empty", Prose).write(self._empty)
            return
        step = traced.story.step(traced.step)
        self._show_run(traced, step)
        self._show_source(traced, step)
        self._show_table(traced)
        if not self.has_class("-narrow"):
            self._show_values(traced)
            self._show_printed(traced)

    def _empty(self, width: int) -> list[list[Piece]]:
        if self.work.tracing is not None:
            text = f"Recording: {self.work.tracing:,} steps so far. Esc stops it."
        elif self.work.fault is not None:
            text = "The program cannot be run as it is. Check (1) says what is in the way."
        elif self.work.traced is not None:
            text = "This case ended before a single line of your program ran."
        else:
            text = (
                "Nothing is recorded yet. Go to Check with 1, choose a case, and press T: "
                "you can then follow it line by line, forward and back."
            )
        return wrapped(text, width)

    # -- panels ------------------------------------------------------------------------------

    def _show_run(self, traced: Traced, step: Step) -> None:
        heading = self.query_one("#run-heading", Heading)
        case, story = traced.case, traced.story
        title = f"case {case.number} · {case.name}" if case.number else case.name
        ended = traced.story.trace.left_out or f"{traced.result.outcome.value}"
        looking = self.work.looking or ended
        heading.right = f"{title} · step {traced.step:,} of {story.last:,} · {looking}"
        rounds = _round_marks(traced, step)
        marks = [RunMark(n, glyph("hold"), "straw") for n in _some(self.stops())]
        if traced.departs:
            marks.append(RunMark(traced.departs, own("≠ output departs"), "odd"))
        raised = story.where_raised
        if raised and traced.result.outcome.value == "stopped":
            marks.append(RunMark(raised, "! stops here", "stopped"))
        if traced.broken is not None:
            marks.append(RunMark(traced.broken.step, own("≟ claim broken"), "straw"))
        marks = [m for m in marks if m.step != traced.step or m.text != glyph("hold")]
        marks.append(RunMark(traced.step, own(f"⟨{traced.step}⟩"), "blue"))
        self.query_one("#run", RunLine).show(story, traced.step, rounds, marks)

    def _show_source(self, traced: Traced, step: Step) -> None:
        file, story = step.statement.file, traced.story
        source = self.odd_sum.source_of(file)
        heading = self.query_one("#source-heading", Heading)
        heading.title, heading.right = file.upper(), _place_words(traced, step)
        heading.lit = True
        if source is None:
            return
        lines = {s.line for s in story.statements if s.file == file}
        times = {n: story.times_run(file, n, traced.step) for n in lines}
        marks: dict[int, Cell] = {c.line: cell(glyph("claim"), "straw", True)
                                  for c in self.work.claims if c.line is not None}  # fmt: skip
        marks.update({n: cell(glyph("hold"), "straw", True) for f, n in self.work.holds
                      if f == file})  # fmt: skip
        self.query_one("#source", SourceView).show(
            source.text,
            times={n: t for n, t in times.items() if t},
            marks=marks,
            values={step.line: told} if (told := step_values(step)) else {},
            current=step.line,
            with_values=True,
        )

    def _show_table(self, traced: Traced) -> None:
        story, view = traced.story, self.work.view
        names = [n for n in shown_names(story, view.order) if n not in view.hidden]
        places = story.places_in(view.only) if view.only is not None else None
        table = self.query_one("#table", RuledTable)
        columns = trace_columns(story, names, max(40, table.size.width), traced.column)
        rows = TraceRows(story, names, traced.step, view.fill_down, places)
        frozen = _FROZEN + len([n for n in view.order if n in names])
        table.show(columns, rows, rows.row_of(traced.step), frozen)
        changed = [names.index(c.name) for c in story.step(traced.step).changes if c.name in names]
        if changed:
            table.bring_column(_FROZEN + min(changed))
        self.query_one("#table-heading", Heading).right = self._table_words(traced, table)

    def _table_words(self, traced: Traced, table: RuledTable) -> str:
        view, told = self.work.view, []
        if traced.stale:
            return "~ of the program before the last save · T records it anew"
        if view.only is not None:
            told.append(f"only {view.only or 'the main part'}")
        hidden = [n for n in traced.story.columns if n in view.hidden]
        if hidden:
            told.append(f"{len(hidden)} hidden, 0 brings back")
        if table.virtual_size.width > table.size.width:
            told.append("Shift+→ shows more")
        return own(" · ".join(told) or f"{len(traced.story):,} steps")

    def _show_values(self, traced: Traced) -> None:
        heading = self.query_one("#values-heading", Heading)
        values = traced.story.values_at(traced.step)
        heading.right = f"{len(values)} name{'s' if len(values) != 1 else ''} · Enter: whole"
        self.query_one("#values", Prose).write(lambda width: values_now(traced, width, 10))

    def _show_printed(self, traced: Traced) -> None:
        printed = printed_so_far(traced)
        heading = self.query_one("#printed-heading", Heading)
        expected = traced.case.stdout
        heading.right = "beside what is expected" if expected is not None else ""
        self.query_one("#printed", Prose).write(
            lambda width: side_by_side(
                expected, printed, width, _PRINTED, differs=False, around=printed.count("\n") + 1
            )
        )
        self.query_one("#printed-scroll", VerticalScroll).scroll_end(animate=False)

    # -- moving ------------------------------------------------------------------------------

    def action_step(self, by: int) -> None:
        """Steps on or back."""
        if self.traced is not None:
            story = self.traced.story
            at = story.place(self.traced.step) + by
            self.go(story.number(min(max(at, 0), len(story) - 1)))

    def action_to_end(self, side: int) -> None:
        """To the first or the last step."""
        if self.traced is not None:
            self.go(1 if side < 0 else self.traced.story.last)

    def action_into(self) -> None:
        """Into the next call made from here."""
        if self.traced is not None:
            story, here = self.traced.story, self.traced.step
            self.go(story.into(here) or story.next_call(here), "No further call is made here.")

    def action_out(self) -> None:
        """To where the caller goes on."""
        if self.traced is not None:
            self.go(self.traced.story.out(self.traced.step), "This is not inside a call.")

    def action_over(self) -> None:
        """On, past any call made here."""
        if self.traced is not None:
            self.go(self.traced.story.over(self.traced.step), "This is the last step.")

    def action_run(self, side: int) -> None:
        """Run to the next line held, or back to the one before."""
        traced = self.traced
        if traced is None:
            return
        if not self.work.holds:
            self.notify("No line is held yet. H holds at this line.")
            return
        stops = self.stops()
        at = bisect_right(stops, traced.step) if side > 0 else bisect_left(stops, traced.step) - 1
        way = "after" if side > 0 else "before"
        found = stops[at] if 0 <= at < len(stops) else None
        self.go(found, f"No line that is held runs {way} this step.")

    def action_hold(self) -> None:
        """Hold at the line in hand, or no longer."""
        if self.traced is not None:
            step = self.traced.story.step(self.traced.step)
            self.toggle_hold(step.statement.file, step.line)

    def action_by_number(self) -> None:
        """Ask for a step's number and go there."""
        traced = self.traced
        if traced is not None:
            self.app.push_screen(StepNumber(traced.story.last), self.go_where_there_is)

    def word_of_keys(self) -> str:
        """What kind of step it is."""
        traced = self.traced
        if traced is None:
            return "trace"
        step = traced.story.step(traced.step)
        events = [e for e in step.events if e in ("call", "back")]
        return events[0] if events else "condition" if step.condition is not None else "step"

    def action_whole(self) -> None:
        """Every value of this step, uncut."""
        traced = self.traced
        if traced is not None:
            title = f"VALUES AFTER STEP {traced.step}"
            self.app.push_screen(
                TextPage(title, lambda width: values_now(traced, width, 0), wide=True)
            )

    def action_fill_down(self) -> None:
        """Show old values too, or only what changed."""
        self.work.view.fill_down = not self.work.view.fill_down
        self.show()

    def action_scroll(self, by: int) -> None:
        """Scroll the trace table sideways."""
        self.query_one("#table", RuledTable).scroll_relative(x=by, animate=False)

    def action_again(self) -> None:
        """Record the case once more."""
        if self.work.traced is not None:
            self.odd_sum.open_trace(self.work.traced.case)

    @on(RuledTable.Moved)
    def to_row(self, message: RuledTable.Moved) -> None:
        """A row of the table was clicked."""
        rows = message.table.rows
        if isinstance(rows, TraceRows):
            self.go(rows.number_of(message.row))

    @on(RunLine.Clicked)
    def to_moment(self, message: RunLine.Clicked) -> None:
        """The run was clicked."""
        self.go(message.step)

    @on(SourceView.MarginClicked)
    def hold_there(self, message: SourceView.MarginClicked) -> None:
        """A margin was clicked."""
        if self.traced is not None:
            step = self.traced.story.step(self.traced.step)
            self.toggle_hold(step.statement.file, message.line)


def _place_words(traced: Traced, step: Step) -> str:
    inside = f"in {step.function}, depth {step.depth}" if step.function else "main part"
    return own(f"{inside} · ⟨line⟩ ×times run")


def _some(steps: list[int]) -> list[int]:
    """Steps; where there are more than can be drawn, some of them."""
    return steps[:: max(1, len(steps) // _MOST_MARKS)]


def _round_marks(traced: Traced, step: Step) -> list[RunMark]:
    """The rounds of the innermost loop around a step, a tick each, the current one in blue."""
    story = traced.story
    loop = story.loop_around(step.number)
    if loop is None:
        return []
    starts = story.round_starts(loop, step)
    current = bisect_right(starts, step.number)
    shown = range(1, len(starts) + 1, max(1, len(starts) // _MOST_MARKS))
    marks = [RunMark(starts[n - 1], own(f"╷{n}"), "quiet") for n in shown if n != current]
    return [*marks, RunMark(starts[current - 1], own(f"╷{current}"), "blue")] if current else marks
