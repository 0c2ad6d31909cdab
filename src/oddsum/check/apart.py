"""Takes one line of a case apart: the case is run and recorded once more for it."""

from __future__ import annotations

import threading

from oddsum.check.traced import Cancelled
from oddsum.languages.language import Interpreter
from oddsum.model.case import Case, Plan
from oddsum.run.begin import fresh
from oddsum.run.case import cancelled, run_case
from oddsum.run.scratch import Scratch, bundle
from oddsum.run.terms import terms_of
from oddsum.source.program import Source
from oddsum.trace.parts import Apart, take_apart


def line_apart(
    plan: Plan,
    case: Case,
    interpreter: Interpreter,
    source: Source,
    line: int,
    visit: int,
    stop: threading.Event | None = None,
) -> Apart:
    """The parts of a line at one visit of its statement. Raises Cancelled, StartError."""
    start = fresh(interpreter)
    with Scratch(bundle(plan), terms=terms_of(plan)) as scratch:
        plain = run_case(plan, case, scratch, start, stop)
        if cancelled(plain):
            raise Cancelled("It was stopped.")
        return take_apart(plan, case, scratch, start, plain, source, line, visit, stop)
