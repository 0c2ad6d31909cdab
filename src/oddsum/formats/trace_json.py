"""``oddsum trace --format json``."""

from __future__ import annotations

from typing import Any

from oddsum.formats.json_text import dump
from oddsum.formats.trace_csv import CUT
from oddsum.model.trace import Step, Trace, Value
from oddsum.trace.ask import Story
from oddsum.trace.filter import EVERYTHING, Shown


def write(trace: Trace, full: bool = False, shown: Shown = EVERYTHING) -> str:
    """The contract's object for a trace."""
    names = frozenset(shown.names(Story(trace).columns))
    return dump(
        {
            "program": trace.program,
            "case": trace.number if trace.number is not None else trace.case,
            "outcome": trace.outcome,
            "complete": trace.complete,
            "steps": [_step(s, full, names) for s in filter(shown.keeps, trace.steps)],
        }
    )


def _step(step: Step, full: bool, names: frozenset[str]) -> dict[str, Any]:
    return {
        "step": step.number,
        "file": step.statement.file,
        "line": step.line,
        "function": step.function,
        "depth": step.depth,
        "visit": step.visit,
        "event": " ".join(step.events),
        "condition": step.condition,
        "output": step.output,
        "changes": [
            {"name": c.name, "before": _text(c.before, full), "after": _text(c.after, full)}
            for c in step.changes
            if c.name in names
        ],
        "value": _text(step.value, full),
    }


def _text(value: Value | None, full: bool) -> str | None:
    if value is None:
        return None
    return value.text if full or len(value.text) <= CUT else value.text[: CUT - 1] + "…"
