"""The one quiet line at each station that says what to do next."""

from __future__ import annotations

from oddsum.languages import cannot
from oddsum.model.outcome import Outcome
from oddsum.trace.words import counted
from oddsum.workspace.interface import StationName
from oddsum.workspace.workspace import Workspace


def next_words(work: Workspace, station: StationName) -> str:
    """The one quiet line that says what to do next."""
    waiting = _waiting(work, station)
    if waiting:
        return waiting
    of_station = {"trace": _next_in_trace, "mend": _next_in_mend, "record": _next_in_record}
    if station in of_station:
        return of_station[station](work)
    broken = _broken_claim(work)
    if broken:
        return broken
    if station == "pinpoint":
        return _next_in_pinpoint(work)
    shortest = work.checking.shortest_odd()
    if shortest is not None:
        return f"trace case {shortest.number}, the shortest that is odd. T takes you there."
    open_cases = [r for r in work.checking.in_order() if r.outcome is Outcome.OPEN]
    if open_cases:
        number = open_cases[0].number
        return f"case {number} has nothing expected yet. Is what came out right? Y says so."
    return "every case agrees. L shows the limits that no case tries yet."


def _waiting(work: Workspace, station: StationName) -> str:
    """What stands in the way of any station's own advice; blank for nothing."""
    if not work.begun:
        return "wait for your program to be read."
    if work.checking.fault is not None and station == "mend":
        return "put right what is named here, and keep it with Ctrl+S."
    if work.checking.fault is not None:
        return "press M and put it right, or save it from your own editor."
    if work.checking.busy:
        return "wait for the plan to run. Esc stops it."
    if not work.checking.cases:
        return "press A to write a case, or V to run it live and keep what you type."
    plan = work.checking.plan
    if plan is not None and station in ("trace", "pinpoint") and cannot(plan, station):
        return "this station does not read such programs; press 1 to go back to Check."
    return ""


def _broken_claim(work: Workspace) -> str:
    """The first claim that does not hold, in the earliest case; blank where all do."""
    for number, broken in sorted(work.claims.broken.items()):
        return (f"your claim {broken.claim.holds} does not hold in case {number}, line "
                f"{broken.line}: {broken.why}.")  # fmt: skip
    return ""


def _next_in_trace(work: Workspace) -> str:
    traced = work.tracing.traced
    if work.lookups.doing:
        return f"{work.lookups.doing} Esc stops it."
    if work.tracing.busy:
        return "wait for the recording. Esc stops it."
    if traced is None:
        return "press T in Check on the case you want to follow."
    if traced.stale:
        return "the program has changed since this recording. T records it anew."
    broken = traced.broken
    if broken is not None and broken.step >= traced.step:
        where = "here" if broken.step == traced.step else f"at step {broken.step:,}"
        go = "" if broken.step == traced.step else " ; goes there."
        return f"your claim {broken.claim.holds} does not hold {where}: {broken.why}.{go}"
    if traced.step == 1 and len(traced.story) > 1:
        return "press ↓. At every step, say first what you think will change."
    if traced.step == traced.story.last:
        return "the last step. Which value was the first you did not expect?"
    return "compare each value with what you expect. The first surprise is near."


def _next_in_pinpoint(work: Workspace) -> str:
    search = work.pinpointing.search
    if search is None or search.doing:
        return "wait while small changes are tried on copies. Esc stops it."
    lead = search.lead_in_hand()
    if lead is None:
        return "follow the shortest odd case in Trace: press 2."
    level = search.level(lead)
    if level == 0:
        return f"read line {lead.lines[0]} again. Do you see it? Enter uncovers what."
    if level == 1 and work.checking.most_revealed() > 1:
        return "press M and mend it yourself. Enter uncovers how."
    return "M takes this mend over into the program, to be tried there and changed."


def _next_in_mend(work: Workspace) -> str:
    draft = work.mending.draft
    if draft is None:
        return "press E and change one thing."
    if draft.done is not None:
        return "go on typing; the plan runs on a copy meanwhile."
    if draft.conflict:
        return "the file was changed outside; Ctrl+S asks which of the two to keep."
    if draft.changed and draft.fault is not None:
        return "the copy cannot start yet; the line is named at the right."
    effect = draft.effect(work.checking.results)
    if effect is not None and effect.settled and not effect.broke:
        return "Ctrl+S keeps it in the file. Can you say why it helps?"
    if effect is not None and effect.broke:
        return "a case broke. What does this change do that it should not? Ctrl+Z takes it back."
    if effect is not None:
        return "no case is settled by it. Ctrl+Z takes it back; then change another one thing."
    if work.checking.stale:
        return "R runs the plan again."
    if not work.checking.odd() and work.checking.complete():
        return "every case agrees. " + _still_missing(work)
    return "change one thing; every case is tried on a copy as soon as you pause."


def _still_missing(work: Workspace) -> str:
    """What the advice says of cases that no one has written yet."""
    gaps = work.advising.advice.proposals if work.advising.advice is not None else ()
    if not gaps:
        return "L shows whether a limit or a branch is untried."
    return f"L shows {counted(len(gaps), 'case')} that no one has tried yet."


def _next_in_record(work: Workspace) -> str:
    record = work.recording.record
    if not record.runs:
        return "R runs the plan; each run is recorded here."
    if record.marked >= 0 and record.marked != record.cursor:
        return "D holds the two runs against each other."
    if record.entries and not all(e.own for e in record.entries):
        return "say in your own words what was wrong: E opens the page of the notebook."
    return "W writes a report, to hand in or to ask for help with."
