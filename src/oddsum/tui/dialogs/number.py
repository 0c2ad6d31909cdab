"""Asks for a step by its number."""

from __future__ import annotations

from typing import ClassVar

from textual import on
from textual.app import ComposeResult
from textual.binding import Binding, BindingType
from textual.containers import Vertical
from textual.screen import ModalScreen
from textual.widgets import Input, Label

from oddsum.tui.widgets.heading import Heading


class StepNumber(ModalScreen[int | None]):
    """Closes with a step's number, or None."""

    BINDINGS: ClassVar[list[BindingType]] = [Binding("escape", "leave", "Leave", show=False)]

    def __init__(self, most: int) -> None:
        super().__init__(classes="page")
        self.most = most

    def compose(self) -> ComposeResult:
        """One field."""
        with Vertical(id="card"):
            yield Heading("GO TO A STEP", "Esc leaves")
            yield Label(f"A number from 1 to {self.most:,}", classes="label")
            yield Input(type="integer", max_length=9)
            yield Label("", classes="fault", id="error")

    @on(Input.Submitted)
    def answer(self, event: Input.Submitted) -> None:
        """Close with the number, or say what is wrong with it."""
        text = event.value.strip()
        if text.isdecimal() and 1 <= int(text) <= self.most:
            self.dismiss(int(text))
        else:
            self.query_one("#error", Label).update(f"There are steps 1 to {self.most:,}.")

    def action_leave(self) -> None:
        """Close without a number."""
        self.dismiss(None)
