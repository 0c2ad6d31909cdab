"""``oddsum plan export --format md``: the plan as a Markdown table, to hand in or to print."""

from __future__ import annotations

from oddsum.formats.markdown import code_cell, plain, table_row
from oddsum.model.case import Case, Plan
from oddsum.model.marks import MARKS
from oddsum.model.outcome import CaseResult, Outcome, tally

_TITLES = ("", "Case", "Kind", "Input", "Expected", "Actual", "Outcome")


def write(plan: Plan, results: tuple[CaseResult, ...]) -> str:
    """A row a case, and the totals under it."""
    by_number = {r.number: r for r in results}
    lines = [
        f"# Test plan of {plan.program.name}",
        "",
        table_row(_TITLES),
        table_row(["---"] * len(_TITLES)),
    ]
    lines += [table_row(_cells(case, by_number.get(case.number))) for case in plan.cases]
    odd = [r for r in results if r.outcome.odd and r.difference]
    if odd:
        lines += ["", "## What is odd", ""]
        lines += [f"- {r.number}, {plain(r.name)}: {plain(r.difference.summary)}." for r in odd
                  if r.difference]  # fmt: skip
    if results:
        counts = [f"{n} {o.value if n == 1 else o.plural}" for o, n in tally(results).items() if n]
        lines += ["", f"{', '.join(counts)}."]
    return "\n".join(lines) + "\n"


def _cells(case: Case, result: CaseResult | None) -> list[str]:
    asked = case.call if case.call is not None else case.stdin or ""
    expected = result.expected if result else case.returns or case.stdout
    actual = result.actual if result else ""
    return [
        str(case.number),
        plain(case.name),
        case.kind,
        code_cell(asked),
        code_cell(expected or ""),
        code_cell(actual),
        _outcome(result),
    ]


def _outcome(result: CaseResult | None) -> str:
    if result is None:
        return "not run"
    mark = MARKS[result.outcome.value].glyph
    word = "expected is left open" if result.outcome is Outcome.OPEN else result.outcome.value
    return f"{mark} {word}"
