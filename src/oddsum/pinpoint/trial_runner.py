"""Screens trial edits: which of them settle odd cases, and what they break."""

from __future__ import annotations

import contextlib
import math
import queue
import threading
import time
from collections.abc import Callable, Iterator, Mapping, Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, field
from types import MappingProxyType

from oddsum.compare.judge import agrees, judge
from oddsum.languages.language import Interpreter
from oddsum.model.case import Allow, Case, Plan
from oddsum.model.errors import RunError
from oddsum.model.outcome import CaseResult, Outcome, Run
from oddsum.pinpoint.coverage import Coverage
from oddsum.pinpoint.nearness import nearness
from oddsum.pinpoint.proposal import Proposal, Screening, on_trial
from oddsum.pinpoint.value_trials import ValueTrials
from oddsum.run.cores import cores
from oddsum.run.removable import Removable
from oddsum.run.scratch import Bundle
from oddsum.run.trials import Allowance, TrialBench, allowance
from oddsum.source.program import Source

_FIRST = Allowance(rounds=2_000_000, seconds=5.0, output=1_000_000)
_QUICK = 0.02  # seconds: below it no case is longer than another
_SLOW = 0.1  # seconds: such a case is not run once more only to know it
_MOST_UNSETTLED = 3  # odd cases in a row that an edit may leave as they are, before it is given up
_TOGETHER = (60, 120, 240)  # edits compiled at once: the first ones few, to know of them soon


@dataclass(frozen=True, eq=False)
class Judged:
    """What a run of a case is worth; one object for all runs that are alike."""

    run: Run
    agrees: bool
    near: float


@dataclass
class _Tried:
    """How a proposal has done so far; ``order``: odd cases as it is tried on them, of which it has
    to do something for one that comes ``ahead``."""

    proposal: Proposal
    numbers: list[int]
    order: list[Case]
    ahead: int
    settles: list[int] = field(default_factory=list)
    breaks: list[int] = field(default_factory=list)
    nearer: float = 0.0
    unsettled: int = 0
    given_up: bool = False

    def screening(self) -> Screening:
        return Screening(
            self.proposal, tuple(sorted(self.settles)), tuple(self.breaks), self.nearer
        )


