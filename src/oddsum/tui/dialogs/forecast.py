"""Say what comes next before looking: the trace table with cells to fill in."""

from __future__ import annotations

from collections.abc import Callable
from typing import ClassVar

from textual import on
from textual.app import ComposeResult
from textual.binding import BindingType
from textual.containers import Horizontal, Vertical
from textual.widgets import Input, Label

from oddsum.languages import language_of
from oddsum.trace.ask import Story
from oddsum.trace.forecast import Cell, cells, judged
from oddsum.trace.words import short
from oddsum.tui.actions import bindings_for
from oddsum.tui.dialogs.dialog import Dialog
from oddsum.tui.dialogs.keys_heading import KeysHeading
from oddsum.tui.glyphs import own
from oddsum.tui.screens.station import NARROW
from oddsum.workspace.tracing import Veil

_FEW, _ROOMY = 3, 34  # cells where there is little room; lines from which on there is more


class Forecast(Dialog[int | None]):
    """Closes with the step of the first cell that was another, else of the last one answered.

    ``on_veil`` is told what may be seen behind it: nothing of what is asked, all that is needed.
    """

    BINDINGS: ClassVar[list[BindingType]] = [*bindings_for("forecast")]

    def __init__(
        self, story: Story, step: int, on_veil: Callable[[Veil | None], None] = lambda _: None
    ) -> None:
        super().__init__(classes="page low beside")
        self.HORIZONTAL_BREAKPOINTS = [(0, "-narrow"), (NARROW, "-wide")]
        count = 6 if self.app.size.height >= _ROOMY else _FEW
        self.cells: list[Cell] = cells(story, step, count)
        self._story, self._seen, self._on_veil = story, step, on_veil
        self._asking = language_of(story.trace.program).asking
        self.wrong: int | None = None
        self.said: int | None = None  # the step of the last cell that was answered

    def compose(self) -> ComposeResult:
        """A field a cell; the cells after the first wrong one stay open."""
        with Vertical(id="card"):
            yield KeysHeading("WHAT COMES NEXT?", "forecast")
            if not self.cells:
                yield Label("Nothing more changes in this call after this step.", classes="hint")
            for n, one in enumerate(self.cells):
                with Horizontal(classes="forecast"):
                    yield Label(self._asked(one), classes="asked")
                    yield Input(id=f"cell{n}", classes="guess", disabled=n > 0)
                    yield Label("", id=f"said{n}", classes="said")
            yield Label("Work it out from the program, and fill it in. The line that is asked "
                        "about is lifted there.", classes="hint", id="hint")  # fmt: skip

    @staticmethod
    def _asked(one: Cell) -> str:
        what = one.name or "the condition, True or False"
        before = f", now {short(one.before, 14)}" if one.before else ""
        return f"line {one.line}: {what}{before}"

    def on_mount(self) -> None:
        """Begin with the first."""
        if self.cells:
            self._draw_veil(0)
            self.query_one("#cell0", Input).focus()

    def _draw_veil(self, number: int) -> None:
        """Let everything before a cell be seen, and no more."""
        asked = self.cells[number].step
        before = self._story.number(max(0, self._story.place(asked) - 1))
        self._on_veil(Veil(max(self._seen, before), asked))

    @on(Input.Submitted)
    def look(self, event: Input.Submitted) -> None:
        """Hold one cell against what happened; go on to the next, or say what it was."""
        n = int((event.input.id or "cell0")[4:])
        if not event.value.strip():
            return
        one, verdict = self.cells[n], judged(self.cells[n], event.value, self._asking)
        said, hint = self.query_one(f"#said{n}", Label), self.query_one("#hint", Label)
        said.update(own("= " if verdict.right else "≠ ") + short(one.actual, 24))
        said.set_class(not verdict.right, "-odd")
        event.input.disabled = True
        self.said = one.step
        if not verdict.right:
            self.wrong = one.step
            self._on_veil(None)
            hint.update(
                f"{verdict.words} Here you and the machine part: Esc goes to step {one.step}."
            )
            self.set_focus(None)
        elif n + 1 < len(self.cells):
            following = self.query_one(f"#cell{n + 1}", Input)
            following.disabled = False
            self._draw_veil(n + 1)
            following.focus()
        else:
            hint.update("All as you said. Esc puts this away.")
            self.set_focus(None)

    def action_leave(self) -> None:
        """Close; the trace goes to the first cell that was another, else to the last answered."""
        self.close(self.wrong or self.said)
