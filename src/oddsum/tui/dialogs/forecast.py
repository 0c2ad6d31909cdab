"""Say what comes next before looking: the trace table with cells to fill in."""

from __future__ import annotations

from typing import ClassVar

from textual import on
from textual.app import ComposeResult
from textual.binding import BindingType
from textual.containers import Horizontal, Vertical
from textual.widgets import Input, Label

from oddsum.trace.ask import Story
from oddsum.trace.forecast import Cell, cells, judged
from oddsum.trace.words import short
from oddsum.tui.actions import bindings_for
from oddsum.tui.dialogs.dialog import Dialog
from oddsum.tui.dialogs.keys_heading import KeysHeading
from oddsum.tui.glyphs import own


class Forecast(Dialog[int | None]):
    """Closes with the step of the first cell that was another, or None."""

    BINDINGS: ClassVar[list[BindingType]] = [*bindings_for("forecast")]

    def __init__(self, story: Story, step: int) -> None:
        super().__init__(classes="page low")
        self.cells: list[Cell] = cells(story, step)
        self.wrong: int | None = None

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
            yield Label("Fill in what you expect, one after the other.", classes="hint", id="hint")

    @staticmethod
    def _asked(one: Cell) -> str:
        what = one.name or "the condition, True or False"
        before = f", now {short(one.before, 14)}" if one.before else ""
        return f"step {one.step}, line {one.line}: {what}{before}"

    def on_mount(self) -> None:
        """Begin with the first."""
        if self.cells:
            self.query_one("#cell0", Input).focus()

    @on(Input.Submitted)
    def look(self, event: Input.Submitted) -> None:
        """Hold one cell against what happened; go on to the next, or say what it was."""
        n = int((event.input.id or "cell0")[4:])
        if not event.value.strip():
            return
        one, verdict = self.cells[n], judged(self.cells[n], event.value)
        said, hint = self.query_one(f"#said{n}", Label), self.query_one("#hint", Label)
        said.update(own("= " if verdict.right else "≠ ") + short(one.actual, 24))
        said.set_class(not verdict.right, "-odd")
        event.input.disabled = True
        if not verdict.right:
            self.wrong = one.step
            hint.update(
                f"{verdict.words} Here you and the machine part: Esc goes to step {one.step}."
            )
            self.set_focus(None)
        elif n + 1 < len(self.cells):
            following = self.query_one(f"#cell{n + 1}", Input)
            following.disabled = False
            following.focus()
        else:
            hint.update("All as you said. Esc puts this away.")
            self.set_focus(None)

    def action_leave(self) -> None:
        """Close; the trace goes to the first cell that was another."""
        self.close(self.wrong)
