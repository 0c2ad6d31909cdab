"""How a program is built and run, where no station but Check reads its language."""

from __future__ import annotations

import shlex
from typing import ClassVar

from textual import on
from textual.app import ComposeResult
from textual.binding import BindingType
from textual.containers import Horizontal, Vertical
from textual.widgets import Button, Input, Label

from oddsum.languages.tools import Commands, tool_of
from oddsum.model.errors import PlanError
from oddsum.plan.commands import typed_commands
from oddsum.tui.actions import bindings_for
from oddsum.tui.dialogs.dialog import Dialog
from oddsum.tui.dialogs.keys_heading import KeysHeading


class HowRun(Dialog[Commands | None]):
    """Closes with the commands, or None. They are offered, and can be typed over."""

    BINDINGS: ClassVar[list[BindingType]] = [*bindings_for("how_run")]

    def __init__(self, program: str, offered: Commands) -> None:
        super().__init__(classes="page")
        self._program, self._offered = program, offered

    def compose(self) -> ComposeResult:
        """Two commands, and what is wrong with them."""
        tool = tool_of(self._program)
        name = tool.name if tool is not None else "its language"
        with Vertical(id="card"):
            yield KeysHeading("HOW IT IS RUN", "how_run")
            yield Label(f"{self._program} is in {name}. These commands fit it; they will stand at "
                        "the top of its plan. Are yours others? Type over them.",
                        classes="hint")  # fmt: skip
            yield Label("What builds it, after each change", classes="label")
            yield Input(shlex.join(self._offered.build), placeholder="nothing to build", id="build")
            yield Label("What runs it, once for each case", classes="label")
            yield Input(shlex.join(self._offered.run), id="run")
            yield Label(self._missing(self._offered), classes="fault", id="error")
            with Horizontal():
                yield Button("Keep it", id="keep", variant="primary")
                yield Button("Leave", id="leave")

    def _missing(self, commands: Commands) -> str:
        tool = commands.missing
        return f"There is no {tool} on this machine. Install it, or name another." if tool else ""

    @on(Input.Changed)
    def look_again(self) -> None:
        """Say what is wrong with the commands as they are now."""
        try:
            said = self._missing(self._typed())
        except PlanError as fault:
            said = fault.text
        self.query_one("#error", Label).update(said)

    def _typed(self) -> Commands:
        build, run = (self.query_one(f"#{one}", Input).value for one in ("build", "run"))
        return typed_commands(build, run)

    @on(Button.Pressed, "#leave")
    def leave(self) -> None:
        """Close; nothing is changed."""
        self.close()

    @on(Input.Submitted)
    @on(Button.Pressed, "#keep")
    def action_keep_typed(self) -> None:
        """Close with the commands; where one is no command, that is said already."""
        try:
            commands = self._typed()
        except PlanError:
            return
        self.close(commands)
