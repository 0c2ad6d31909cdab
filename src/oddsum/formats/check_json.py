"""``oddsum check --format json``."""

from __future__ import annotations

from typing import Any

from oddsum.formats.json_text import dump
from oddsum.model.case import Plan
from oddsum.model.outcome import CaseResult, tally


def write(plan: Plan, results: tuple[CaseResult, ...], seconds: float) -> str:
    """The contract's object for a check."""
    return dump(
        {
            "program": plan.program.name,
            "plan": plan.file.name if plan.file else None,
            "counts": {o.value: n for o, n in tally(results).items()},
            "seconds": round(seconds, 3),
            "cases": [case_fields(r) for r in results],
        }
    )


def case_fields(result: CaseResult) -> dict[str, Any]:
    """One case of the object."""
    difference, error = result.difference, result.run.error
    return {
        "number": result.number,
        "name": result.name,
        "kind": result.kind,
        "outcome": result.outcome.value,
        "checked": list(result.checked),
        "expected": result.expected,
        "actual": result.actual,
        "difference": difference
        and {
            "summary": difference.summary,
            "line": difference.line,
            "column": difference.column,
        },
        "error": error
        and {
            "type": error.type,
            "message": error.message,
            "file": error.file,
            "line": error.line,
        },
        "seconds": round(result.run.seconds, 3),
    }
