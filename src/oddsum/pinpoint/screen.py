"""Screens trial edits: which of them settle odd cases, and what they break."""

from __future__ import annotations

import os
import queue
import threading
import time
from collections.abc import Callable, Mapping, Sequence
from concurrent.futures import ThreadPoolExecutor

import msgspec

from oddsum.compare.judge import judge
from oddsum.model.case import Case, Plan
from oddsum.model.lead import Slip
from oddsum.model.outcome import CaseResult, Outcome
from oddsum.run.interpreter import Interpreter
from oddsum.run.scratch import Bundle
from oddsum.run.trials import Allowance, TrialBench, allowance
from oddsum.source.program import Source

_FIRST = Allowance(rounds=2_000_000, seconds=5.0, output=1_000_000)


class Screening(msgspec.Struct, frozen=True):
    """What a slip's trial showed: numbers of the cases it settles and breaks."""

    slip: Slip
    text: str
    settles: tuple[int, ...]
    breaks: tuple[int, ...]


class Screen:
    """Screens slips on a plan with as many processes as cores."""

    def __init__(
        self,
        plan: Plan,
        files: Bundle,
        interpreter: Interpreter,
        results: Sequence[CaseResult],
    ) -> None:
        self.plan, self.files, self.interpreter = plan, files, interpreter
        cases = {c.number: c for c in plan.active()}
        self.odd = [cases[r.number] for r in results if r.outcome.odd]
        self.agreeing = [cases[r.number] for r in results if r.outcome is Outcome.AGREES]
        self.was = {r.number: r for r in results}
        self.allowed: dict[int, Allowance] = {}
        self.unsure: set[int] = set()  # cases that do not come out the same in a trial

    def run(
        self,
        slips: Sequence[tuple[Slip, Source, str]],
        stop: threading.Event,
        deadline: float,
        on_progress: Callable[[int, int], None],
    ) -> tuple[list[Screening], int]:
        """Screen (slip, source, edited text) triples; returns what settles something, and how many
        trials were made. Ends early when ``stop`` is set or ``time.monotonic()`` passes the
        deadline."""
        todo: queue.SimpleQueue[tuple[Slip, Source, str]] = queue.SimpleQueue()
        for item in slips:
            todo.put(item)
        found: list[Screening] = []
        done = _Count(len(slips), on_progress)
        workers = min(max(1, os.cpu_count() or 1), max(1, len(slips)))

        def work() -> None:
            with TrialBench(self.plan, self.files, self.interpreter) as bench:
                self._measure(bench)
                while not stop.is_set() and time.monotonic() < deadline:
                    try:
                        slip, source, text = todo.get_nowait()
                    except queue.Empty:
                        return
                    screening = self._screen(bench, slip, source, text)
                    if screening is not None:
                        found.append(screening)
                    done.one_more()

        with ThreadPoolExecutor(workers, thread_name_prefix="trial") as pool:
            for future in [pool.submit(work) for _ in range(workers)]:
                future.result()
        return found, done.count

    def _measure(self, bench: TrialBench) -> None:
        """Run the program unedited: what it takes, and whether a trial sees what a real run saw."""
        for case in [*self.odd, *self.agreeing]:
            if case.number in self.allowed:
                continue
            settings = self.plan.settings_of(case)
            result = self.was[case.number]
            limits = _FIRST
            if result.outcome is Outcome.ENDLESS:
                limits = Allowance(rounds=20_000, seconds=0.5, output=_FIRST.output)
            started = time.monotonic()
            screened = bench.run(case, {}, limits)
            took = time.monotonic() - started
            if judge(case, settings, screened.run).outcome is not result.outcome:
                self.unsure.add(case.number)
            ticks = 0 if result.outcome is Outcome.ENDLESS else screened.ticks
            self.allowed[case.number] = allowance(
                took, ticks, settings.timeout or 2.0, settings.output or 1.0
            )

    def _screen(self, bench: TrialBench, slip: Slip, source: Source, text: str) -> Screening | None:
        """Try one edit: odd cases first, and no further when none of them is settled."""
        settles = [c.number for c in self.odd if self._agrees(bench, c, {source.name: text})]
        if not settles:
            return None
        breaks = []
        for case in self.agreeing:
            if case.number not in self.unsure and not self._agrees(
                bench, case, {source.name: text}
            ):
                breaks.append(case.number)
                if len(breaks) > len(settles):
                    return None  # it does more harm than good: no need to know how much
        return Screening(slip, text, tuple(settles), tuple(breaks))

    def _agrees(self, bench: TrialBench, case: Case, edits: Mapping[str, str]) -> bool:
        screened = bench.run(case, dict(edits), self.allowed[case.number])
        settings = self.plan.settings_of(case)
        return judge(case, settings, screened.run).outcome is Outcome.AGREES


class _Count:
    """Counts trials across threads and tells at most every 50th of a second's worth."""

    def __init__(self, total: int, tell: Callable[[int, int], None]) -> None:
        self.count, self.total, self.tell = 0, total, tell
        self._lock, self._told = threading.Lock(), 0.0

    def one_more(self) -> None:
        with self._lock:
            self.count += 1
            now = time.monotonic()
            if now - self._told < 0.02 and self.count < self.total:
                return
            self._told = now
        self.tell(self.count, self.total)
