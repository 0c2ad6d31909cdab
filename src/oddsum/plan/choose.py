"""Picks a case out of a plan."""

from __future__ import annotations

import difflib

from oddsum.model.case import Case, Plan
from oddsum.model.errors import PlanError


def choose_case(plan: Plan, named: str) -> Case:
    """The case of this number, else of this name; raises PlanError with the nearest name."""
    if named.isdecimal():
        for case in plan.cases:
            if case.number == int(named):
                return case
    for case in plan.cases:
        if case.name == named:
            return case
    names = [c.name for c in plan.cases]
    close = difflib.get_close_matches(named, names, n=1)
    hint = f"Did you mean {close[0]!r}?" if close else f"There are cases 1 to {len(names)}."
    raise PlanError(f"The plan has no case {named!r}.", hint=hint)


def typed_case(text: str) -> Case:
    """A case made on the spot from input typed in; nothing is expected of it."""
    return Case(number=0, name="typed in", stdin=text)
