"""Which objects lie inside of which after a step: the case is run once more, up to there."""

from __future__ import annotations

import threading

from oddsum.check.traced import Cancelled
from oddsum.languages.language import Interpreter
from oddsum.model.case import Case, Plan
from oddsum.model.errors import RunError
from oddsum.model.outcome import Run
from oddsum.run.begin import fresh
from oddsum.run.case import cancelled, run_case
from oddsum.run.scratch import Scratch, bundle
from oddsum.run.terms import terms_of
from oddsum.trace.containment import Containment, web_of
from oddsum.trace.record import Wanted, recording


def containment_at(
    plan: Plan,
    case: Case,
    interpreter: Interpreter,
    step: int,
    plain: Run | None = None,
    stop: threading.Event | None = None,
) -> Containment:
    """The containment of a case after a step. Raises Cancelled, StartError, RunError."""
    start = fresh(interpreter)
    with Scratch(bundle(plan), terms=terms_of(plan)) as scratch:
        plain = plain or run_case(plan, case, scratch, start, stop)
        if cancelled(plain):
            raise Cancelled("It was stopped.")
        told = recording(plan, case, scratch, start, plain, Wanted(containment=step), stop)
        if cancelled(told.run):
            raise Cancelled("It was stopped.")
    if told.containment is None:
        raise RunError(
            "What lies inside of what could not be told: the program, run once more, did not come "
            f"to step {step:,}."
        )
    return web_of(told.containment)
