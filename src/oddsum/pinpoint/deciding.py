"""Mends that all fit: an input on which they differ, so that who knows the answer can decide."""

from __future__ import annotations

import threading
import time
from collections.abc import Iterable, Iterator, Mapping, Sequence

import msgspec

from oddsum.advise.neighbours import neighbours
from oddsum.languages.language import Interpreter
from oddsum.languages.notation import notation_of
from oddsum.model.case import Case, Plan
from oddsum.model.lead import Ask, Gives, Lead
from oddsum.model.outcome import Run
from oddsum.pinpoint.proposal import Confirmed, Proposal, on_trial
from oddsum.pinpoint.rank import mend_edits, way
from oddsum.run.scratch import Bundle
from oddsum.run.trials import Allowance, TrialBench
from oddsum.source.program import Source

_SECONDS = 0.6  # that are looked for one, once the process for it stands
_AT_LEAST = 120  # inputs are tried, however long they take on a busy machine
_ALLOWED = Allowance(rounds=50_000, seconds=0.25, output=20_000)
_NUMBERS_FROM = 1_000_000  # of the cases that are made up: no plan has so many
_AT_ONCE = 8
_LONGEST = 200  # characters of a result that one can be asked about


class Fitting(msgspec.Struct, frozen=True):
    """A mend that settles everything: that of the lead with this rank, or, where ``way`` says so,
    one that fits its place as well."""

    rank: int
    way: str
    proposal: Proposal


def fitting(
    made: Sequence[Lead], confirmed: Iterable[Confirmed], sources: Mapping[str, Source]
) -> list[Fitting]:
    """All mends that settle everything and are told of, the best first, each text once."""
    whole = {mend_edits(c.proposal, sources): c.proposal for c in confirmed if c.whole}
    found: dict[Proposal, Fitting] = {}
    for lead in made:
        own = whole.get(lead.mend.edits) if lead.mend is not None else None
        if own is not None:
            found.setdefault(own, Fitting(lead.rank, "", own))
    best = list(found.values())
    for one in best:
        lead, place = made[one.rank - 1], one.proposal.edits[0]
        here = {
            way(p.edits[0]): p
            for p in whole.values()
            if len(p.edits) == 1 and (p.edits[0].file, p.edits[0].line) == (place.file, place.line)
        }
        for told in lead.equals:
            if told in here:
                found.setdefault(here[told], Fitting(lead.rank, told, here[told]))
    return [*best, *(f for f in found.values() if f.way)]


def decide(
    plan: Plan,
    files: Bundle,
    interpreter: Interpreter,
    sources: Mapping[str, Source],
    mends: Sequence[Fitting],
    stop: threading.Event,
) -> Ask | None:
    """A small input on which these mends differ; None where none was found in time.

    It is asked where the first of them differs from some other.
    """
    edits = list(dict.fromkeys(e for m in mends for e in m.proposal.edits))
    at = {edit: n for n, edit in enumerate(edits)}
    numbers = [[at[e] for e in m.proposal.edits] for m in mends]
    texts = {e.file: sources[e.file].text for e in edits}
    with TrialBench(plan, files, interpreter, _what) as bench:
        loaded = [on_trial(e) for e in edits]
        bench.start()
        until = time.monotonic() + _SECONDS
        inputs = _in_groups(neighbours(tuple(plan.active()), notation_of(plan.program)))
        for number, some in enumerate(inputs):
            late = number * _AT_ONCE >= _AT_LEAST and time.monotonic() > until
            if late or stop.is_set():
                return None
            bench.load(texts, loaded, some)
            for case in some:
                did = bench.tried(case, numbers, _ALLOWED, apart=True)
                told = [(m, text) for m, text in zip(mends, did, strict=False) if text]
                if told and told[0][0] is mends[0]:
                    other = next((one for one in told if one[1] != told[0][1]), None)
                    if other is not None:
                        return _asked(case, (told[0], other))
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


def _asked(case: Case, told: Iterable[tuple[Fitting, str]]) -> Ask:
    gives = tuple(Gives(m.rank, text, m.way) for m, text in told)
    if case.call is not None:
        return Ask(gives, call=case.call)
    return Ask(gives, stdin=case.stdin or "")
