"""Checks a plan against several versions of a program, each case in a process of its own."""

from __future__ import annotations

import contextlib
import os
import threading
from collections.abc import Iterator, Sequence
from concurrent.futures import ThreadPoolExecutor, as_completed

from oddsum.check.traced import Cancelled
from oddsum.compare.judge import judge
from oddsum.languages.language import Interpreter
from oddsum.model.case import Plan
from oddsum.model.outcome import CaseResult
from oddsum.run.case import cancelled
from oddsum.run.runner import Runner, runner_of
from oddsum.run.scratch import Bundle, Scratch


def check_each(
    plan: Plan, versions: Sequence[Bundle], interpreter: Interpreter, stop: threading.Event
) -> Iterator[tuple[int, tuple[CaseResult, ...]]]:
    """Check the plan on each version, a core each; yields its place and results as each is done.

    The interpreters that wait are kept from one version to the next. Raises Cancelled once ``stop``
    is set, and whatever a check raises.
    """
    own, runners = threading.local(), contextlib.ExitStack()

    def runner_here() -> Runner:
        if not hasattr(own, "runner"):
            own.runner = runners.enter_context(runner_of(plan, interpreter, fenced=True))
        return own.runner  # type: ignore[no-any-return]

    def one(number: int) -> tuple[int, tuple[CaseResult, ...]]:
        results = []
        with Scratch(versions[number], runner_here().room) as scratch:
            for case in plan.active():
                run = runner_here().run(case, scratch, stop)
                if stop.is_set() or cancelled(run):
                    raise Cancelled("The check was stopped.")
                results.append(judge(case, plan.settings_of(case), run))
        return number, tuple(results)

    workers = max(1, min(len(versions), os.cpu_count() or 1))
    with runners, ThreadPoolExecutor(workers, thread_name_prefix="confirm") as pool:
        futures = [pool.submit(one, n) for n in range(len(versions))]
        try:
            for future in as_completed(futures):
                yield future.result()
        except BaseException:
            for future in futures:
                future.cancel()
            raise
