"""Trace: one case, step by step, in both directions of time."""

from __future__ import annotations

from collections.abc import Iterable
from typing import ClassVar

from textual import on
from textual.binding import BindingType
from textual.containers import Horizontal, Vertical, VerticalScroll
from textual.widget import Widget

from oddsum.model.trace import Step
from oddsum.tui.actions import bindings_of
from oddsum.tui.dialogs.pick import Pick
from oddsum.tui.glyphs import glyph, own
from oddsum.tui.questions import QUESTIONS
from oddsum.tui.questions.asker import Asker
from oddsum.tui.questions.fitting import QUESTION_COLUMNS, fitting, question_rows
from oddsum.tui.screens.station import Station
from oddsum.tui.widgets.heading import Heading
from oddsum.tui.widgets.prose import Prose, wrapped
from oddsum.tui.widgets.ruled_table import RuledTable
from oddsum.tui.widgets.run_line import RunLine, RunMark
from oddsum.tui.widgets.side_by_side import side_by_side
from oddsum.tui.widgets.source_view import SourceView
from oddsum.tui.widgets.trace_rows import TraceRows, trace_columns
from oddsum.tui.widgets.values_now import step_values, values_now
from oddsum.tui.writing import Cell, Piece, cell
from oddsum.workspace.interface import Part
from oddsum.workspace.tracing import Traced
from oddsum.workspace.workspace import Workspace

_MOST_MARKS = 400  # on the run's line
_PRINTED = 60  # lines of output that can be scrolled through; D has them all
_FROZEN = 3  # columns that stay when the table scrolls: step, line, what happened