class TrialRunner(Removable):
    """Screens proposals on a plan with as many processes as cores, kept from search to search."""

    def __init__(
        self,
        plan: Plan,
        files: Bundle,
        interpreter: Interpreter,
        results: Sequence[CaseResult],
        sources: Mapping[str, Source],
    ) -> None:
        cases = {c.number: c for c in plan.active()}
        self.odd = [cases[r.number] for r in sorted(results, key=_shortest) if r.outcome.odd]
        self.agreeing = [cases[r.number] for r in results if r.outcome is Outcome.AGREES]
        self.was = {r.number: r for r in results}
        self.settings = {c.number: plan.settings_of(c) for c in cases.values()}
        self.sources = sources
        self.allowed: dict[int, Allowance] = {}
        self.near: dict[int, float] = {}
        self.unsure: set[int] = set()  # cases that do not come out the same in a trial
        self._took: dict[int, float] = {}
        self._measuring = threading.Lock()
        self._benches = [TrialBench(plan, files, interpreter, self._judged) for _ in range(cores())]
        self._met: list[Proposal] = []  # edits in one place, put off
        self._apart = False  # whether they are compiled by themselves now
        self._unedited: dict[tuple[int, int], Judged] = {}  # by process and case

    @property
    def refused(self) -> dict[int, tuple[Allow, ...]]:
        """By case, what the fence refuses it."""
        return {n: kinds for bench in self._benches for n, kinds in bench.refused.items()}

    def warm(self) -> None:
        """Start the processes, behind what is done meanwhile; a fault is met again where they are
        asked."""
        for bench in self._benches:
            threading.Thread(target=_started, args=(bench,), daemon=True).start()

    def begin_with_least(self, coverage: Coverage) -> None:
        """Take the odd cases that do least first: the fewer edits can matter to such a case, and
        the likelier it meets one of two faults alone."""
        ran, steps = coverage.ran, coverage.steps
        little = {n: (len(places), steps.get(n, 0)) for n, places in ran.items()}
        self.odd.sort(key=lambda case: _shortest(self.was[case.number], little))

    def value_trials(self) -> ValueTrials[Judged]:
        """The same processes, trying values in the place of others."""

        def allowance_of(bench: TrialBench[Judged], case: Case) -> Allowance:
            self._know(bench, case)
            return self.allowed[case.number]

        return ValueTrials(self._benches, self.odd, self.agreeing, allowance_of)

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
        ahead: Callable[[Proposal], Sequence[Case]] | None = None,
        left_out: list[Proposal] | None = None,
    ) -> tuple[list[Screening], int]:
        """Screen proposals; returns those that settle something or come nearer, and how many were
        tried. Ends early when ``stop`` is set, when ``time.monotonic()`` passes the deadline, or
        when ``on_found`` says of one that it is enough.

        ``ahead`` gives odd cases of which an edit must settle one, or bring it nearer, to be tried
        on the others: with one of them alone most trials are a single run. Proposals whose edits
        lie in one place cost a compilation each, and come last. Where ``left_out`` is given they
        are added to it and not tried, and so is what there was no time for.
        """
        first = ahead or (lambda _: self.odd)
        todo: queue.SimpleQueue[Sequence[Proposal]] = queue.SimpleQueue()
        for some in _in_parts(proposals):
            todo.put(some)
        found: list[Screening] = []
        done, enough = Count(len(proposals), on_progress), threading.Event()

        def halted() -> bool:
            return stop.is_set() or enough.is_set() or time.monotonic() >= deadline

        def work(bench: TrialBench[Judged]) -> None:
            while not halted():
                try:
                    some = todo.get_nowait()
                except queue.Empty:
                    return
                for one in self._screened(bench, some, first, halted, done):
                    found.append(one)
                    if on_found is not None and on_found(one):
                        enough.set()

        self._met, self._apart = [], False
        self._at_once(work)
        if left_out is not None:
            left_out += [p for some in _emptied(todo) for p in some] + self._met
        elif self._met and not halted():
            for some in _in_parts(self._met):
                todo.put(some)
            self._met, self._apart = [], True
            self._at_once(work)
        self._apart = False
        return found, done.count

    def _at_once(self, work: Callable[[TrialBench[Judged]], None]) -> None:
        """Have every process do work, and wait for all of them."""
        with ThreadPoolExecutor(len(self._benches), thread_name_prefix="trial") as pool:
            for future in [pool.submit(work, bench) for bench in self._benches]:
                future.result()

    def _screened(
        self,
        bench: TrialBench[Judged],
        proposals: Sequence[Proposal],
        ahead: Callable[[Proposal], Sequence[Case]],
        halted: Callable[[], bool],
        done: Count,
    ) -> Iterator[Screening]:
        """Try edits case by case: odd cases first, the shortest ahead; no edit further than that
        helps. Those that halting leaves half tried are not among what is found.
        """
        tried = self._loaded(bench, proposals, ahead)
        for place in range(len(self.odd)):
            for case in self.odd:
                now = [one for one in tried if one.order[place] is case]
                for one, judged in self._on_case(bench, case, now, halted):
                    if judged is None:
                        one.given_up = True
                        self._met.append(one.proposal)
                        continue
                    self._odd_case(one, case, judged, bench)
                    if not place:
                        done.one_more()
        for one in tried:
            one.given_up = one.given_up or not (one.settles or one.nearer > 0)
        for case in self.agreeing:
            if case.number not in self.unsure:
                for one, judged in self._on_case(bench, case, tried, halted):
                    if judged is not None:
                        self._agreeing_case(one, case, judged, bench)
        if not halted():
            yield from (one.screening() for one in tried if not one.given_up)

    def _loaded(
        self,
        bench: TrialBench[Judged],
        proposals: Sequence[Proposal],
        ahead: Callable[[Proposal], Sequence[Case]],
    ) -> list[_Tried]:
        """Have a process put these edits together, each once: half mends stand in many."""
        numbers = {e: n for n, e in enumerate(dict.fromkeys(e for p in proposals for e in p.edits))}
        texts = {e.file: self.sources[e.file].text for e in numbers}
        bench.load(texts, [on_trial(e) for e in numbers])
        tried = []
        for p in proposals:
            first = list(ahead(p))
            order = [*first, *(c for c in self.odd if c not in first)]
            tried.append(_Tried(p, [numbers[e] for e in p.edits], order, len(first)))
        return tried

    def _on_case(
        self,
        bench: TrialBench[Judged],
        case: Case,
        tried: list[_Tried],
        halted: Callable[[], bool],
    ) -> Iterator[tuple[_Tried, Judged | None]]:
        """Each edit that is not given up, with what it does on a case; None where it lies in one
        place with the other half of its mend."""
        left = [one for one in tried if not one.given_up]
        if not left or halted():
            return
        self._know(bench, case)
        trials = [one.numbers for one in left]
        allowed, apart = self.allowed[case.number], self._apart
        came = bench.tried(case, trials, allowed, halted, apart=apart)
        yield from zip(left, came, strict=False)

    def _odd_case(self, one: _Tried, case: Case, judged: Judged, bench: TrialBench[Judged]) -> None:
        if len(one.numbers) > 1 and not judged.agrees:
            one.given_up = True  # edits in two places have to settle everything
            return
        if judged is not self._unedited.get((id(bench), case.number)):
            if judged.agrees:
                one.settles.append(case.number)
                return
            one.nearer += judged.near - self.near[case.number]
        one.unsettled += 1
        if not one.settles and one.unsettled >= min(one.ahead, _MOST_UNSETTLED):
            one.given_up = one.nearer <= 0 or one.given_up

    def _agreeing_case(
        self, one: _Tried, case: Case, judged: Judged, bench: TrialBench[Judged]
    ) -> None:
        same = judged is self._unedited.get((id(bench), case.number))
        if not same and not judged.agrees and case.number not in self.unsure:
            one.breaks.append(case.number)
            # Where it does more harm than good, there is no need to know how much.
            one.given_up = len(one.breaks) > len(one.settles)

    def _know(self, bench: TrialBench[Judged], case: Case) -> None:
        """Run a case unedited in a process, before its first trial there."""
        with self._measuring:
            if case.number not in self.allowed:
                self._measure(bench, case)
        key = id(bench), case.number
        if key not in self._unedited and self._took[case.number] < _SLOW:
            self._unedited[key] = bench.unedited(case, self.allowed[case.number])

    def _measure(self, bench: TrialBench[Judged], case: Case) -> None:
        """Run the program unedited: what it takes, and whether a trial sees what a real run saw."""
        settings, result = self.settings[case.number], self.was[case.number]
        limits = _FIRST
        if result.outcome is Outcome.ENDLESS:
            limits = Allowance(rounds=20_000, seconds=0.5, output=_FIRST.output)
        bench.start()
        started = time.monotonic()
        judged = bench.unedited(case, limits)
        took = time.monotonic() - started
        if _QUICK < took < _SLOW:  # the first run of a process has much to make ready
            started = time.monotonic()
            bench.unedited(case, limits)
            took = min(took, time.monotonic() - started)
        self._unedited[id(bench), case.number] = judged
        if judge(case, settings, judged.run).outcome is not result.outcome:
            self.unsure.add(case.number)
        ticks = 0 if result.outcome is Outcome.ENDLESS else bench.ticks
        self._took[case.number] = took
        self.near[case.number] = judged.near
        self.allowed[case.number] = allowance(
            took, ticks, settings.timeout or 2.0, settings.output or 1.0, bench.grew
        )

    def _judged(self, case: Case, run: Run) -> Judged:
        return Judged(run, agrees(case, self.settings[case.number], run), nearness(case, run))


