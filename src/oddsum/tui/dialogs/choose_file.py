"""Asks which of some files to use: of a program's plans, or of its own modules."""

from __future__ import annotations

from pathlib import Path
from typing import ClassVar

from textual import on
from textual.app import ComposeResult
from textual.binding import BindingType
from textual.containers import Vertical

from oddsum.tui.actions import bindings_for
from oddsum.tui.dialogs.dialog import Dialog
from oddsum.tui.dialogs.keys_heading import KeysHeading
from oddsum.tui.widgets.ruled_table import HEAD, Column, RuledTable
from oddsum.tui.writing import cell


class ChooseFile(Dialog[Path | None]):
    """Closes with a file, or None. ``what`` names them: ``plan``."""

    BINDINGS: ClassVar[list[BindingType]] = [*bindings_for("choose_file")]

    def __init__(self, what: str, files: tuple[Path, ...], now: Path) -> None:
        super().__init__(classes="page")
        self.what, self.files, self.now = what, files, now

    def compose(self) -> ComposeResult:
        """A row a file."""
        with Vertical(id="card"):
            yield KeysHeading(f"WHICH {self.what.upper()}?", "choose_file")
            yield RuledTable(id="files")

    def on_mount(self) -> None:
        """Begin on the one in use."""
        table = self.query_one(RuledTable)
        rows = [
            [cell(p.name, "strong"), cell("in use" if p == self.now else "", "quiet")]
            for p in self.files
        ]
        table.styles.height = len(rows) + HEAD
        at = self.files.index(self.now) if self.now in self.files else 0
        table.show([Column(self.what, 48, ruled=False), Column("", 8)], rows, at)
        table.focus()

    @on(RuledTable.Opened)
    def chosen(self, message: RuledTable.Opened) -> None:
        """A file was taken."""
        self.close(self.files[message.row])
