"""Asks which of a program's plans to use."""

from __future__ import annotations

from pathlib import Path
from typing import ClassVar

from textual import on
from textual.app import ComposeResult
from textual.binding import Binding, BindingType
from textual.containers import Vertical
from textual.screen import ModalScreen

from oddsum.tui.widgets.heading import Heading
from oddsum.tui.widgets.ruled_table import HEAD, Column, RuledTable
from oddsum.tui.writing import cell


class ChoosePlan(ModalScreen[Path | None]):
    """Closes with a plan, or None."""

    BINDINGS: ClassVar[list[BindingType]] = [Binding("escape", "leave", "Leave", show=False)]

    def __init__(self, plans: tuple[Path, ...], now: Path) -> None:
        super().__init__(classes="page")
        self.plans, self.now = plans, now

    def compose(self) -> ComposeResult:
        """A row a plan."""
        with Vertical(id="card"):
            yield Heading("WHICH PLAN?", "Enter takes it · Esc leaves")
            yield RuledTable(id="plans")

    def on_mount(self) -> None:
        """Begin on the one in use."""
        table = self.query_one(RuledTable)
        rows = [
            [cell(p.name, "strong"), cell("in use" if p == self.now else "", "quiet")]
            for p in self.plans
        ]
        table.styles.height = len(rows) + HEAD
        at = self.plans.index(self.now) if self.now in self.plans else 0
        table.show([Column("plan", 48, ruled=False), Column("", 8)], rows, at)
        table.focus()

    @on(RuledTable.Opened)
    def chosen(self, message: RuledTable.Opened) -> None:
        """A plan was taken."""
        self.dismiss(self.plans[message.row])

    def action_leave(self) -> None:
        """Stay with the one in use."""
        self.dismiss(None)
