"""A question with a few answers, each a button."""

from __future__ import annotations

from collections.abc import Sequence
from typing import ClassVar

from textual import on
from textual.app import ComposeResult
from textual.binding import Binding, BindingType
from textual.containers import Horizontal, Vertical
from textual.screen import ModalScreen
from textual.widgets import Button

from oddsum.tui.widgets.heading import Heading
from oddsum.tui.widgets.prose import Prose, wrapped
from oddsum.tui.writing import Piece


class Choose(ModalScreen[str | None]):
    """Closes with an answer's name, or None. The first answer is the one that changes nothing."""

    BINDINGS: ClassVar[list[BindingType]] = [
        Binding("escape", "leave", "Leave", show=False),
        Binding("left", "app.focus_previous", "Answer before", show=False),
        Binding("right", "app.focus_next", "Next answer", show=False),
    ]

    def __init__(self, title: str, said: Sequence[str], answers: Sequence[tuple[str, str]]) -> None:
        super().__init__(classes="page")
        self._title, self._said, self._answers = title, said, answers

    def compose(self) -> ComposeResult:
        """The sentences, then the answers."""
        with Vertical(id="card"):
            yield Heading(self._title, "Esc changes nothing")
            yield Prose(self._lines)
            with Horizontal():
                for name, label in self._answers:
                    yield Button(label, id=name)

    def _lines(self, width: int) -> list[list[Piece]]:
        lines: list[list[Piece]] = [[]]
        for sentence in self._said:
            lines += [*wrapped(sentence, width), []]
        return lines

    def on_mount(self) -> None:
        """Begin on the answer that changes nothing."""
        self.query(Button).first().focus()

    @on(Button.Pressed)
    def answered(self, event: Button.Pressed) -> None:
        """One of the answers."""
        self.dismiss(event.button.id)

    def action_leave(self) -> None:
        """Close without an answer."""
        self.dismiss(None)
