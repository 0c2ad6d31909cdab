"""``oddsum plan export --format md``: the plan as a Markdown table, to hand in or to print."""

from __future__ import annotations

from oddsum.model.case import Case, Plan
from oddsum.model.marks import MARKS
from oddsum.model.outcome import CaseResult, Outcome, tally

_TITLES = ("", "Case", "Kind", "Input", "Expected", "Actual", "Outcome")


def write(plan: Plan, results: tuple[CaseResult, ...]) -> str:
    """A row a case, and the totals under it."""
    by_number = {r.number: r for r in results}
    lines = [f"# Test plan of {plan.program.name}", "", _row(_TITLES), _row(["---"] * len(_TITLES))]
    lines += [_row(_cells(case, by_number.get(case.number))) for case in plan.cases]
    odd = [r for r in results if r.outcome.odd and r.difference]
    if odd:
        lines += ["", "## What is odd", ""]
        lines += [f"- {r.number}, {_plain(r.name)}: {_plain(r.difference.summary)}." for r in odd
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
        _plain(case.name),
        case.kind,
        _code(asked),
        _code(expected or ""),
        _code(actual),
        _outcome(result),
    ]


def _outcome(result: CaseResult | None) -> str:
    if result is None:
        return "not run"
    mark = MARKS[result.outcome.value].glyph
    word = "expected is left open" if result.outcome is Outcome.OPEN else result.outcome.value
    return f"{mark} {word}"


def _row(cells: list[str] | tuple[str, ...]) -> str:
    return "| " + " | ".join(cells) + " |"


def _plain(text: str) -> str:
    """Text that Markdown takes as it is, within a cell."""
    for mark in "\\`*_<>|#[]":
        text = text.replace(mark, "\\" + mark)
    return text.replace("\n", " ")


def _code(text: str) -> str:
    """Text as code within a cell; its lines one under the other."""
    lines = text.rstrip("\n").split("\n") if text.strip() else []
    return "<br>".join(_quoted(line) for line in lines)


def _quoted(line: str) -> str:
    escaped = line.replace("|", "\\|")
    if not line.strip():
        return ""
    fence = "``" if "`" in line else "`"
    pad = " " if "`" in line else ""
    return f"{fence}{pad}{escaped}{pad}{fence}"
