"""Advice on a plan: what it misses, with an input for each that was run and does try it."""

from __future__ import annotations

import threading
from collections.abc import Iterator

import msgspec

from oddsum.advise.first import first_case
from oddsum.advise.gaps import Gap, gaps
from oddsum.advise.inputs import changed_cases
from oddsum.advise.seen import MOST_STEPS, Forks, Seen, forks_of, see, seen_in
from oddsum.check.plan import check_all
from oddsum.check.traced import Cancelled, trace_case
from oddsum.languages.language import Interpreter
from oddsum.model.case import Case, Plan
from oddsum.model.outcome import CaseResult

MOST_CASES = 300  # that are recorded for advice; a plan with more of them has the first ones
_MOST_LINES = 40  # that are typed in more, or fewer, to give a program what it asks for
_MOST_READY = 24  # gaps that an input is looked for


class Proposal(msgspec.Struct, frozen=True):
    """A gap and, where one was found, a case that closes it; what it should give is left open."""

    gap: Gap
    case: Case | None = None
    actual: str = ""


class Advice(msgspec.Struct, frozen=True):
    """What a plan misses. ``looked_at`` says how many of its cases were recorded for it."""

    proposals: tuple[Proposal, ...]
    looked_at: int
    of: int


def advise(
    plan: Plan,
    interpreter: Interpreter,
    results: tuple[CaseResult, ...],
    stop: threading.Event | None = None,
) -> Advice:
    """Look for what no case tries. Without a case, one is made up to begin with.

    Raises StartError where the program cannot start, ``Cancelled`` once ``stop`` is set.
    """
    known = forks_of(plan.program)
    if not results:
        first = first_case(plan, known)
        plan = msgspec.structs.replace(plan, cases=(first,))
        results = check_all(plan, interpreter, stop=stop)
    chosen = results[:MOST_CASES]
    seen = see(plan, chosen, interpreter, known, stop)
    cases = tuple(c for c in plan.active() if c.number in seen)
    found = gaps(known, seen, () if plan.file is None and len(cases) == 1 else cases)
    helper = _Ready(plan, interpreter, known, seen, cases, stop)
    return Advice(helper.proposals(found), len(chosen), len(results))


class _Ready:
    """Looks for inputs, and runs each to see that it tries what it should."""

    def __init__(
        self,
        plan: Plan,
        interpreter: Interpreter,
        known: Forks,
        seen: dict[int, Seen],
        cases: tuple[Case, ...],
        stop: threading.Event | None,
    ) -> None:
        self.plan, self.interpreter, self.known = plan, interpreter, known
        self.seen, self.cases, self.stop = seen, cases, stop
        self.made: set[tuple[str | None, str | None]] = {(c.stdin, c.call) for c in cases}

    def proposals(self, found: tuple[Gap, ...]) -> tuple[Proposal, ...]:
        """A proposal for each gap that no other proposal closes as well."""
        closed: list[Seen] = []
        made = list(self._made(found, closed))
        return tuple(
            p for p in made if p.case is not None or not any(_closes(p.gap, c) for c in closed)
        )

    def _made(self, found: tuple[Gap, ...], closed: list[Seen]) -> Iterator[Proposal]:
        for at, gap in enumerate(found):
            if any(_closes(gap, one) for one in closed):
                continue  # an input proposed above tries this too
            proposal = self._for(gap) if at < _MOST_READY else None
            if proposal is None:
                yield Proposal(gap)
                continue
            case, seen, actual = proposal
            closed.append(seen)
            yield Proposal(gap, case, actual)

    def _for(self, gap: Gap) -> tuple[Case, Seen, str] | None:
        for candidate in changed_cases(gap, self.known, self.seen, self.cases):
            if self.stop is not None and self.stop.is_set():
                raise Cancelled("The search for advice was stopped.")
            settled = self._fed(candidate)
            if settled is None:
                continue
            case, result = settled
            if (case.stdin, case.call) in self.made:
                continue
            trace, _ = trace_case(
                self.plan, case, self.interpreter, plain=result.run, stop=self.stop,
                most_steps=MOST_STEPS,
            )  # fmt: skip
            seen = seen_in(self.known, case, trace)
            if _closes(gap, seen) or gap.kind == "kind":
                self.made.add((case.stdin, case.call))
                return case, seen, result.actual
        return None

    def _fed(self, case: Case) -> tuple[Case, CaseResult] | None:
        """The case with as much to read as the program asks for; None where that has no end."""
        for _ in range(_MOST_LINES):
            (result,) = check_all(self.plan, self.interpreter, cases=(case,), stop=self.stop)
            run = result.run
            if run.ending in ("time", "output", "crashed"):
                return None
            if run.unread and not run.starved and not case.call:
                kept = (case.stdin or "")[: -len(run.unread)]
                return self._once_more(msgspec.structs.replace(case, stdin=kept))
            if not run.starved:
                return case, result
            lines = (case.stdin or "").rstrip("\n").split("\n")
            case = msgspec.structs.replace(case, stdin="\n".join([*lines, lines[-1] or "1"]) + "\n")
        return None

    def _once_more(self, case: Case) -> tuple[Case, CaseResult] | None:
        (result,) = check_all(self.plan, self.interpreter, cases=(case,), stop=self.stop)
        return None if result.run.starved else (case, result)


def _closes(gap: Gap, seen: Seen) -> bool:
    """Whether what was seen of a case fills a gap."""
    if gap.kind == "limit":
        return any(s.value == gap.wanted for s in seen.subjects.get(gap.limit or 0, ()))
    place = (gap.file, gap.line)
    if gap.kind == "loop":
        rounds = seen.rounds.get(place, ())
        return gap.wanted in rounds if gap.wanted is not None else bool(rounds)
    if gap.kind == "branch":
        came = seen.conditions.get(place, frozenset())
        return bool(came) if gap.holds is None else gap.holds in came
    return False
