"""What a program gave before it was mended: its wrong results, and the trace that led there.

A report that is written once every case agrees would else show nothing of what was wrong. The
record has the program as it was; it is run once more.
"""

from __future__ import annotations

import threading
from dataclasses import dataclass

from oddsum.check.plan import check_all
from oddsum.check.traced import trace_case
from oddsum.languages import cannot
from oddsum.languages.language import Interpreter
from oddsum.mend.words import edit_words
from oddsum.model.case import LEVELS, Case, Plan
from oddsum.model.history import Version
from oddsum.model.outcome import CaseResult, shortest_odd
from oddsum.model.trace import Trace
from oddsum.record.history import History
from oddsum.record.revealed import recall
from oddsum.record.versions import version_of
from oddsum.run.scratch import bundle
from oddsum.source.edits import edits_of
from oddsum.source.program import Source

_SAID = {1: "what is wrong there was uncovered", 2: "how to mend it was uncovered"}


@dataclass(frozen=True)
class Before:
    """``run``: which of the recorded runs it was, from 1. ``changed``: what was changed since, a
    line each; ``uncovered``: how far leads were, a sentence each."""

    run: int
    odd: tuple[CaseResult, ...]
    traced: tuple[Case, Trace] | None
    changed: tuple[str, ...]
    uncovered: tuple[str, ...]


def before_mending(
    plan: Plan, interpreter: Interpreter, history: History, stop: threading.Event | None = None
) -> Before | None:
    """The last recorded run of another text of the program in which a case was odd.

    None where there is none. Raises StoreError, Cancelled, StartError.
    """
    runs, now = history.runs(60), version_of(plan.program)
    for at in reversed(range(len(runs))):
        if not any(o.odd for o in runs[at].outcomes.values()):
            continue
        then = history.version(runs[at].version)
        if then is None or then.files == now.files:
            continue
        files = bundle(plan).edited({n: t.encode("utf-8") for n, t in then.files.items()})
        results = check_all(plan, interpreter, stop=stop, files=files)
        odd = tuple(r for r in results if r.outcome.odd)
        shortest = shortest_odd(plan.active(), odd)
        case = next((c for c in plan.active() if shortest and c.number == shortest.number), None)
        traced = None
        if case is not None and not cannot(plan, "trace"):
            traced = case, trace_case(plan, case, interpreter, files=files, stop=stop)[0]
        number = history.count() - len(runs) + at + 1
        return Before(number, odd, traced, _changed(then, now), _uncovered(plan, history, then))
    return None


def _changed(then: Version, now: Version) -> tuple[str, ...]:
    told = []
    for name, text in now.files.items():
        old = then.files.get(name, "")
        told += [f"{name}, {edit_words(e)}" for e in edits_of(Source(name, old), text)]
    return tuple(told)


def _uncovered(plan: Plan, history: History, then: Version) -> tuple[str, ...]:
    """How far the learner went, as the record has it of that text of the program."""
    most = LEVELS.index(plan.reveal or "how")
    told = []
    for (file, lines), level in recall(history, then).items():
        if min(level, most) in _SAID:
            where = f"line {lines[0]}" if len(lines) == 1 else f"lines {lines[0]} to {lines[-1]}"
            told.append(f"{file}, {where}: {_SAID[min(level, most)]}.")
    return tuple(told) or ("No lead was uncovered beyond its place.",)
