"""What every station is made of: masthead, trail, body, the next thing to do, keys."""

from __future__ import annotations

from collections.abc import Iterable
from typing import ClassVar, cast

from rich.text import Text
from textual import events, on
from textual.app import ComposeResult
from textual.screen import Screen
from textual.widget import Widget
from textual.widgets import Static

from oddsum.model.errors import StartError
from oddsum.trace.words import counted
from oddsum.tui import messages
from oddsum.tui.actions import actions_of
from oddsum.tui.glossary import looked_up
from oddsum.tui.glyphs import glyph
from oddsum.tui.inks import INK_OF
from oddsum.tui.next_step import next_words
from oddsum.tui.tracing import TracingApp
from oddsum.tui.widgets.bands import KeyLine, Masthead, NextLine, Trail
from oddsum.tui.work import Traced, Work
from oddsum.tui.writing import Piece

LEAST_WIDTH, LEAST_HEIGHT = 80, 24
NARROW, SHORT = 120, 34


class Station(Screen[None]):
    """A screen for one station. ``show`` brings everything on it up to date."""

    station: ClassVar[str] = ""
    _pointing = False  # whether the mouse was moved after the last key

    @property
    def odd_sum(self) -> TracingApp:
        """The application, as what it is."""
        return cast(TracingApp, self.app)

    @property
    def work(self) -> Work:
        """The work in hand."""
        return self.odd_sum.work

    def compose(self) -> ComposeResult:
        """Put the shared parts around the station's own body."""
        yield Masthead()
        yield Trail()
        yield from self.compose_body()
        yield NextLine()
        yield KeyLine(actions_of(self.station))
        yield Static(id="too-small")

    def compose_body(self) -> Iterable[Widget]:
        """The station's own part; its outermost widget is ``#body``."""
        raise NotImplementedError

    def show_body(self) -> None:
        """Bring the station's own part up to date."""
        raise NotImplementedError

    def take_versions(self, message: messages.VersionsRead) -> None:
        """Two versions of the program are there; Record asks for them."""

    def on_screen_resume(self) -> None:
        """The user has come here: everything may have changed meanwhile."""
        self.show()

    def on_resize(self, event: events.Resize) -> None:
        """Fit the room there is; say how much is needed where there is too little."""
        width, height = event.size
        self.set_class(width < NARROW, "-narrow")
        self.set_class(height < SHORT, "-short")
        self.set_class(width < LEAST_WIDTH or height < LEAST_HEIGHT, "-small")
        words = Text(
            f"This window has {width} columns and {height} lines.\n"
            f"Odd Sum needs at least {LEAST_WIDTH} and {LEAST_HEIGHT}.\n"
            "Make the window larger, or its letters smaller.\n\nCtrl+Q leaves."
        )
        self.query_one("#too-small", Static).update(words)
        self.call_after_refresh(self.show)

    def show(self) -> None:
        """Bring everything on the screen up to date.

        A late message can still ask for it while the application closes, with half of the
        widgets gone already.
        """
        if not self.is_mounted or not self.app.is_running:
            return
        work = self.work
        self.query_one(Masthead).write(*_masthead(work))
        self.query_one(Trail).show(self.station, _tallies(work), self.app.size.width < NARROW)
        self.query_one(NextLine).show(next_words(work, self.station))
        self.query_one(KeyLine).refresh()
        self.show_body()

    def on_mouse_move(self) -> None:
        """From now on the mouse points at what is meant."""
        self._pointing = True

    def on_key(self) -> None:
        """From now on the keys say what is meant."""
        self._pointing = False

    def word_in_hand(self) -> str:
        """The glossary's word under the mouse, where that was moved last; else the keys'."""
        if self._pointing:
            x, y = self.app.mouse_position
            found = looked_up(self.station, word_at(self._line_of_screen(int(y)), int(x)))
            if found:
                return found
        return looked_up(self.station, self.word_of_keys())

    def word_of_keys(self) -> str:
        """The word that stands where the keys are; a station says."""
        return ""

    def _line_of_screen(self, y: int) -> str:
        strips = self._compositor.render_strips()
        return "".join(s.text for s in strips[y]) if 0 <= y < len(strips) else ""

    @on(Trail.Chosen)
    def go_to(self, message: Trail.Chosen) -> None:
        """A station of the trail was clicked."""
        self.odd_sum.action_go(message.station)

    @on(KeyLine.Pressed)
    async def do(self, message: KeyLine.Pressed) -> None:
        """A key of the key line was clicked."""
        if message.chosen.action:
            await self.run_action(message.chosen.action)


