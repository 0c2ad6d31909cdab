"""``oddsum plan export --format csv``: the plan as a sheet, with what came out."""

from __future__ import annotations

import csv
import io

from oddsum.model.case import Case, Plan
from oddsum.model.outcome import CaseResult
from oddsum.plan.sheet import COLUMNS

_TITLES = ("name", "kind", "input", "call", "expected", "returns", "note")
_FOUND = ("actual", "outcome", "difference")
assert set(_TITLES) == set(COLUMNS)


def write(plan: Plan, results: tuple[CaseResult, ...]) -> str:
    """A row a case, which the import reads back; what was not run has no actual."""
    out = io.StringIO(newline="")
    rows = csv.writer(out, lineterminator="\r\n")
    rows.writerow(["number", *_TITLES, *_FOUND])
    by_number = {r.number: r for r in results}
    for case in plan.cases:
        rows.writerow([case.number, *_asked(case), *_came_out(by_number.get(case.number))])
    return out.getvalue()


def _asked(case: Case) -> list[str]:
    return [
        case.name,
        case.kind,
        case.stdin or "",
        case.call or "",
        case.stdout or "",
        case.returns or "",
        case.note,
    ]


def _came_out(result: CaseResult | None) -> list[str]:
    if result is None:
        return ["", "not run", ""]
    summary = result.difference.summary if result.difference else ""
    return [result.actual, result.outcome.value, summary]
