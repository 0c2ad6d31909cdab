"""``oddsum trace --format json``."""

from __future__ import annotations

from typing import Any

from oddsum.formats.json_text import dump
from oddsum.formats.trace_csv import CUT
from oddsum.model.trace import Step, Trace, Value


def write(trace: Trace, full: bool = False) -> str:
    """The contract's object for a trace."""
    return dump(
        {
            "program": trace.program,
            "case": trace.number if trace.number is not None else trace.case,
            "outcome": trace.outcome,
            "complete": trace.complete,
            "steps": [_step(s, full) for s in trace.steps],
        }
    )


def _step(step: Step, full: bool) -> dict[str, Any]:
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
        ],
        "value": _text(step.value, full),
    }


def _text(value: Value | None, full: bool) -> str | None:
    if value is None:
        return None
    return value.text if full or len(value.text) <= CUT else value.text[: CUT - 1] + "…"
