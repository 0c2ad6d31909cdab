"""A question with a few answers, each a button."""

from __future__ import annotations

from typing import ClassVar

from textual import on
from textual.app import ComposeResult
from textual.binding import BindingType
from textual.containers import Horizontal, Vertical
from textual.widgets import Button

from oddsum.tui.actions import bindings_for
from oddsum.tui.dialogs.dialog import Dialog
from oddsum.tui.dialogs.keys_heading import KeysHeading
from oddsum.tui.widgets.prose import Prose, wrapped
from oddsum.tui.writing import Piece
from oddsum.workspace.interface import Choice


class Choose(Dialog[str | None]):
    """Closes with an answer's name, or None. The first answer is the one that changes nothing."""

    BINDINGS: ClassVar[list[BindingType]] = [*bindings_for("choose")]

    def __init__(self, choice: Choice) -> None:
        super().__init__(classes="page")
        self._choice = choice

    def compose(self) -> ComposeResult:
        """The sentences, then the answers."""
        with Vertical(id="card"):
            yield KeysHeading(self._choice.title, "choose")
            yield Prose(self._lines)
            with Horizontal():
                for name, label in self._choice.answers:
                    yield Button(label, id=name)

    def _lines(self, width: int) -> list[list[Piece]]:
        lines: list[list[Piece]] = [[]]
        for sentence in self._choice.said:
            lines += [*wrapped(sentence, width), []]
        return lines

    def on_mount(self) -> None:
        """Begin on the answer that changes nothing."""
        self.query(Button).first().focus()

    @on(Button.Pressed)
    def answered(self, event: Button.Pressed) -> None:
        """One of the answers."""
        self.close(event.button.id)
