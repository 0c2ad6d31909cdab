"""Every value now, whole; and which names hold one and the same list."""

from __future__ import annotations

from oddsum.tui.dialogs.ledger import LedgerPage
from oddsum.tui.dialogs.page import TextPage
from oddsum.tui.questions.asker import Asker
from oddsum.tui.widgets.values_now import values_now
from oddsum.workspace.tracing import Traced


def ledger(asker: Asker, traced: Traced) -> None:
    """Names and lists at this step: each list an entry with a number, names carry it."""
    page = LedgerPage(traced)
    asker.show(page)
    if page.wants_more and not traced.stale:
        asker.workspace.lookups.look_inside(traced, page.take)


def values_whole(asker: Asker, traced: Traced) -> None:
    """Every value of this step, uncut."""
    title = f"VALUES AFTER STEP {traced.step}"
    asker.show(TextPage(title, lambda width: values_now(traced, width, 0), wide=True))
