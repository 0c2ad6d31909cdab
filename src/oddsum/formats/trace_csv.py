"""``oddsum trace --format csv``: the trace table for a spreadsheet."""

from __future__ import annotations

import csv
import io

from oddsum.model.trace import Change, Step, Trace
from oddsum.trace.ask import Story
from oddsum.trace.filter import EVERYTHING, Shown

FIXED = ("step", "file", "line", "function", "depth", "visit", "event", "condition", "output")
CUT = 200  # characters of a cell without --full


def write(trace: Trace, full: bool = False, shown: Shown = EVERYTHING) -> str:
    """The contract's csv: the fixed columns, then one a variable."""
    names = shown.names(Story(trace).columns)
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow([*FIXED, *names])
    for step in filter(shown.keeps, trace.steps):
        changes = {c.name: cell(c, full) for c in step.changes}
        writer.writerow([*fixed_cells(step), *(changes.get(n, "") for n in names)])
    return out.getvalue()


def fixed_cells(step: Step) -> list[str]:
    """The cells before the variables, as text."""
    return [
        str(step.number),
        step.statement.file,
        str(step.line),
        step.function,
        str(step.depth),
        "" if step.visit is None else str(step.visit),
        " ".join(step.events),
        "" if step.condition is None else str(step.condition),
        step.output,
    ]


def cell(change: Change, full: bool) -> str:
    """The new value, ``(gone)`` after a deletion."""
    if change.after is None:
        return "(gone)"
    text = change.after.text
    return text if full or len(text) <= CUT else text[: CUT - 1] + "…"
