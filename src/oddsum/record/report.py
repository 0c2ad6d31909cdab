"""All that one file tells of a program: plan, traces, leads as far as uncovered, charts, notebook.

Nothing outside of the program's folder is named in it: files go by their names, and what a run said
of the folder it ran in is told as the program's own.
"""

from __future__ import annotations

import re
import tempfile
import time
from collections.abc import Sequence
from dataclasses import dataclass, replace
from pathlib import Path

import msgspec

from oddsum.compare.pictures import extra_lines, missing_lines
from oddsum.draw.chart import lines, outcomes
from oddsum.draw.figure import Drawing, svg
from oddsum.draw.picture import drawing
from oddsum.model.case import Case, Plan
from oddsum.model.history import Entry, PastRun, Version
from oddsum.model.lead import Lead
from oddsum.model.outcome import CaseResult
from oddsum.model.picture import Picture, Segment
from oddsum.model.trace import Step, Trace
from oddsum.record.before import Before
from oddsum.trace.ask import Story
from oddsum.trace.series import SeriesError, numeric, series
from oddsum.trace.words import condition_words, place_words

MOST_ROWS = 300  # of one trace table; a longer one has its first and its last rows
MOST_PICTURES = 3
_CUT = 80  # characters of a cell


@dataclass(frozen=True)
class Row:
    """A row of a trace table: what ran, its columns' new values, what happened, what it printed.

    ``gap`` counts the steps that are left out ahead of it.
    """

    step: int
    line: int
    cells: tuple[str, ...]
    happened: str
    output: str
    gap: int = 0


@dataclass(frozen=True)
class Table:
    """The trace table of one case, with a chart of the variable that changes most."""

    case: Case
    columns: tuple[str, ...]
    rows: tuple[Row, ...]
    steps: int
    left_out: str
    chart: str = ""  # an SVG element; blank for none


@dataclass(frozen=True)
class Told:
    """A lead with how far it is uncovered: 0 where, 1 what, 2 how."""

    lead: Lead
    level: int


@dataclass(frozen=True)
class Report:
    """What the report's formats write."""

    program: str
    files: dict[str, str]
    plan: Plan
    results: tuple[CaseResult, ...]
    tables: tuple[Table, ...]
    leads: tuple[Told, ...]
    entries: tuple[Entry, ...]
    runs: int
    interpreter: str
    at: str
    pictures: tuple[tuple[Case, str], ...] = ()  # what odd cases drew, beside what they should
    history: str = ""  # the outcomes run by run, as an SVG element; blank where nothing is recorded
    before: Before | None = None  # what was odd before the program was mended
    table_before: Table | None = None  # and the trace that led there


def report(
    plan: Plan,
    version: Version,
    results: Sequence[CaseResult],
    traces: Sequence[tuple[Case, Trace]],
    *,
    leads: Sequence[tuple[Lead, int]] = (),
    entries: Sequence[Entry] = (),
    runs: Sequence[PastRun] = (),
    count: int = 0,
    interpreter: str = "",
    charts: bool = True,
    now: float | None = None,
    before: Before | None = None,
) -> Report:
    """Put together what is told. ``leads`` come with how far each is uncovered, 0 to 2.

    ``runs`` are the last of ``count`` that are recorded. ``now`` in seconds since 1970.
    """
    first = count - len(runs) + 1
    drawn = outcomes("How the cases came out, run by run", runs, first) if len(runs) > 1 else None
    return Report(
        program=plan.program.name,
        files=version.files,
        plan=plan,
        results=tuple(_at_home(r) for r in results),
        tables=tuple(_table(case, trace, charts) for case, trace in traces),
        leads=tuple(Told(lead, level) for lead, level in leads),
        entries=tuple(entries),
        runs=count,
        interpreter=interpreter,
        at=time.strftime("%d %B %Y, %H:%M", time.localtime(now)),
        pictures=_pictures(plan, results) if charts else (),
        history=svg(drawn) if drawn is not None and charts else "",
        before=before and replace(before, odd=tuple(_at_home(r) for r in before.odd)),
        table_before=_table(*before.traced, charts) if before and before.traced else None,
    )


def _table(case: Case, trace: Trace, charts: bool) -> Table:
    story = Story(trace)
    columns = story.columns
    steps = list(range(1, len(story) + 1))
    half = MOST_ROWS // 2
    kept = steps if len(steps) <= MOST_ROWS else [*steps[:half], *steps[-half:]]
    rows, before = [], 0
    for place in kept:
        rows.append(_row(trace.steps[place - 1], columns, place - before - 1))
        before = place
    return Table(case, columns, tuple(rows), len(story), trace.left_out,
                 _chart(story, case) if charts else "")  # fmt: skip


def _pictures(plan: Plan, results: Sequence[CaseResult]) -> tuple[tuple[Case, str], ...]:
    """What the first cases drew that should have drawn something else."""
    found = []
    for case in plan.active():
        result = next((r for r in results if r.number == case.number), None)
        if case.draws is None or result is None or not result.outcome.odd:
            continue
        made = beside(f"Case {case.number}", result.run.drawn or Picture(), case.draws.lines)
        found.append((case, svg(made)))
        if len(found) == MOST_PICTURES:
            break
    return tuple(found)


def beside(title: str, drawn: Picture, expected: Sequence[Segment]) -> Drawing:
    """A drawing beside the lines expected, with what departs set off; alone where there are none.

    Raises ChartError where nothing was drawn or expected.
    """
    if not expected:
        return drawing(title, drawn)
    odd, missing = extra_lines(expected, drawn.lines), missing_lines(expected, drawn.lines)
    return drawing(title, drawn, expected, odd, missing)


def _row(step: Step, columns: Sequence[str], gap: int) -> Row:
    changed = {
        c.name: "(gone)" if c.after is None else _own_folder(c.after.text) for c in step.changes
    }
    happened = ", ".join(t for t in (place_words(step), condition_words(step)) if t)
    return Row(step.number, step.line, tuple(_cut(changed.get(n, "")) for n in columns),
               _own_folder(happened), _own_folder(step.output), gap)  # fmt: skip


def _chart(story: Story, case: Case) -> str:
    """The variable that changes most, over the steps; blank where there is nothing to see."""
    for name in numeric(story)[:1]:
        try:
            drawn = series(story, name)
        except SeriesError:
            return ""
        if len(drawn.values) > 2:
            return svg(lines(f"Case {case.number}: {drawn.name} over the steps", "steps", [drawn]))
    return ""


def _cut(text: str) -> str:
    return text if len(text) <= _CUT else text[: _CUT - 1] + "…"


_SCRATCH = re.compile(re.escape(str(Path(tempfile.gettempdir()).resolve())) + r"/oddsum-\w+/?")


def _own_folder(text: str) -> str:
    """A text without the folder that the case ran in."""
    return _SCRATCH.sub("", text)


def _at_home(result: CaseResult) -> CaseResult:
    """A result without the folder that it ran in."""
    expected, difference, error = result.expected, result.difference, result.run.error
    if difference is not None:
        summary = _own_folder(difference.summary)
        difference = msgspec.structs.replace(difference, summary=summary)
    if error is not None:
        values = tuple((name, _own_folder(text)) for name, text in error.values)
        message = _own_folder(error.message)
        error = msgspec.structs.replace(error, message=message, values=values)
    return msgspec.structs.replace(
        result,
        actual=_own_folder(result.actual),
        expected=expected if expected is None else _own_folder(expected),
        difference=difference,
        run=msgspec.structs.replace(result.run, error=error),
    )
