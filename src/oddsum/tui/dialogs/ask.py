"""Asks for one line of text, and says there what is wrong with it."""

from __future__ import annotations

from collections.abc import Callable
from typing import ClassVar

from textual import on
from textual.app import ComposeResult
from textual.binding import BindingType
from textual.containers import Vertical
from textual.widgets import Input, Label

from oddsum.model.errors import OddSumError
from oddsum.tui.actions import bindings_for
from oddsum.tui.dialogs.dialog import Dialog
from oddsum.tui.dialogs.keys_heading import KeysHeading


class Ask(Dialog[str | None]):
    """Closes with what was typed, or None. ``check`` raises OddSumError where it will not do."""

    BINDINGS: ClassVar[list[BindingType]] = [*bindings_for("ask")]

    def __init__(
        self,
        title: str,
        label: str,
        hint: str,
        check: Callable[[str], object],
        typed: str = "",
        example: str = "",
    ) -> None:
        super().__init__(classes="page")
        self._title, self._label, self._hint = title, label, hint
        self._check, self._typed, self._example = check, typed, example

    def compose(self) -> ComposeResult:
        """One field, with what is wrong under it."""
        with Vertical(id="card"):
            yield KeysHeading(self._title, "ask")
            yield Label(self._label, classes="label")
            yield Input(self._typed, placeholder=self._example)
            yield Label("", classes="fault", id="error")
            yield Label(self._hint, classes="hint")

    @on(Input.Submitted)
    def answer(self, event: Input.Submitted) -> None:
        """Close with the text, or say what is wrong with it, with the field at that place."""
        try:
            self._check(event.value)
        except OddSumError as fault:
            self.query_one("#error", Label).update(str(fault))
            if fault.column:
                event.input.cursor_position = min(fault.column - 1, len(event.value))
        else:
            self.close(event.value)


def check_line(most: int, text: str) -> None:
    """Refuse what is no line's number; ``most`` is the last one. Raises OddSumError."""
    if not (text.strip().isdecimal() and 1 <= int(text) <= most):
        raise OddSumError(f"The program has lines 1 to {most}.")
