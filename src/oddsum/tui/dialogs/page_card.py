"""A page of the notebook to write in."""

from __future__ import annotations

from typing import ClassVar

import msgspec
from textual import on
from textual.app import ComposeResult
from textual.binding import BindingType
from textual.containers import Horizontal, Vertical, VerticalScroll
from textual.widgets import Button, Input, Label, TextArea

from oddsum.model.history import Entry
from oddsum.tui.actions import bindings_for
from oddsum.tui.dialogs.dialog import Dialog
from oddsum.tui.dialogs.keys_heading import KeysHeading


class PageCard(Dialog[Entry | None]):
    """Closes with the page as it was written, or None."""

    BINDINGS: ClassVar[list[BindingType]] = [*bindings_for("page_card")]

    def __init__(self, page: Entry) -> None:
        super().__init__(classes="page")
        self.page = page

    def compose(self) -> ComposeResult:
        """Where, what, how, and the learner's own words."""
        with Vertical(id="card"):
            yield KeysHeading("A PAGE OF THE NOTEBOOK", "page_card")
            with VerticalScroll(id="scroll", can_focus=False):
                yield Label("Where was it?", classes="label")
                yield Input(self.page.where, id="where", placeholder="fares.py, line 12")
                yield Label("What was wrong?", classes="label")
                yield Input(self.page.what, id="what", placeholder="a limit that is one off")
                yield Label("How is it mended?", classes="label")
                yield Input(self.page.how, id="how")
                yield Label("In your own words: why, and how would you notice it next time?",
                            classes="label")  # fmt: skip
                yield TextArea(self.page.own, id="own", tab_behavior="focus")
            with Horizontal():
                yield Button("Keep it", id="keep", classes="-primary")
                yield Button("Leave", id="leave")

    def on_mount(self) -> None:
        """Begin where the tool has nothing to say."""
        own = self.query_one("#own", TextArea)
        (own if self.page.where else self.query_one("#where", Input)).focus()
        own.move_cursor(own.document.end)

    @on(Button.Pressed)
    def pressed(self, event: Button.Pressed) -> None:
        """Keep or leave."""
        if event.button.id == "keep":
            self.action_keep_typed()
        else:
            self.close(None)

    def action_keep_typed(self) -> None:
        """Close with what was written."""
        fields = {n: self.query_one(f"#{n}", Input).value.strip() for n in ("where", "what", "how")}
        own = self.query_one("#own", TextArea).text.rstrip()
        self.close(msgspec.structs.replace(self.page, own=own, **fields))