def _started(bench: TrialBench[Judged]) -> None:
    with contextlib.suppress(RunError, OSError):
        bench.start()


def _emptied(todo: queue.SimpleQueue[Sequence[Proposal]]) -> Iterator[Sequence[Proposal]]:
    with contextlib.suppress(queue.Empty):
        while True:
            yield todo.get_nowait()


def _in_parts(proposals: Sequence[Proposal]) -> Iterator[Sequence[Proposal]]:
    """The proposals in parts that are compiled together, in their order."""
    at = 0
    for number in range(len(proposals)):
        if at >= len(proposals):
            return
        size = _TOGETHER[min(number, len(_TOGETHER) - 1)]
        yield proposals[at : at + size]
        at += size


def _shortest(
    result: CaseResult, little: Mapping[int, tuple[int, int]] = MappingProxyType({})
) -> tuple[bool, int, float, int, int]:
    """By what odd cases are tried in order; those that take about as long by how ``little`` they do
    (lines and steps), and in the plan's order, so that one search goes about it as the one before
    did.
    """
    endless, cpu = result.outcome is Outcome.ENDLESS, max(result.run.cpu, _QUICK)
    lines, steps = little.get(result.number, (math.inf, 0))
    return endless, int(math.log2(cpu / _QUICK)), lines, steps, result.number


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
