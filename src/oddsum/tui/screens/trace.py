"""Trace: one case, step by step, in both directions of time."""

from __future__ import annotations

from collections.abc import Iterable
from typing import ClassVar

from textual import on
from textual.binding import BindingType
from textual.containers import Vertical, VerticalScroll
from textual.widget import Widget

from oddsum.model.trace import Step
from oddsum.tui.actions import bindings_of
from oddsum.tui.dialogs.question_list import QuestionList
from oddsum.tui.glyphs import glyph, own
from oddsum.tui.questions import QUESTIONS
from oddsum.tui.questions.asker import Asker
from oddsum.tui.questions.fitting import Asked, fitting
from oddsum.tui.screens.station import Station
from oddsum.tui.widgets.divider import Divider
from oddsum.tui.widgets.heading import Heading
from oddsum.tui.widgets.panels import Panels
from oddsum.tui.widgets.printed import came_out, came_out_words
from oddsum.tui.widgets.prose import Prose, wrapped
from oddsum.tui.widgets.ruled_table import RuledTable
from oddsum.tui.widgets.run_line import RunLine, RunMark
from oddsum.tui.widgets.source_view import SourceView
from oddsum.tui.widgets.trace_rows import TraceRows
from oddsum.tui.widgets.trace_table import TraceTable
from oddsum.tui.widgets.values_now import step_values, values_now
from oddsum.tui.writing import Cell, Piece, cell
from oddsum.workspace.interface import Part
from oddsum.workspace.tracing import Traced
from oddsum.workspace.workspace import Workspace

_MOST_MARKS = 400  # on the run's line
_PANELS = ("table", "values", "printed")  # where there is room for one of them


