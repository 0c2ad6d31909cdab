"""A file that a case lays beside the program: its name, and what stands in it."""

from __future__ import annotations

from collections.abc import Mapping
from typing import ClassVar

from textual import on
from textual.app import ComposeResult
from textual.binding import BindingType
from textual.containers import Horizontal, Vertical
from textual.widgets import Button, Input, Label, TextArea

from oddsum.tui.actions import bindings_for
from oddsum.tui.dialogs.dialog import Dialog
from oddsum.tui.dialogs.keys_heading import KeysHeading


class FileCard(Dialog[tuple[str, str] | None]):
    """Closes with a file's name and its content, or None. One that is there already is changed."""

    BINDINGS: ClassVar[list[BindingType]] = [*bindings_for("file_card")]

    def __init__(self, there: Mapping[str, str]) -> None:
        super().__init__(classes="page")
        self.there = there

    def compose(self) -> ComposeResult:
        """Name, content, and what is wrong with them."""
        with Vertical(id="card"):
            yield KeysHeading("A FILE IT READS", "file_card")
            yield Label("Its name, as the program opens it", classes="label")
            yield Input(placeholder="prices.txt", id="file-name")
            yield Label("What stands in it", classes="label")
            yield TextArea("", id="content")
            yield Label("It is laid beside the program for this case alone.", classes="hint")
            yield Label("", classes="fault", id="error")
            with Horizontal():
                yield Button("Keep it", id="keep", variant="primary")
                yield Button("Leave", id="leave")

    @on(Input.Changed, "#file-name")
    def show_known(self, event: Input.Changed) -> None:
        """The content of a file that is there already."""
        area = self.query_one("#content", TextArea)
        if event.value in self.there and not area.text:
            area.text = self.there[event.value]

    @on(Button.Pressed, "#leave")
    def leave(self) -> None:
        """Close; nothing is changed."""
        self.close()

    @on(Button.Pressed, "#keep")
    def action_keep_typed(self) -> None:
        """Close with the file, or say what is wrong with its name."""
        name = self.query_one("#file-name", Input).value.strip()
        if not name or name.startswith(("/", "..")) or "/../" in name:
            said = "Name a file inside the program's folder, such as prices.txt."
            self.query_one("#error", Label).update(said)
            return
        self.close((name, self.query_one("#content", TextArea).text))
