"""Asks for a step by its number."""

from __future__ import annotations

from typing import ClassVar

from textual import on
from textual.app import ComposeResult
from textual.binding import BindingType
from textual.containers import Vertical
from textual.widgets import Input, Label

from oddsum.tui.actions import bindings_for
from oddsum.tui.dialogs.dialog import Dialog
from oddsum.tui.dialogs.keys_heading import KeysHeading


class StepNumber(Dialog[int | None]):
    """Closes with a step's number, or None."""

    BINDINGS: ClassVar[list[BindingType]] = [*bindings_for("number")]

    def __init__(self, most: int) -> None:
        super().__init__(classes="page")
        self.most = most

    def compose(self) -> ComposeResult:
        """One field."""
        with Vertical(id="card"):
            yield KeysHeading("GO TO A STEP", "number")
            yield Label(f"A number from 1 to {self.most:,}", classes="label")
            yield Input(type="integer", max_length=9)
            yield Label("", classes="fault", id="error")

    @on(Input.Submitted)
    def answer(self, event: Input.Submitted) -> None:
        """Close with the number, or say what is wrong with it."""
        text = event.value.strip()
        if text.isdecimal() and 1 <= int(text) <= self.most:
            self.close(int(text))
        else:
            self.query_one("#error", Label).update(f"There are steps 1 to {self.most:,}.")
