"""The moments of a run that are not as they should be: where it departs, stops, breaks a claim."""

from __future__ import annotations

from dataclasses import dataclass

from oddsum.compare.departure import departure_offset
from oddsum.compare.words import first_departure
from oddsum.model.case import Case
from oddsum.model.claim import Broken
from oddsum.model.outcome import CaseResult, Outcome
from oddsum.trace.ask import Story
from oddsum.trace.returns import outermost_returns, result_step
from oddsum.trace.words import short


@dataclass(frozen=True)
class OddMoment:
    """A step, the mark it has everywhere, what it is in a word or two, its ink, and what should
    have been there, in a few words for its row."""

    step: int
    mark: str
    words: str
    ink: str
    told: str


def departing_step(story: Story, case: Case, result: CaseResult) -> int | None:
    """The step after which what comes out can no longer become what is expected."""
    if not result.outcome.odd:
        return None
    if case.returns is not None and _returns_another(result):
        return next(outermost_returns(story), None)
    if case.stdout is None or case.call is not None:
        return None
    offset = departure_offset(case.stdout, result.actual, result.run)
    return None if offset is None else story.printing(offset)


def _returns_another(result: CaseResult) -> bool:
    returned = result.run.returned
    return returned is not None and not returned.equal


def odd_moments(
    story: Story, case: Case, result: CaseResult, departs: int | None, broken: Broken | None
) -> tuple[OddMoment, ...]:
    """All of a run's, in the order of time."""
    found = []
    endless = result.outcome is Outcome.ENDLESS
    if endless and story.last:
        told = "it does not end: the recording stops here"
        found.append(OddMoment(story.last, "∞", "does not end", "endless", told))
    # What is missing at the end of a run without one says nothing more.
    if departs and not (endless and departs == story.last):
        found.append(_departure(story, departs, case, result))
    raised = story.where_raised
    if raised and result.outcome is Outcome.STOPPED:
        found.append(OddMoment(raised, "!", "stops here", "stopped", "it stops here"))
    if broken is not None:
        told = f"your claim {short(broken.claim.holds, 24)} does not hold: {broken.why}"
        found.append(OddMoment(broken.step, "≟", "claim broken", "straw", told))
    return tuple(sorted(found, key=lambda m: m.step))


def _departure(story: Story, step: int, case: Case, result: CaseResult) -> OddMoment:
    if case.returns is not None and _returns_another(result):
        returned = result.run.returned
        wanted = (returned.expected if returned is not None else None) or case.returns
        whole = returned is not None and result_step(story, returned.actual) == step
        who = "" if whole else "in all, the case "  # it makes its result of what several calls gave
        return OddMoment(step, "≠", f"{who}should give {short(wanted, 20)}", "odd",
                         f"{who}should give {wanted}")  # fmt: skip
    wanted = _wanted_line(case, result)
    told = f"expected {wanted}" if wanted else "nothing more is expected"
    return OddMoment(step, "≠", "output departs", "odd", told)


def _wanted_line(case: Case, result: CaseResult) -> str:
    """The first expected line that does not come out; blank where none is missing."""
    place = first_departure(case.stdout or "", result.actual)
    lines = (case.stdout or "").split("\n")
    return lines[place[0] - 1].strip() if place is not None and place[0] <= len(lines) else ""
