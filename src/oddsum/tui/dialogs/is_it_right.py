"""Shows what came out of a case with nothing expected yet, and asks whether it is right."""

from __future__ import annotations

from typing import ClassVar

from textual import on
from textual.app import ComposeResult
from textual.binding import BindingType
from textual.containers import Horizontal, Vertical, VerticalScroll
from textual.widgets import Button, Label

from oddsum.compare.readings import reading
from oddsum.model.outcome import CaseResult
from oddsum.tui.actions import bindings_for
from oddsum.tui.dialogs.dialog import Dialog
from oddsum.tui.dialogs.keys_heading import KeysHeading
from oddsum.tui.widgets.picture import alone
from oddsum.tui.widgets.prose import Prose
from oddsum.tui.writing import Piece, clean


def what_came_out(result: CaseResult) -> str:
    """The value of a call; else what was printed, as on a terminal, with the answers typed in."""
    return result.actual if result.returned_value else reading(result.run, "terminal")


class IsItRight(Dialog[str | None]):
    """Closes with ``right``, ``other``, or None where the case is left open."""

    BINDINGS: ClassVar[list[BindingType]] = [*bindings_for("is_it_right")]

    def __init__(self, result: CaseResult) -> None:
        super().__init__(classes="page")
        self.result = result

    def compose(self) -> ComposeResult:
        """What came out, the question, three answers."""
        result = self.result
        what = "What came back:" if result.returned_value else "What it printed:"
        if result.run.drawn is not None and result.run.drawn.lines:
            what = "What it drew, and printed:"
        with Vertical(id="card"):
            yield KeysHeading(f"CASE {result.number}: IS THIS RIGHT?", "is_it_right")
            yield Label(what, classes="label")
            with VerticalScroll(id="scroll", can_focus=False):
                yield Prose(self._lines)
            yield Label(
                "Work it out by hand first: a result that looks right may still be wrong.",
                classes="hint",
            )
            with Horizontal():
                yield Button("I do not know yet", id="leave")
                yield Button("Yes, it should be this", id="right")
                yield Button("No, something else", id="other")

    def _lines(self, width: int) -> list[list[Piece]]:
        drawn = self.result.run.drawn
        if drawn is not None and drawn.lines:
            return [*alone(drawn.lines, width), *self._printed()]
        return self._printed()

    def _printed(self) -> list[list[Piece]]:
        lines = what_came_out(self.result).rstrip("\n").split("\n")
        if lines == [""]:
            return [[Piece("nothing", "quiet", italic=True)]]
        return [[Piece(clean(line), "strong")] for line in lines]

    def on_mount(self) -> None:
        """Begin on the answer that changes nothing."""
        self.query_one("#leave", Button).focus()

    @on(Button.Pressed)
    def answered(self, event: Button.Pressed) -> None:
        """One of the answers."""
        self.close(None if event.button.id == "leave" else event.button.id)
