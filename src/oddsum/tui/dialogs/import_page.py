"""Takes cases in: the examples in the program's text, a sheet, or pairs of text files.

What would be added is shown first, and what the plan has already is not added again.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import ClassVar

from textual import on
from textual.app import ComposeResult
from textual.binding import BindingType
from textual.containers import Vertical
from textual.widgets import Input, Label

from oddsum.model.case import Case
from oddsum.model.errors import OddSumError
from oddsum.plan.taking_in import Taking
from oddsum.tui.actions import bindings_for
from oddsum.tui.dialogs.dialog import Dialog
from oddsum.tui.dialogs.keys_heading import KeysHeading
from oddsum.tui.dialogs.pick import fitting_columns
from oddsum.tui.widgets.ruled_table import HEAD, Column, RuledTable
from oddsum.tui.writing import Cell, cell, clean

_COLUMNS = (
    Column("", 9, ruled=False), Column("name", 26), Column("typed in, or called", 40),
    Column("what should come out", 40),
)  # fmt: skip
_MOST_ROWS = 14


class ImportPage(Dialog[tuple[Case, ...] | None]):
    """Closes with the cases to add, or None. ``look`` reads what a text names."""

    BINDINGS: ClassVar[list[BindingType]] = [*bindings_for("import")]

    def __init__(self, look: Callable[[str], Taking]) -> None:
        super().__init__(classes="page")
        self._look = look
        self.found: Taking | None = None

    def compose(self) -> ComposeResult:
        """Where from, what was found, and what it comes to."""
        with Vertical(id="card", classes="-wide"):
            yield KeysHeading("TAKE CASES IN", "import")
            yield Label("From where? A sheet (cases.csv), or two patterns for files that belong "
                        "together", classes="label")  # fmt: skip
            yield Input(placeholder="cases.csv   or   in*.txt out*.txt   or empty: the examples "
                        "in the program's own text")  # fmt: skip
            yield RuledTable(id="rows")
            yield Label("", classes="hint", id="told")
            yield Label("", classes="fault", id="error")

    def on_mount(self) -> None:
        """What the program's own text has."""
        self.query_one(RuledTable).can_focus = False
        self._read("")
        self.query_one(Input).focus()

    @on(Input.Submitted)
    def read(self, event: Input.Submitted) -> None:
        """Enter looks at what is named."""
        self._read(event.value)

    def _read(self, text: str) -> None:
        error, told = self.query_one("#error", Label), self.query_one("#told", Label)
        try:
            self.found = self._look(text.strip())
        except OddSumError as fault:
            self.found = None
            error.update(str(fault))
            told.update("")
        else:
            error.update("\n".join(self.found.left_out))
            told.update(f"{self.found.words} Ctrl+S adds them." if self.found.new else
                        self.found.words + " Name a file, and press Enter.")  # fmt: skip
        rows = self._rows()
        table = self.query_one(RuledTable)
        table.styles.height = min(max(len(rows), 1), _MOST_ROWS) + HEAD
        table.show(fitting_columns(_COLUMNS, min(126, self.app.size.width - 6)), rows, -1)

    def _rows(self) -> list[list[Cell]]:
        if self.found is None:
            return []
        told = [("new", "strong", c) for c in self.found.new]
        told += [("in plan", "quiet", c) for c in self.found.known]
        return [
            [cell(word, ink), cell(clean(case.name), ink), cell(_in(case), ink),
             cell(_out(case), ink)]
            for word, ink, case in told
        ]  # fmt: skip

    def action_keep_typed(self) -> None:
        """Add what is new."""
        if self.found is not None and self.found.new:
            self.close(self.found.new)


def _in(case: Case) -> str:
    return clean(case.call or (case.stdin or "").rstrip("\n") or "nothing")


def _out(case: Case) -> str:
    wanted = case.returns if case.returns is not None else case.stdout
    wanted = wanted if wanted is not None else case.raises
    return clean((wanted or "nothing said yet").rstrip("\n"))
