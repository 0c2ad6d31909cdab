"""Checks a whole plan: every case in its own process, judged as it ends."""

from __future__ import annotations

import queue
import threading
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor

from oddsum.check.beside import MOST, waits
from oddsum.languages.language import Interpreter
from oddsum.model.case import Case, Plan
from oddsum.model.outcome import CaseResult
from oddsum.run.case import cancelled
from oddsum.run.command import built
from oddsum.run.cores import cores
from oddsum.run.runner import Runner, runner_of
from oddsum.run.scratch import Bundle, Scratch, bundle


def check(
    plan: Plan,
    interpreter: Interpreter,
    *,
    stop: threading.Event | None = None,
    files: Bundle | None = None,
    cases: tuple[Case, ...] | None = None,
) -> Iterator[CaseResult]:
    """Run the cases and yield each result as its case ends, not in the plan's order.

    ``files`` stands for the program's folder (a mend to confirm), ``cases`` for the plan's active
    ones. Stops quietly once ``stop`` is set. Raises StartError when the program cannot start.
    """
    stop = stop or threading.Event()
    wanted = plan.active() if cases is None else cases
    if not wanted:
        return
    gathered = built(plan, files or bundle(plan), stop)
    yield from _Check(plan, interpreter, gathered, wanted, stop).results()


def check_all(
    plan: Plan,
    interpreter: Interpreter,
    *,
    stop: threading.Event | None = None,
    files: Bundle | None = None,
    cases: tuple[Case, ...] | None = None,
) -> tuple[CaseResult, ...]:
    """Run the cases and return their results in the plan's order."""
    results = check(plan, interpreter, stop=stop, files=files, cases=cases)
    return tuple(sorted(results, key=lambda r: r.number))


class _Check:
    """One check under way: as many workers as cores, each with a scratch folder of its own; more
    once cases are seen to wait.
    """

    def __init__(
        self,
        plan: Plan,
        interpreter: Interpreter,
        files: Bundle,
        cases: tuple[Case, ...],
        stop: threading.Event,
    ) -> None:
        self.plan, self.interpreter, self.files = plan, interpreter, files
        self.stop, self.broken = stop, threading.Event()
        self.todo: queue.SimpleQueue[Case] = queue.SimpleQueue()
        self.done: queue.SimpleQueue[CaseResult | BaseException | None] = queue.SimpleQueue()
        for case in cases:
            self.todo.put(case)
        self.most = min(len(cases), max(MOST, cores()))
        self.pool = ThreadPoolExecutor(self.most, thread_name_prefix="check")
        self.workers, self.counting = 0, threading.Lock()

    def results(self) -> Iterator[CaseResult]:
        with self.pool:
            for _ in range(min(self.most, cores())):
                self._one_more()
            try:
                yield from self._arriving()
            except BaseException:
                self.stop.set()  # nobody waits for the cases that still run: they are ended
                raise

    def _one_more(self) -> None:
        """Let one more worker begin, if there may be so many."""
        with self.counting:
            if self.workers < self.most:
                self.workers += 1
                self.pool.submit(self._work)

    def _arriving(self) -> Iterator[CaseResult]:
        ended = 0
        fault: BaseException | None = None
        while ended < self.workers:  # one that begins another one ends after that
            item = self.done.get()
            if item is None:
                ended += 1
            elif isinstance(item, BaseException):
                fault = fault or item
                self.broken.set()
            elif fault is None:
                yield item
        if fault is not None:
            raise fault

    def _work(self) -> None:
        try:
            with (
                runner_of(self.plan, self.interpreter) as runner,
                Scratch(self.files, runner.room) as scratch,
            ):
                self._work_in(scratch, runner)
        except BaseException as error:
            self.done.put(error)
        finally:
            self.done.put(None)

    def _work_in(self, scratch: Scratch, runner: Runner) -> None:
        runner.warm()
        from oddsum.compare.judge import judge  # 30 ms, while the interpreter gets ready

        while not (self.stop.is_set() or self.broken.is_set()):
            try:
                case = self.todo.get_nowait()
            except queue.Empty:
                return
            run = runner.run(case, scratch, self.stop)
            if waits([run]) and not self.todo.empty():
                self._one_more()
            if cancelled(run):
                return
            self.done.put(judge(case, self.plan.settings_of(case), run))
