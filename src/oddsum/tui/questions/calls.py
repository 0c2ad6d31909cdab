"""Every call with what went in and what came out."""

from __future__ import annotations

from oddsum.trace.calls import calls
from oddsum.trace.words import counted
from oddsum.tui import lists
from oddsum.tui.questions.asker import Asker
from oddsum.workspace.tracing import Traced


def every_call(asker: Asker, traced: Traced) -> None:
    """The calls in order, beginning at the one in hand."""
    found = calls(traced.story)
    steps = [c.enters for c in found]
    start = max((n for n, s in enumerate(steps) if s <= traced.step), default=0)
    title = f"THE CALLS · {counted(len(found), 'call')}"
    asker.walk_through(title, lists.CALLS, lists.call_rows(found), steps, start=start)