def word_at(line: str, x: int) -> str:
    """The word of a line at a cell, from 0; blank for none."""
    if not 0 <= x < len(line) or line[x].isspace():
        return ""
    start = line.rfind(" ", 0, x) + 1
    stop = line.find(" ", x)
    return line[start : stop if stop >= 0 else len(line)]


def _masthead(work: Work) -> tuple[list[Piece], list[Piece]]:
    left = [
        Piece(f" {glyph('differs')} ", "odd", True),
        Piece("Odd Sum    ", "strong", True),
        Piece(work.program.name, "strong", True),
    ]
    if work.plan is not None and work.plan.file is not None:
        left.append(
            Piece(f"   plan {work.plan.file.name} · {counted(len(work.cases), 'case')}", "quiet")
        )
    elif work.fault is None and work.begun:
        left.append(Piece("   no plan yet", "quiet"))
    if work.plan is not None and work.plan.run:
        left.append(Piece(f" · run by {' '.join(work.plan.run)}", "quiet"))
    elif work.interpreter is not None:
        left.append(Piece(f" · {work.interpreter.title}", "quiet"))
    return left, [Piece(_when(work) + " ", "quiet")]


def _when(work: Work) -> str:
    if work.checking is not None:
        return f"checking {work.checking} of {work.to_check} · Esc stops it"
    if work.stale:
        return "~ the program has changed"
    if work.checked_at:
        return f"checked {work.checked_at} in {work.seconds:.2f} s"
    return ""


def _tallies(work: Work) -> list[tuple[str, list[Piece]]]:
    return [
        ("check", check_tally(work)),
        ("trace", [Piece(_trace_tally(work.traced, work.tracing), "quiet")]),
        ("pinpoint", [Piece(_pinpoint_tally(work), "quiet")]),
        ("mend", [Piece(_mend_tally(work), "quiet")]),
        ("record", [Piece(_record_tally(work), "quiet")]),
    ]


def check_tally(work: Work) -> list[Piece]:
    """The counts of outcomes, with their marks; dimmed while they are stale."""
    if work.fault is not None:
        starts = isinstance(work.fault, StartError)
        return [Piece("cannot start" if starts else "to be put right", "stopped")]
    pieces, counts = [], work.counts()
    for outcome, name in INK_OF.items():
        count = counts[outcome]
        if count:
            mark = glyph(outcome.value)
            pieces.append(Piece(f"{count} {mark} ", "quiet" if work.stale else name, True))
    return pieces or [Piece("not run yet", "quiet")]


def _trace_tally(traced: Traced | None, tracing: int | None) -> str:
    if tracing is not None:
        return f"recording, {tracing:,} steps"
    if traced is None:
        return "not opened"
    stale = "~ " if traced.stale else ""
    number = f"case {traced.case.number} · " if traced.case.number else ""
    return f"{stale}{number}{traced.step:,}/{len(traced.story):,}"


def _pinpoint_tally(work: Work) -> str:
    search = work.search
    if search is None:
        return "not opened"
    if search.doing:
        return f"{search.done} of {search.total} trials" if search.total else "looking"
    if search.stopped:
        return "stopped"
    count = len(search.leads)
    stale = "~ " if search.stale else ""
    return f"{stale}{count} lead{'s' if count != 1 else ''}" if count else f"{stale}no lead"


def _mend_tally(work: Work) -> str:
    if work.draft is not None and work.draft.changed:
        return "not kept"
    return counted(len(work.tries), "try", "tries") if work.tries else "nothing tried"


def _record_tally(work: Work) -> str:
    count = work.record.count
    return counted(count, "run") if count else "no run yet"
