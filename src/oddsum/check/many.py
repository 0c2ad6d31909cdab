"""Checks a plan against several versions of a program, each case in a process of its own."""

from __future__ import annotations

import contextlib
import threading
from collections.abc import Iterable
from concurrent.futures import Future, ThreadPoolExecutor
from types import TracebackType

from oddsum.check.beside import MOST, waits
from oddsum.check.traced import Cancelled
from oddsum.compare.judge import judge
from oddsum.languages.language import Interpreter
from oddsum.model.case import Plan
from oddsum.model.outcome import CaseResult
from oddsum.run.case import cancelled
from oddsum.run.cores import cores
from oddsum.run.runner import Runner, runner_of
from oddsum.run.scratch import Bundle, Scratch

Results = tuple[CaseResult, ...]


class Checks:
    """Checks of one plan, a core each or more, fenced in; a context manager.

    The interpreters that wait for cases are kept from one version to the next, so a check costs its
    cases and not a start.
    """

    def __init__(
        self,
        plan: Plan,
        interpreter: Interpreter,
        stop: threading.Event,
        results: Iterable[CaseResult] = (),
    ) -> None:
        """``results`` are those of a check before, if there are: they tell whether cases wait."""
        self.plan, self.interpreter, self.stop = plan, interpreter, stop
        self._runners, self._own = contextlib.ExitStack(), threading.local()
        self._left = False
        workers = max(MOST, cores()) if waits(r.run for r in results) else cores()
        self._pool = ThreadPoolExecutor(workers, thread_name_prefix="confirm")

    def __enter__(self) -> Checks:
        return self

    def __exit__(
        self, kind: type[BaseException] | None, error: BaseException | None, _: TracebackType | None
    ) -> None:
        self._left = True
        self._pool.shutdown(wait=True, cancel_futures=True)
        self._runners.close()

    def submit(self, version: Bundle) -> Future[Results]:
        """Check a version once a core is free. What comes of it is the plan's results, or
        Cancelled once ``stop`` is set, or whatever a check raises.
        """
        return self._pool.submit(self._check, version)

    def _check(self, version: Bundle) -> Results:
        results = []
        with Scratch(version, self._runner().room) as scratch:
            for case in self.plan.active():
                run = self._runner().run(case, scratch, self.stop)
                if self.stop.is_set() or cancelled(run) or self._left:
                    raise Cancelled("The check was stopped.")
                results.append(judge(case, self.plan.settings_of(case), run))
        return tuple(results)

    def _runner(self) -> Runner:
        """The runner of this thread, made when it is first wanted."""
        if not hasattr(self._own, "runner"):
            made = runner_of(self.plan, self.interpreter, fenced=True)
            self._own.runner = self._runners.enter_context(made)
        return self._own.runner  # type: ignore[no-any-return]
