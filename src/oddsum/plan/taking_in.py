"""Cases from elsewhere taken into a plan: those that stand in it already are left."""

from __future__ import annotations

from typing import NamedTuple

import msgspec

from oddsum.model.case import Case, Plan
from oddsum.plan.imported import Imported


class Taking(NamedTuple):
    """The cases that are new, those that the plan has already, and what could not be taken."""

    new: tuple[Case, ...]
    known: tuple[Case, ...]
    left_out: tuple[str, ...]

    @property
    def words(self) -> str:
        """How many of each, in a sentence."""
        told = [f"{_cases(len(self.new))} to add"]
        if self.known:
            told.append(f"{_cases(len(self.known))} stand{'s' if len(self.known) == 1 else ''} "
                        "in the plan already")  # fmt: skip
        return ", ".join(told) + "."


def taking(found: Imported, plan: Plan | None) -> Taking:
    """Tell apart what a plan has already; a case is the same whatever it is called."""
    there = {_apart(c) for c in plan.cases} if plan is not None else set()
    new, known = list[Case](), list[Case]()
    for case in found.cases:
        mine = _apart(case)
        (known if mine in there else new).append(case)
        there.add(mine)
    return Taking(tuple(new), tuple(known), found.left_out)


def _apart(case: Case) -> bytes:
    """What tells a case from another, wherever it stands and whatever it is called."""
    plain = msgspec.structs.replace(case, number=0, name="", kind="normal", note="")
    return msgspec.json.encode(plain)


def _cases(count: int) -> str:
    return f"{count} case{'' if count == 1 else 's'}"