class TraceScreen(Station):
    """The run, the program with its margin, the trace table, and what was printed so far."""

    station = "trace"
    AUTO_FOCUS = ""  # the keys belong to the station, not to the table in it
    BINDINGS: ClassVar[list[BindingType]] = [*bindings_of("trace")]

    def __init__(self, workspace: Workspace) -> None:
        super().__init__(workspace)
        self._asker = Asker(workspace, self.app)
        self._panel = "table"

    @property
    def traced(self) -> Traced | None:
        """The recording that is shown, None where there is none with a step in it."""
        return self.workspace.tracing.walked

    @property
    def absent(self) -> frozenset[str]:
        """Where all panels have room there is none to be chosen."""
        return super().absent | (frozenset() if self.has_class("-narrow") else {"panel"})

    def compose_body(self) -> Iterable[Widget]:
        """Lay out the run above, the program at the left, the table at the right."""
        with Vertical(id="body"):
            yield Heading("THE RUN", id="run-heading")
            yield RunLine(id="run")
            with Panels(46, id="panels"):
                with Vertical(id="left", classes="column"):
                    yield Heading(id="source-heading")
                    yield SourceView(id="source")
                    yield Heading("VALUES NOW", id="values-heading").add_class("spaced")
                    with VerticalScroll(id="values-scroll", can_focus=False):
                        yield Prose(id="values")
                yield Divider()
                with Vertical(id="right", classes="column"):
                    yield Heading("TRACE TABLE", id="table-heading")
                    yield TraceTable(id="table")
                    yield Heading(id="printed-heading").add_class("spaced")
                    with VerticalScroll(id="printed-scroll", can_focus=False):
                        yield Prose(id="printed")
            yield Prose(id="empty")

    def show_body(self, parts: frozenset[Part]) -> None:
        """Bring every panel to the step in hand; while something only counts, what counts."""
        traced = self.traced
        self.set_class(traced is None, "-empty")
        if traced is None:
            self.query_one("#empty", Prose).write(self._empty)
            return
        for panel in _PANELS:
            self.set_class(self._panel == panel, f"-{panel}")
        step = traced.story.step(traced.step)
        self._show_run(traced, step)
        if parts == {Part.COUNT}:
            return
        self._show_source(traced, step)
        self._show_table(traced)
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
        marks += [RunMark(m.step, own(f"{m.mark} {m.words}"), m.ink) for m in traced.odd_moments()]
        marks = [m for m in marks if m.step != traced.step or m.text != glyph("hold")]
        marks.append(RunMark(traced.step, own(f"⟨{traced.step}⟩"), "blue"))
        self.query_one("#run", RunLine).show(story, traced.step, rounds, marks)

    def _show_source(self, traced: Traced, step: Step) -> None:
        story, veil = traced.story, traced.veil
        asked = story.step(veil.asked).statement if veil is not None else step.statement
        file, line = asked.file, asked.line
        source = self.workspace.files.source_of(file)
        heading = self.query_one("#source-heading", Heading)
        heading.title, heading.right = file.upper(), _place_words(step)
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
        told = step_values(traced, step) if veil is None else ()
        odd = next((m for m in traced.odd_moments() if m.step == traced.step), None)
        if odd is not None and veil is None:
            marks[line] = cell(f" {own(odd.mark)}", odd.ink, True)
        self.query_one("#source", SourceView).show(
            source,
            times={n: t for n, t in times.items() if t},
            marks=marks,
            values={line: told} if told else {},
            current=line,
            with_values=True,
        )

    def _show_table(self, traced: Traced) -> None:
        table, view = self.query_one(TraceTable), self.workspace.tracing.view
        table.show_step(traced, view)
        self._tell_columns(traced)

    def _tell_columns(self, traced: Traced) -> None:
        table, view = self.query_one(TraceTable), self.workspace.tracing.view
        self.workspace.walking.in_sight = table.titles
        words = table.words(traced, view)
        if self.has_class("-narrow"):
            words = own(f"{words.replace(' shows others', '')} · Ctrl+O values, printed")
        self.query_one("#table-heading", Heading).right = words

    def _show_values(self, traced: Traced) -> None:
        heading = self.query_one("#values-heading", Heading)
        values = traced.story.values_at(traced.step)
        heading.right = f"{len(values)} name{'s' if len(values) != 1 else ''} · Enter: whole"
        self.query_one("#values", Prose).write(lambda width: values_now(traced, width, 40))

    def _show_printed(self, traced: Traced) -> None:
        heading = self.query_one("#printed-heading", Heading)
        heading.title, heading.right = came_out_words(traced)
        self.query_one("#printed", Prose).write(lambda width: came_out(traced, width))
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
        if self.traced is None:
            self.notify("There is nothing to ask yet: press T in Check on a case.")
            return

        async def ask(asked: Asked | None) -> None:
            if asked is not None:
                await self.run_action(asked.action.action)

        self.app.push_screen(QuestionList(fitting(self.workspace)), ask)

    def action_columns(self, by: int) -> None:
        """Show the columns after those in sight, or before them."""
        traced = self.traced
        if traced is not None:
            self.query_one(TraceTable).turn(traced, by)
            self.refresh_from(frozenset({Part.TRACE}))

    def action_panel(self) -> None:
        """The table, the values, what was printed: one of them, the next."""
        self._panel = _PANELS[(_PANELS.index(self._panel) + 1) % len(_PANELS)]
        self.refresh_from(frozenset({Part.TRACE}))
        self.call_after_refresh(self.refresh_from, frozenset({Part.TRACE}))

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

    @on(TraceTable.Resized)
    def tell_columns(self) -> None:
        """Other columns are in sight."""
        traced = self.traced
        if traced is not None:
            self._tell_columns(traced)

    @on(RuledTable.Moved)
    def to_row(self, message: RuledTable.Moved) -> None:
        """A row of the table was clicked."""
        rows = message.table.rows
        if isinstance(rows, TraceRows):
            self.workspace.tracing.go(rows.number_of(message.row))

    @on(RuledTable.Asked)
    def about_column(self, message: RuledTable.Asked) -> None:
        """A column's title was clicked, or a cell of the row in hand: what can be asked of it?"""
        title = self.query_one(TraceTable).title_at(message.column)
        if title:
            self.workspace.walking.take_column(title)
        self.action_questions()

    @on(RuledTable.Opened)
    def about_row(self) -> None:
        """A row was clicked twice."""
        self.action_questions()

    @on(RunLine.Clicked)
    def to_moment(self, message: RunLine.Clicked) -> None:
        """The run was clicked."""
        self.workspace.tracing.go(message.step)

    @on(SourceView.MarginClicked)
    def hold_there(self, message: SourceView.MarginClicked) -> None:
        """A margin was clicked."""
        self.workspace.walking.toggle_breakpoint(message.line)

    @on(SourceView.LineClicked)
    def about_line(self, message: SourceView.LineClicked) -> None:
        """A line was clicked: go to it; where one is there already, what can be asked of it?"""
        traced = self.traced
        if traced is None:
            return
        if traced.story.step(traced.step).line == message.line:
            self.action_questions()
        else:
            self.workspace.walking.to_line(message.line)


def _place_words(step: Step) -> str:
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
