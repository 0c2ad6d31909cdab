"""Records a case of a plan, and says how it came out."""

from __future__ import annotations

import threading
from collections.abc import Callable

import msgspec

from oddsum.compare.judge import judge
from oddsum.languages import language_for
from oddsum.languages.language import Interpreter
from oddsum.model.case import Case, Plan
from oddsum.model.errors import RunError
from oddsum.model.outcome import CaseResult, Run
from oddsum.model.trace import Trace
from oddsum.run.begin import Begins, fresh
from oddsum.run.case import cancelled, run_case
from oddsum.run.scratch import Bundle, Scratch, bundle
from oddsum.run.terms import terms_of
from oddsum.trace.record import Wanted, recording


class Cancelled(RunError):
    """The user stopped the work."""


def trace_case(
    plan: Plan,
    case: Case,
    interpreter: Interpreter,
    *,
    plain: Run | None = None,
    files: Bundle | None = None,
    stop: threading.Event | None = None,
    on_steps: Callable[[int], None] | None = None,
    most_steps: int | None = None,
    begin: Begins | None = None,
    watches: tuple[str, ...] = (),
    brief: bool = False,
) -> tuple[Trace, CaseResult]:
    """Run a case plainly, then recorded; returns its trace and its result.

    ``plain`` is the plain run where there is one already, ``files`` the program's files,
    ``most_steps`` how many are wanted at most; ``begin`` begins the processes, a fresh interpreter
    each where nothing is said. ``watches`` are expressions that become columns; ``brief``: the
    recording is one of many that nobody looks at. Raises Cancelled once ``stop`` is set,
    StartError when the program cannot start, QuestionError for a watch that could change it.
    """
    for text in watches:
        language_for(plan).asking.question(text)
    start, room = (fresh(interpreter), None) if begin is None else (begin.start, begin.room)
    with Scratch(files or bundle(plan), room, terms_of(plan)) as scratch:
        plain = plain or run_case(plan, case, scratch, start, stop)
        if cancelled(plain):
            raise Cancelled("The recording was stopped.")
        wanted = Wanted(watches, brief=brief)
        trace, run, *_ = recording(
            plan, case, scratch, start, plain, wanted, stop, on_steps, most_steps
        )
        if cancelled(run):
            raise Cancelled("The recording was stopped.")
    result = judge(case, plan.settings_of(case), plain)
    return msgspec.structs.replace(trace, outcome=result.outcome.value), result
