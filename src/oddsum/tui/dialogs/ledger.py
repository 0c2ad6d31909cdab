"""Names and lists at a step; what lies inside of lists is told once the case ran up to there."""

from __future__ import annotations

from oddsum.trace.aliases import ledger_at, may_share
from oddsum.trace.containment import Containment
from oddsum.tui.dialogs.page import TextPage
from oddsum.tui.widgets.entries import Lines, entries_lines
from oddsum.tui.widgets.prose import Prose
from oddsum.workspace.tracing import Traced

LOOKING = "Looking whether lists inside of others are one and the same: the case runs once more."
NONE = "No list or object inside of another is held by anything else as well."
STALE = (
    "The program was changed since this was recorded: whether lists inside of others are one and "
    "the same is told after the next recording."
)


class LedgerPage(TextPage):
    """Shows what the recording knows at once, and the rest when it is there."""

    def __init__(self, traced: Traced) -> None:
        self.traced, self.step = traced, traced.step
        self._found, self._word = ledger_at(traced.story, self.step), ""
        super().__init__(f"NAMES AND LISTS AFTER STEP {self.step:,}", self._lines, wide=True)
        self.wants_more = may_share(traced.story, self.step)
        if self.wants_more:
            self._word = STALE if traced.stale else LOOKING

    def _lines(self, width: int) -> Lines:
        return entries_lines(self._found, width, self._word)

    def take(self, containment: Containment | None, fault: str) -> None:
        """What lies inside of what is known, or why it is not; the page may not stand yet."""
        self._found = ledger_at(self.traced.story, self.step, containment)
        self._word = fault or ("" if any(e.places for e in self._found.entries) else NONE)
        for prose in self.query(Prose):
            prose.write(self._lines)