class TraceScreen(Station):
    """The run, the program with its margin, the trace table, and what was printed so far."""

    station = "trace"
    AUTO_FOCUS = ""  # the keys belong to the station, not to the table in it
    BINDINGS: ClassVar[list[BindingType]] = [*bindings_of("trace")]

    def __init__(self, workspace: Workspace) -> None:
        super().__init__(workspace)
        self._asker = Asker(workspace, self.app)

    @property
    def traced(self) -> Traced | None:
        """The recording that is shown, None where there is none with a step in it."""
        return self.workspace.tracing.walked

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

    def show_body(self, parts: frozenset[Part]) -> None:
        """Bring every panel to the step in hand; while something only counts, what counts."""
        traced = self.traced
        self.set_class(traced is None, "-empty")
        if traced is None:
            self.query_one("#empty", Prose).write(self._empty)
            return
        step = traced.story.step(traced.step)
        self._show_run(traced, step)
        if parts == {Part.COUNT}:
            return
        self._show_source(traced, step)
        self._show_table(traced)
        if not self.has_class("-narrow"):
            self._show_values(traced)
            self._show_printed(traced)

    def _empty(self, width: int) -> list[list[Piece]]:
        tracing = self.workspace.tracing
        if tracing.busy:
            text = f"Recording: {tracing.recorded:,} steps so far. Esc stops it."
        elif self.workspace.checking.fault is not None:
            text = "The program cannot be run as it is. Check (1) says what is in the way."
        elif tracing.traced is not None:
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
        looking = self.workspace.lookups.doing or ended
        heading.right = f"{title} · step {traced.step:,} of {story.last:,} · {looking}"
        rounds = _round_marks(traced, step)
        marks = [
            RunMark(n, glyph("hold"), "straw") for n in _some(self.workspace.breakpoints.stops())
        ]
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
        source = self.workspace.files.source_of(file)
        heading = self.query_one("#source-heading", Heading)
        heading.title, heading.right = file.upper(), _place_words(traced, step)
        heading.lit = True
        if source is None:
            return
        lines = {s.line for s in story.statements if s.file == file}
        times = {n: story.times_run(file, n, traced.step) for n in lines}
        work = self.workspace
        marks: dict[int, Cell] = {
            c.line: cell(glyph("claim"), "straw", True)
            for c in work.claims.all
            if c.line is not None and c.file in ("", file)
        }
        held = [line for name, line in work.breakpoints.at if name == file]
        marks |= dict.fromkeys(held, cell(glyph("hold"), "straw", True))
        self.query_one("#source", SourceView).show(
            source,
            times={n: t for n, t in times.items() if t},
            marks=marks,
            values={step.line: told} if (told := step_values(step)) else {},
            current=step.line,
            with_values=True,
        )

    def _show_table(self, traced: Traced) -> None:
        story, view = traced.story, self.workspace.tracing.view
        names = self.workspace.walking.shown_columns(traced)
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
        view, told = self.workspace.tracing.view, []
        if traced.stale:
            return "~ of the program before the last save · T records it anew"
        if view.only is not None:
            told.append(f"only {view.only or 'the main part'}")
        hidden = [n for n in traced.story.columns if n in view.hidden]
        if hidden:
            told.append(f"{len(hidden)} hidden, 0 brings back")
        if table.virtual_size.width > table.size.width:
            told.append("Shift+→ shows more")
        return own(" · ".join(told) or f"{traced.story.last:,} steps")

    def _show_values(self, traced: Traced) -> None:
        heading = self.query_one("#values-heading", Heading)
        values = traced.story.values_at(traced.step)
        heading.right = f"{len(values)} name{'s' if len(values) != 1 else ''} · Enter: whole"
        self.query_one("#values", Prose).write(lambda width: values_now(traced, width, 10))

    def _show_printed(self, traced: Traced) -> None:
        printed = traced.printed_so_far()
        heading = self.query_one("#printed-heading", Heading)
        expected = traced.case.stdout
        heading.right = "beside what is expected" if expected is not None else ""
        self.query_one("#printed", Prose).write(
            lambda width: side_by_side(
                expected, printed, width, _PRINTED, differs=False, around=printed.count("\n") + 1
            )
        )
        self.query_one("#printed-scroll", VerticalScroll).scroll_end(animate=False)

    # -- keys and mouse ----------------------------------------------------------------------

    def action_walk(self, way: str, *by: int) -> None:
        """Go about in the recording, one of the ways there are."""
        getattr(self.workspace.walking, way)(*by)

    def action_ask(self, question: str) -> None:
        """Ask the recording one of the questions there are."""
        traced = self.traced
        if traced is not None:
            QUESTIONS[question](self._asker, traced)

    def action_questions(self) -> None:
        """Every question in words; the one that is taken is asked."""
        traced = self.traced
        if traced is None:
            self.notify("There is nothing to ask yet: press T in Check on a case.")
            return
        asked = fitting(self.workspace)
        count = 2 if self.has_class("-narrow") else 3
        columns, rows = QUESTION_COLUMNS[:count], question_rows(asked, count)
        page = Pick("WHAT DO YOU WANT TO KNOW?", columns, rows, keys="questions")

        async def ask(row: int | None) -> None:
            if row is not None:
                await self.run_action(asked[row].action.action)

        self.app.push_screen(page, ask)

    def action_scroll(self, by: int) -> None:
        """Scroll the trace table sideways."""
        self.query_one("#table", RuledTable).scroll_relative(x=by, animate=False)

    def action_again(self) -> None:
        """Record the case once more."""
        self.workspace.tracing.record_again()

    def word_of_keys(self) -> str:
        """What kind of step it is."""
        traced = self.traced
        if traced is None:
            return "trace"
        step = traced.story.step(traced.step)
        events = [e for e in step.events if e in ("call", "back")]
        return events[0] if events else "condition" if step.condition is not None else "step"

    @on(RuledTable.Moved)
    def to_row(self, message: RuledTable.Moved) -> None:
        """A row of the table was clicked."""
        rows = message.table.rows
        if isinstance(rows, TraceRows):
            self.workspace.tracing.go(rows.number_of(message.row))

    @on(RunLine.Clicked)
    def to_moment(self, message: RunLine.Clicked) -> None:
        """The run was clicked."""
        self.workspace.tracing.go(message.step)

    @on(SourceView.MarginClicked)
    def hold_there(self, message: SourceView.MarginClicked) -> None:
        """A margin was clicked."""
        self.workspace.walking.toggle_breakpoint(message.line)


def _place_words(traced: Traced, step: Step) -> str:
    inside = f"in {step.function}, depth {step.depth}" if step.function else "main part"
    return own(f"{inside} · ⟨line⟩ ×times run")


def _some(steps: list[int]) -> list[int]:
    """Steps; where there are more than can be drawn, some of them."""
    return steps[:: max(1, len(steps) // _MOST_MARKS)]


def _round_marks(traced: Traced, step: Step) -> list[RunMark]:
    """The rounds of the innermost loop around a step, a tick each, the current one in blue."""
    story = traced.story
    one = story.passes.around(step.number)
    if one is None:
        return []
    starts, current = one.starts, one.round_at(step.number)
    shown = range(1, len(starts) + 1, max(1, len(starts) // _MOST_MARKS))
    marks = [RunMark(starts[n - 1], own(f"╷{n}"), "quiet") for n in shown if n != current]
    return [*marks, RunMark(starts[current - 1], own(f"╷{current}"), "blue")] if current else marks
