"""What no case tries, a row each, with the ready-made inputs to choose from."""

from __future__ import annotations

from typing import ClassVar

from textual import on
from textual.app import ComposeResult
from textual.binding import BindingType
from textual.containers import Vertical

from oddsum.advise.advice import Advice, Proposal
from oddsum.formats.advice_text import asked_of
from oddsum.model.case import Case
from oddsum.tui.actions import bindings_for
from oddsum.tui.dialogs.dialog import Dialog
from oddsum.tui.dialogs.keys_heading import KeysHeading
from oddsum.tui.dialogs.page import fit_rows
from oddsum.tui.widgets.prose import Prose, wrapped
from oddsum.tui.widgets.ruled_table import HEAD, Column, RuledTable
from oddsum.tui.writing import Cell, Piece, cell, clean, width_of
from oddsum.workspace.advising import Advising
from oddsum.workspace.interface import Part

_TRIED = "an input that tries it"


class AdvicePage(Dialog[tuple[Case, ...] | None]):
    """Closes with the cases to add, or None; follows the advice as it comes."""

    BINDINGS: ClassVar[list[BindingType]] = [*bindings_for("advice")]

    def __init__(self, advising: Advising) -> None:
        super().__init__(classes="page")
        self._advising = advising
        self.chosen: set[int] = set()

    def compose(self) -> ComposeResult:
        """The rows, the one in hand in full, the keys."""
        with Vertical(id="card", classes="-wide"):
            yield KeysHeading("WHAT NO CASE TRIES YET", "advice")
            yield RuledTable(id="gaps")
            yield Prose(self._in_hand, id="in-hand")

    def on_mount(self) -> None:
        """Arrows move through the rows."""
        self.query_one(RuledTable).focus()

    def refresh_from(self, parts: frozenset[Part]) -> None:
        """The advice has come, or cannot be had."""
        if self._advising.failed:
            self.close()
        elif Part.CASES in parts:
            self.show()

    @property
    def advice(self) -> Advice | None:
        """What no case tries; None while it is looked for."""
        return self._advising.advice

    @property
    def _proposals(self) -> tuple[Proposal, ...]:
        return self.advice.proposals if self.advice is not None else ()

    def show(self) -> None:
        """Bring rows and words up to date."""
        table = self.query_one(RuledTable)
        width = max(40, table.size.width)
        rows = [self._row(n, p) for n, p in enumerate(self._proposals)]
        # Inputs have the room they need, a third at most; what is missing has the rest.
        needed = max((width_of(row[2]) for row in rows), default=0)
        tried = max(16, min(width * 34 // 100, max(needed, len(_TRIED)) + 1))
        columns = [
            Column("", 3, ruled=False),
            Column("what is missing", width - tried - 12, ruled=False),
            Column(_TRIED, tried),
        ]
        fit_rows(self, table, max(len(rows), 6) + HEAD)
        table.show(columns, rows, max(0, table.cursor))
        self.query_one("#in-hand", Prose).write(self._in_hand)

    def _row(self, number: int, proposal: Proposal) -> list[Cell]:
        case = proposal.case
        mark = "+" if number in self.chosen else ""
        asked = cell(clean(asked_of(case)[0]), "ink") if case else cell("none found", "quiet")
        bold = number in self.chosen
        return [cell(f" {mark}", "blue", True), cell(proposal.gap.text, "strong", bold), asked]

    def _in_hand(self, width: int) -> list[list[Piece]]:
        rule = [Piece("═" * width, "rule")]
        if self.advice is None:
            text = "The cases are recorded and inputs are tried: this takes a few seconds."
            return [rule, *wrapped(text, width, "quiet")]
        if not self._proposals:
            text = (
                "Nothing is missing that could be found: both sides of every limit, every branch, "
                "and every loop with no round and with one are tried."
            )
            return [rule, *wrapped(text, width)]
        proposal = self._proposals[max(0, self.query_one(RuledTable).cursor)]
        lines = [rule, *wrapped(_sentence(proposal), width)]
        hint = "What each should give is yours to work out: it is left open."
        if self.advice.looked_at < self.advice.of:
            hint += f" Looked at: the first {self.advice.looked_at} of {self.advice.of} cases."
        return [*lines, [], *wrapped(hint, width, "quiet")]

    @on(RuledTable.Moved)
    def moved(self) -> None:
        """Another row is in hand."""
        self.query_one("#in-hand", Prose).write(self._in_hand)

    @on(RuledTable.Opened)
    def action_choose(self) -> None:
        """Choose the row in hand, or no longer."""
        at = self.query_one(RuledTable).cursor
        if 0 <= at < len(self._proposals) and self._proposals[at].case is not None:
            self.chosen ^= {at}
            self.show()

    def action_add(self) -> None:
        """Close with the cases chosen; with the one in hand where none is."""
        at = self.query_one(RuledTable).cursor
        numbers = sorted(self.chosen) or [at]
        cases = [self._proposals[n].case for n in numbers if 0 <= n < len(self._proposals)]
        found = tuple(c for c in cases if c is not None)
        if found:
            self.close(found)
        else:
            self.notify("There is no ready-made input here. Esc, then A writes one by hand.")


def _sentence(proposal: Proposal) -> str:
    text = proposal.gap.text
    return text[:1].upper() + text[1:] + "."
