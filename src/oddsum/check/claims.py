"""Claims held against every case: the first one broken, in the earliest case."""

from __future__ import annotations

import threading
from collections.abc import Iterable

from oddsum.check.recorded import record_each
from oddsum.languages.language import Interpreter
from oddsum.model.case import Case, Plan
from oddsum.model.claim import Broken, Claim
from oddsum.model.outcome import CaseResult
from oddsum.model.trace import Trace
from oddsum.trace.ask import Story
from oddsum.trace.claims import claims_for, first_broken


def check_claims(
    plan: Plan,
    results: Iterable[CaseResult],
    interpreter: Interpreter,
    claims: tuple[Claim, ...],
    stop: threading.Event | None = None,
) -> dict[int, Broken]:
    """The first broken claim of each case that breaks one, by case number. Raises Cancelled."""

    def keep(case: Case, trace: Trace) -> Broken | None:
        mine = claims_for(claims, case.name)
        return first_broken(Story(trace), mine) if mine else None

    if not claims:
        return {}
    found = record_each(plan, results, interpreter, keep, stop=stop)
    return {number: broken for number, broken in sorted(found.items()) if broken is not None}
