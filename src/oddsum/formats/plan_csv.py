"""``oddsum plan export --format csv``: the plan as a sheet, with what came out."""

from __future__ import annotations

import csv
import io

from oddsum.model.case import Case, Plan
from oddsum.model.outcome import CaseResult
from oddsum.plan.sheet import COLUMNS

_TITLES = ("name", "kind", "input", "call", "expected", "returns", "note")
_MORE = ("raises", "before", "check", "exit")  # a column where some case has it
_FOUND = ("actual", "outcome", "difference")
assert {*_TITLES, *_MORE} == set(COLUMNS)


def write(plan: Plan, results: tuple[CaseResult, ...]) -> str:
    """A row a case, which the import reads back; what was not run has no actual."""
    out = io.StringIO(newline="")
    rows = csv.writer(out, lineterminator="\r\n")
    more = [key for key in _MORE if any(getattr(c, key) is not None for c in plan.cases)]
    rows.writerow(["number", *_TITLES, *more, *_FOUND])
    by_number = {r.number: r for r in results}
    for case in plan.cases:
        told = [getattr(case, key) for key in more]
        cells = ["" if value is None else value for value in told]
        rows.writerow([case.number, *_asked(case), *cells, *_came_out(by_number.get(case.number))])
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
