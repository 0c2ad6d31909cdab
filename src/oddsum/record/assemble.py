"""Does all that a report needs: checks, follows cases, looks for leads, reads the record."""

from __future__ import annotations

import threading
from collections.abc import Sequence
from pathlib import Path

from oddsum.check.plan import check_all
from oddsum.check.traced import trace_case
from oddsum.languages import cannot, runs_on
from oddsum.languages.language import Interpreter
from oddsum.model.case import LEVELS, Case, Plan
from oddsum.model.errors import OddSumError, RunError, StartError
from oddsum.model.history import Entry, PastRun
from oddsum.model.lead import Lead
from oddsum.model.outcome import CaseResult, shortest_odd
from oddsum.model.trace import Trace
from oddsum.pinpoint.search import pinpoint
from oddsum.record.before import before_mending
from oddsum.record.history import History
from oddsum.record.report import Report, report
from oddsum.record.revealed import Levels, recall
from oddsum.record.store import StoreError
from oddsum.record.versions import version_of

FORMATS = {".html": "html", ".htm": "html", ".md": "md", ".markdown": "md"}


class ReportError(OddSumError):
    """A report that cannot be written as it was asked for."""


def format_of(path: Path) -> str:
    """``html`` or ``md``, by the file's ending; raises ReportError."""
    how = FORMATS.get(path.suffix.lower())
    if how is None:
        raise ReportError(
            f"A report cannot be written as {path.suffix or 'a file without an ending'}.",
            hint="Name the file .html or .md.",
        )
    return how


def assemble(
    plan: Plan,
    interpreter: Interpreter,
    history: History | None,
    *,
    chosen: Sequence[Case] = (),
    results: Sequence[CaseResult] | None = None,
    leads: Sequence[tuple[Lead, int]] | None = None,
    level: int | None = -1,
    stop: threading.Event | None = None,
) -> tuple[Report, tuple[str, ...]]:
    """The report of a program as it is now, and remarks on what could not be had.

    ``chosen`` are the cases whose trace tables are in it; without any, the shortest odd one. Leads
    are those given, each with how far it is uncovered; else they are looked for where ``level`` is
    0 (where), 1 (what) or 2 (how), or None: as far as the learner has uncovered each, where at
    least. Never further than the plan's author wishes. Raises Cancelled, StartError.
    """
    found = tuple(results) if results is not None else check_all(plan, interpreter, stop=stop)
    remarks: list[str] = []
    traces = [] if cannot(plan, "trace") else [
        (case, _trace(plan, case, interpreter, stop)) for case in chosen or _shortest(plan, found)
    ]  # fmt: skip
    if leads is None:
        before: Levels = _uncovered(plan, history, remarks) if level is None else {}
        leads = [
            (lead, max(at, min(before.get((lead.file, lead.lines), 0), _most(plan))))
            for lead, at in _leads(plan, interpreter, found, level or 0, stop)
        ]
    runs, count, entries = _recorded(history, remarks)
    mended = None
    if history is not None and found and not any(r.outcome.odd for r in found):
        try:
            mended = before_mending(plan, interpreter, history, stop)
        except (StoreError, StartError, RunError) as error:
            remarks.append(str(error))
    made = report(
        plan, version_of(plan.program), found, traces, leads=leads, entries=entries, runs=runs,
        count=count, interpreter=runs_on(plan, interpreter), before=mended,
    )  # fmt: skip
    return made, tuple(remarks)


def _shortest(plan: Plan, results: Sequence[CaseResult]) -> list[Case]:
    one = shortest_odd(plan.active(), results)
    return [c for c in plan.active() if one is not None and c.number == one.number]


def _trace(plan: Plan, case: Case, interpreter: Interpreter, stop: threading.Event | None) -> Trace:
    return trace_case(plan, case, interpreter, stop=stop)[0]


def _leads(
    plan: Plan,
    interpreter: Interpreter,
    results: Sequence[CaseResult],
    level: int,
    stop: threading.Event | None,
) -> list[tuple[Lead, int]]:
    if level < 0 or cannot(plan, "pinpoint") or not any(r.outcome.odd for r in results):
        return []
    if plan.guess_first and level == 0:
        return []  # a lead comes after the learner's own guess, and that is made in Pinpoint
    leads = pinpoint(plan, interpreter, results, stop=stop).leads
    return [(lead, min(level, _most(plan))) for lead in leads]


def _most(plan: Plan) -> int:
    return LEVELS.index(plan.reveal or "how")


def _uncovered(plan: Plan, history: History | None, remarks: list[str]) -> Levels:
    """How far the learner has uncovered the leads of the program as it is."""
    try:
        return recall(history, version_of(plan.program)) if history is not None else {}
    except StoreError as error:
        remarks.append(str(error))
        return {}


def _recorded(
    history: History | None, remarks: list[str]
) -> tuple[tuple[PastRun, ...], int, tuple[Entry, ...]]:
    """What the record has; a record that cannot be had is no reason not to report."""
    if history is None:
        return (), 0, ()
    try:
        return history.runs(60), history.count(), history.entries()
    except StoreError as error:
        remarks.append(str(error))
        return (), 0, ()
