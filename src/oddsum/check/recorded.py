"""Records many cases, each on a core of its own, and keeps of each only what is asked of it."""

from __future__ import annotations

import contextlib
import threading
from collections.abc import Callable, Iterable
from concurrent.futures import ThreadPoolExecutor
from typing import TypeVar

from oddsum.check.traced import trace_case
from oddsum.languages.language import Interpreter
from oddsum.model.case import Case, Plan
from oddsum.model.outcome import CaseResult
from oddsum.model.trace import Trace
from oddsum.run.begin import Begins
from oddsum.run.cores import cores
from oddsum.run.scratch import Bundle, bundle
from oddsum.run.spare import beginning
from oddsum.run.terms import terms_of

Kept = TypeVar("Kept")
MOST_STEPS = 200_000  # of one case among many


def record_each(
    plan: Plan,
    results: Iterable[CaseResult],
    interpreter: Interpreter,
    keep: Callable[[Case, Trace], Kept],
    *,
    files: Bundle | None = None,
    stop: threading.Event | None = None,
    most_steps: int = MOST_STEPS,
) -> dict[int, Kept]:
    """Record the cases of these results; ``keep`` is called with each trace, on several threads.

    Returns what it kept, by case number. A trace is let go once it was looked at: some hundred of
    them at once would not fit into memory. Raises ``Cancelled`` once ``stop`` is set.
    """
    cases = {c.number: c for c in plan.cases}
    gathered = files or bundle(plan)

    own, hosts = threading.local(), contextlib.ExitStack()

    def beginning_here() -> Begins:
        """The host of this thread, made when it is first wanted."""
        if not hasattr(own, "host"):
            own.host = hosts.enter_context(beginning(interpreter, terms_of(plan)))
        return own.host  # type: ignore[no-any-return]

    def one(result: CaseResult) -> tuple[int, Kept]:
        case = cases[result.number]
        trace, _ = trace_case(
            plan, case, interpreter, plain=result.run, files=gathered, stop=stop,
            most_steps=most_steps, begin=beginning_here(), brief=True,
        )  # fmt: skip
        return result.number, keep(case, trace)

    with (
        hosts,
        ThreadPoolExecutor(cores(), thread_name_prefix="record") as pool,
    ):
        return dict(pool.map(one, results))
