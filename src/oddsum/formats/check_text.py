"""``oddsum check``: a ledger of the cases that fits 80 columns."""

from __future__ import annotations

import textwrap
from shlex import quote
from typing import TYPE_CHECKING

from rich.cells import cell_len

from oddsum.compare.rules import tidy_lines
from oddsum.compare.told import errors_told, more_told, rounds_told, values_told
from oddsum.formats.ruled import DOUBLE, SINGLE, WIDTH, heading, one_line, row
from oddsum.languages import cannot
from oddsum.model.case import Plan
from oddsum.model.marks import MARKS
from oddsum.model.outcome import CaseResult, Outcome, shortest_odd, tally
from oddsum.trace.words import counted

if TYPE_CHECKING:
    from oddsum.advise.pattern import Pattern  # 45 ms, and only where a case is odd

_COLUMNS = (10, -3, 25, 8, 13, 11)  # outcome, number, name, kind, expected, actual
_SHARING = (4, 5, 2)  # of these: expected, actual, name


def write(
    plan: Plan,
    results: tuple[CaseResult, ...],
    seconds: float,
    pattern: Pattern | None = None,
    since: str = "",
    width: int = WIDTH,
) -> str:
    """The ledger: a row a case, the totals under a double rule, then what is odd, in words.

    ``since`` says what has changed since the run before, where there was one; ``width`` is in
    cells, 80 at least.
    """
    title = plan.program.name.upper()
    cases = counted(len(results), "case")
    columns = _columns(results, width)
    lines = [heading(title, f"{cases} in {seconds:.2f} s", width), _head(columns), SINGLE * width]
    lines += [_row(r, columns) for r in results]
    lines += [DOUBLE * width, "  " + totals(results) + (f"   ({since})" if since else "")]
    odd = [r for r in results if r.outcome.odd]
    shortest = shortest_odd(plan.cases, odd)
    if shortest is not None:
        lines += ["", heading("WHAT IS ODD", width=width)]
        lines += [line for r in odd for line in _odd_words(r)]
        for sentence in pattern.sentences if pattern is not None else ():
            lines += ["", *textwrap.wrap(sentence, WIDTH, initial_indent="  ",
                                         subsequent_indent="  ")]  # fmt: skip
        if not cannot(plan, "trace"):
            lines += ["", f"Next: oddsum trace {quote(str(plan.program))} --case {shortest.number}"]
    return "\n".join(lines) + "\n"


def totals(results: tuple[CaseResult, ...]) -> str:
    """The counts of each outcome that occurs: ``5 agree   2 differ``."""
    counts = tally(results)
    parts = [f"{n} {o.value if n == 1 else o.plural}" for o, n in counts.items() if n]
    return "   ".join(parts) or "no cases"


def brief(result: CaseResult) -> tuple[str, str]:
    """Expected and actual, short: the first lines in which they differ."""
    expected, actual = result.expected or "", result.actual
    if result.outcome is Outcome.ENDLESS:
        actual = "no end" if result.run.ending == "time" else "prints for ever"
    elif result.outcome is Outcome.STOPPED and result.run.error:
        actual = result.run.error.type
    elif result.difference and result.difference.line:
        at = result.difference.line - 1
        expected, actual = _line(expected, at), _line(actual, at)
    elif "stdout" in result.checked and not result.returned_value:
        expected, actual = _line(expected, -1), _line(actual, -1)
    return one_line(expected), one_line(actual)


def _line(text: str, at: int) -> str:
    lines = tidy_lines(text)
    return lines[at] if lines and at < len(lines) else ""


def _columns(results: tuple[CaseResult, ...], width: int) -> tuple[int, ...]:
    """The columns' widths: what there is beyond 80 cells goes to those that need it."""
    texts = [(r.name, *brief(r)) for r in results]
    shared, spare = list(_COLUMNS), width - WIDTH
    for column, at in zip(_SHARING, (1, 2, 0), strict=True):
        longest = max((cell_len(t[at]) for t in texts), default=0)
        more = min(max(0, longest - shared[column]), spare)
        shared[column] += more
        spare -= more
    return tuple(shared)


def _head(columns: tuple[int, ...]) -> str:
    titles = ["  outcome", "", "name", "kind", "expected", "actual"]
    return row(list(zip(titles, columns, strict=True)))


def _row(result: CaseResult, columns: tuple[int, ...]) -> str:
    expected, actual = brief(result)
    mark = f"{MARKS[result.outcome.value].glyph} {result.outcome.value}"
    cells = [mark, str(result.number), result.name, result.kind, expected, actual]
    return row(list(zip(cells, columns, strict=True)))


def _odd_words(result: CaseResult) -> list[str]:
    mark = MARKS[result.outcome.value].glyph
    summary = result.difference.summary if result.difference else ""
    text = f"  {mark} {result.number} {result.name}: {summary}"
    lines = textwrap.wrap(text, WIDTH, subsequent_indent=" " * 6)
    for sentence in more_told(result):
        lines += textwrap.wrap(sentence.replace("`", ""), WIDTH, initial_indent=" " * 6,
                               subsequent_indent=" " * 6)  # fmt: skip
    values = ", ".join(f"{name} {text}" for name, text in values_told(result))
    if values:
        lines += textwrap.wrap(f"At that line: {values}.", WIDTH, initial_indent=" " * 6,
                               subsequent_indent=" " * 6)  # fmt: skip
    status = result.run.exit_status
    if status and not result.run.watched and f"status {status}" not in summary:
        lines.append(f"      It ended with exit status {status}.")
    return lines + [f"      {title if n == 0 else '':<17}{text}"[:WIDTH]
                    for title, texts in (("its last rounds:", rounds_told(result)),
                                         ("its own errors:", errors_told(result)))
                    for n, text in enumerate(texts)]  # fmt: skip
