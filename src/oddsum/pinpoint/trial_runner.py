"""Screens trial edits: which of them settle odd cases, and what they break."""

from __future__ import annotations

import os
import queue
import threading
import time
from collections.abc import Callable, Sequence
from concurrent.futures import ThreadPoolExecutor

from oddsum.compare.judge import agrees, judge
from oddsum.languages.language import Interpreter
from oddsum.model.case import Allow, Case, Plan
from oddsum.model.outcome import CaseResult, Outcome, Run
from oddsum.pinpoint.nearness import nearness
from oddsum.pinpoint.proposal import Proposal, Screening
from oddsum.run.removable import Removable
from oddsum.run.scratch import Bundle
from oddsum.run.trials import Allowance, Screened, TrialBench, allowance

_FIRST = Allowance(rounds=2_000_000, seconds=5.0, output=1_000_000)
_SLOW = 0.1  # seconds: such a case is not run once more only to know it
_MOST_UNSETTLED = 3  # odd cases in a row that an edit may leave as they are, before it is given up


class TrialRunner(Removable):
    """Screens proposals on a plan with as many processes as cores, kept from search to search."""

    def __init__(
        self,
        plan: Plan,
        files: Bundle,
        interpreter: Interpreter,
        results: Sequence[CaseResult],
    ) -> None:
        cases = {c.number: c for c in plan.active()}
        self.odd = [cases[r.number] for r in _shortest_first(results)]
        self.agreeing = [cases[r.number] for r in results if r.outcome is Outcome.AGREES]
        self.was = {r.number: r for r in results}
        self.settings = {c.number: plan.settings_of(c) for c in cases.values()}
        self.allowed: dict[int, Allowance] = {}
        self.near: dict[int, float] = {}
        self._took: dict[int, float] = {}
        self._knows: set[tuple[int, int]] = set()  # which process knows a case's own run
        self.unsure: set[int] = set()  # cases that do not come out the same in a trial
        self.refused: dict[int, tuple[Allow, ...]] = {}  # by case, what the fence refuses it
        self._workers = max(1, os.cpu_count() or 1)
        self._benches = [TrialBench(plan, files, interpreter) for _ in range(self._workers)]

    def remove(self) -> None:
        """End the processes and take their folders away."""
        for bench in self._benches:
            bench.remove()

    def run(
        self,
        proposals: Sequence[Proposal],
        stop: threading.Event,
        deadline: float,
        on_progress: Callable[[int, int], None],
        on_found: Callable[[Screening], bool] | None = None,
        *,
        ahead: Sequence[Case] | None = None,
    ) -> tuple[list[Screening], int]:
        """Screen proposals; returns those that settle something or come nearer, and how many were
        tried. Ends early when ``stop`` is set, when ``time.monotonic()`` passes the deadline, or
        when ``on_found`` says of one that it is enough.

        ``ahead`` are odd cases of which an edit must settle one, or bring it nearer, to be tried on
        the others: with one of them alone most trials are a single run.
        """
        first = list(self.odd if ahead is None else ahead)
        todo: queue.SimpleQueue[Proposal] = queue.SimpleQueue()
        for item in proposals:
            todo.put(item)
        found: list[Screening] = []
        done, enough = Count(len(proposals), on_progress), threading.Event()

        def work(bench: TrialBench) -> None:
            while not (stop.is_set() or enough.is_set()) and time.monotonic() < deadline:
                try:
                    proposal = todo.get_nowait()
                except queue.Empty:
                    return
                screening = self._screen(bench, proposal, first)
                if screening is not None:
                    found.append(screening)
                    if on_found is not None and on_found(screening):
                        enough.set()
                done.one_more()

        with ThreadPoolExecutor(self._workers, thread_name_prefix="trial") as pool:
            for future in [pool.submit(work, bench) for bench in self._benches]:
                future.result()
        return found, done.count

    def _trial(self, bench: TrialBench, case: Case, proposal: Proposal) -> Screened:
        """One trial; the first of a case in a process is preceded by a run without the edit."""
        number = case.number
        if number not in self.allowed:
            self._measure(bench, case)
        elif (id(bench), number) not in self._knows:
            self._knows.add((id(bench), number))
            if self._took[number] < _SLOW:
                bench.run(case, {}, self.allowed[number])  # so that it can say "the same"
        return bench.run(case, proposal.texts, self.allowed[number])

    def _measure(self, bench: TrialBench, case: Case) -> None:
        """Run the program unedited: what it takes, and whether a trial sees what a real run saw."""
        settings, result = self.settings[case.number], self.was[case.number]
        limits = _FIRST
        if result.outcome is Outcome.ENDLESS:
            limits = Allowance(rounds=20_000, seconds=0.5, output=_FIRST.output)
        started = time.monotonic()
        screened = bench.run(case, {}, limits)
        took = time.monotonic() - started
        self._knows.add((id(bench), case.number))
        if judge(case, settings, screened.run).outcome is not result.outcome:
            self.unsure.add(case.number)
        if screened.refused:
            self.refused[case.number] = screened.refused
        ticks = 0 if result.outcome is Outcome.ENDLESS else screened.ticks
        self._took[case.number] = took
        self.near[case.number] = nearness(case, screened.run)
        self.allowed[case.number] = allowance(
            took, ticks, settings.timeout or 2.0, settings.output or 1.0
        )

    def _screen(self, bench: TrialBench, proposal: Proposal, ahead: list[Case]) -> Screening | None:
        """Try one proposal: odd cases first, the shortest ahead; no further than that helps."""
        settles: list[int] = []
        nearer, unsettled = 0.0, 0
        for case in [*ahead, *(c for c in self.odd if c not in ahead)]:
            screened = self._trial(bench, case, proposal)
            if not screened.same:
                if self._agrees(case, screened.run):
                    settles.append(case.number)
                    continue
                nearer += nearness(case, screened.run) - self.near[case.number]
            unsettled += 1
            if not settles and unsettled >= min(len(ahead), _MOST_UNSETTLED):
                break
        if not settles and nearer <= 0:
            return None
        breaks: list[int] = []
        for case in self.agreeing:
            if case.number in self.unsure:
                continue
            screened = self._trial(bench, case, proposal)
            if screened.same or case.number in self.unsure:  # known once it was measured
                continue
            if not self._agrees(case, screened.run):
                breaks.append(case.number)
                if len(breaks) > len(settles):
                    return None  # it does more harm than good: no need to know how much
        return Screening(proposal, tuple(sorted(settles)), tuple(breaks), nearer)

    def _agrees(self, case: Case, run: Run) -> bool:
        return agrees(case, self.settings[case.number], run)


def _shortest_first(results: Sequence[CaseResult]) -> list[CaseResult]:
    odd = [r for r in results if r.outcome.odd]
    return sorted(odd, key=lambda r: (r.outcome is Outcome.ENDLESS, r.run.cpu, r.number))


class Count:
    """Counts trials across threads and tells at most every 50th of a second."""

    def __init__(self, total: int, tell: Callable[[int, int], None]) -> None:
        self.count, self.total, self.tell = 0, total, tell
        self._lock, self._told = threading.Lock(), 0.0

    def one_more(self) -> None:
        """Count one, and tell where it is time."""
        with self._lock:
            self.count += 1
            now = time.monotonic()
            if now - self._told < 0.02 and self.count < self.total:
                return
            self._told = now
        self.tell(self.count, self.total)
