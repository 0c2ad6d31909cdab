"""Mends that all fit: an input on which they differ, so that who knows the answer can decide."""

from __future__ import annotations

import threading
import time
from collections.abc import Iterator, Mapping, Sequence

import msgspec

from oddsum.advise.neighbours import neighbours
from oddsum.languages.language import Interpreter
from oddsum.model.case import Case, Plan
from oddsum.model.lead import Ask, Gives
from oddsum.model.outcome import Run
from oddsum.pinpoint.proposal import Proposal, on_trial
from oddsum.run.scratch import Bundle
from oddsum.run.trials import Allowance, TrialBench
from oddsum.source.program import Source

_SECONDS = 0.6  # that are looked for one
_ALLOWED = Allowance(rounds=50_000, seconds=0.25, output=20_000)
_NUMBERS_FROM = 1_000_000  # of the cases that are made up: no plan has so many
_AT_ONCE = 8
_LONGEST = 200  # characters of a result that one can be asked about

Ranked = tuple[int, Proposal]


def decide(
    plan: Plan,
    files: Bundle,
    interpreter: Interpreter,
    sources: Mapping[str, Source],
    mends: Sequence[Ranked],
    stop: threading.Event,
) -> Ask | None:
    """A small input on which these mends differ; None where none was found in time.

    ``mends`` are with the rank of their leads, the best first: it is asked where the best differs
    from some other.
    """
    until = time.monotonic() + _SECONDS
    edits = [edit for _, mend in mends for edit in mend.edits]
    at = {edit: n for n, edit in enumerate(edits)}
    numbers = {rank: [at[e] for e in mend.edits] for rank, mend in mends}
    texts = {e.file: sources[e.file].text for e in edits}
    with TrialBench(plan, files, interpreter, _what) as bench:
        loaded = [on_trial(e) for e in edits]
        for some in _in_groups(neighbours(tuple(plan.active()))):
            if stop.is_set() or time.monotonic() > until:
                return None
            bench.load(texts, loaded, some)
            for case in some:
                did = dict(
                    zip(numbers, bench.tried(case, [*numbers.values()], _ALLOWED), strict=False)
                )
                told = {rank: text for rank, text in did.items() if text}
                if len(told) == len(numbers) and len(set(told.values())) > 1:
                    return _asked(case, told)
    return None


def _in_groups(cases: Iterator[Case]) -> Iterator[list[Case]]:
    some: list[Case] = []
    for number, case in enumerate(cases, _NUMBERS_FROM):
        some.append(msgspec.structs.replace(case, number=number))
        if len(some) == _AT_ONCE:
            yield some
            some = []
    if some:
        yield some


def _what(case: Case, run: Run) -> str:
    """What a run gave, as one would answer it; blank where that is nothing to be asked about."""
    if run.ending != "ended" or run.exit_status:
        return ""
    told = run.returned.actual if run.returned is not None else run.output
    return told if len(told) <= _LONGEST else ""


def _asked(case: Case, told: Mapping[int, str]) -> Ask:
    first = min(told)
    other = next(rank for rank in sorted(told) if told[rank] != told[first])
    gives = tuple(Gives(rank, told[rank]) for rank in (first, other))
    if case.call is not None:
        return Ask(gives, call=case.call)
    return Ask(gives, stdin=case.stdin or "")
