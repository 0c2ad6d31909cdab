"""Expected and actual of a case, whole, in front of a station."""

from __future__ import annotations

from typing import ClassVar

from textual.app import ComposeResult
from textual.binding import BindingType
from textual.containers import Vertical

from oddsum.model.outcome import CaseResult, Outcome
from oddsum.tui.actions import DIALOGS, bindings_for
from oddsum.tui.dialogs.dialog import Dialog
from oddsum.tui.dialogs.keys_heading import KeysHeading
from oddsum.tui.dialogs.page import fit_rows
from oddsum.tui.glyphs import own
from oddsum.tui.widgets.paired_text import HEAD, PairedText
from oddsum.tui.widgets.prose import Prose, wrapped
from oddsum.tui.writing import Piece


class TextsPage(Dialog[None]):
    """Both texts scrolling together; Enter, D or Esc puts it away."""

    BINDINGS: ClassVar[list[BindingType]] = [*bindings_for("texts")]

    def __init__(self, result: CaseResult) -> None:
        super().__init__(classes="page")
        self.result = result

    def compose(self) -> ComposeResult:
        """The texts, then the difference in words and the keys."""
        result = self.result
        with Vertical(id="card", classes="-wide"):
            yield KeysHeading(f"CASE {result.number}, SIDE BY SIDE", "texts")
            yield PairedText(result.expected, result.actual, result.outcome is Outcome.DIFFERS)
            yield Prose(self._words)

    def _words(self, width: int) -> list[list[Piece]]:
        difference = self.result.difference
        summary = (difference.summary + ".") if difference else ""
        moving = (a for a in DIALOGS["texts"] if not a.action)
        keys = own("   ".join(f"{a.label} {a.words}" for a in moving))
        words = wrapped(summary[:1].upper() + summary[1:], width) if summary else []
        return [[Piece("═" * width, "rule")], *words, [Piece(keys, "quiet")]]

    def on_mount(self) -> None:
        """The keys go to the texts, which are as high as they need or as there is room."""
        texts = self.query_one(PairedText)
        fit_rows(self, texts, len(texts.pairs) + HEAD)
        texts.focus()
