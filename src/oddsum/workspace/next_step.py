"""The one quiet line at each station that says what to do next.

Each function below is one station's list of states, the first that holds speaks. A test goes
through all of them, and sees that every key that is named does something there.
"""

from __future__ import annotations

from oddsum.languages import cannot
from oddsum.model.lead import Lead
from oddsum.model.outcome import Outcome
from oddsum.trace.words import counted, short
from oddsum.workspace.fitting_questions import About, fitting_questions
from oddsum.workspace.interface import StationName
from oddsum.workspace.tracing import Traced
from oddsum.workspace.workspace import Workspace

_WONDERING: dict[About, str] = {
    "value": "is this value what you expect? If not,",
    "call": "did it give what you expect?",
    "loop": "does this loop go round as often as it should?",
}
# What a question is asked with, and what it tells of the thing in hand.
_ASK: dict[About, str] = {
    "condition": "X shows why.",
    "value": "F shows where it comes from.",
    "call": "( lists every call and what it gave.",
    "loop": "* tells how often it does.",
}


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
    return _next_in_pinpoint(work) if station == "pinpoint" else _next_in_check(work)


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
        if station == "check":
            return "press A to write a case, or V to run it live and keep what you type."
        return "press 1: Check takes your first case."
    plan = work.checking.plan
    if plan is not None and station in ("trace", "pinpoint") and cannot(plan, station):
        return "this station does not read such programs; press 1 to go back to Check."
    return ""


def _next_in_check(work: Workspace) -> str:
    checking = work.checking
    if checking.stale:
        return "the results are from before the last save. R runs the plan again."
    missing = len(checking.cases) - len(checking.results)
    if missing > 0 and not any(c.number in checking.results for c in checking.cases):
        return "no case has run yet. R runs the plan."
    shortest = checking.shortest_odd()
    if missing > 0:
        return f"{counted(missing, 'case')} did not run: it was stopped. R runs the whole plan."
    if shortest is not None:
        return _about_odd(work, shortest.number)
    open_cases = [r for r in checking.in_order() if r.outcome is Outcome.OPEN]
    if open_cases:
        number = open_cases[0].number
        return f"case {number} has nothing expected yet. Is what came out right? Y says so."
    aside = f" {counted(aside, 'case')} set aside." if (aside := _set_aside(work)) else ""
    return f"every case agrees.{aside} {_still_missing(work)}"


def _set_aside(work: Workspace) -> int:
    plan = work.checking.plan
    return sum(c.disabled for c in plan.cases) if plan is not None else 0


def _about_odd(work: Workspace, number: int) -> str:
    plan = work.checking.plan
    if plan is not None and cannot(plan, "trace"):
        return (
            f"case {number} is the shortest that is odd. D holds expected and actual side by side."
        )
    return f"trace case {number}, the shortest that is odd. T takes you there."


def _broken_claim(work: Workspace) -> str:
    """The first claim that does not hold, in the earliest case; blank where all do."""
    for number, broken in sorted(work.claims.broken.items()):
        return (f"your claim {broken.claim.holds} does not hold in case {number}, line "
                f"{broken.line}: {broken.why}.")  # fmt: skip
    return ""


# -- Trace ---------------------------------------------------------------------------------------


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
    if not len(traced.story):
        return "no line of yours ran in this case. Press 1 and choose another one."
    if traced.veil is not None:
        return "read the line that is lifted, and fill in what it will do."
    return _at_odd_moment(traced) or _about_the_step(work, traced)


def _at_odd_moment(traced: Traced) -> str:
    """Of a step that is not as it should be, and of one that is ahead; blank for neither."""
    broken = traced.broken
    if broken is not None and broken.step >= traced.step:
        where = "here" if broken.step == traced.step else f"at step {broken.step:,}"
        go = "" if broken.step == traced.step else " O goes there."
        return f"your claim {broken.claim.holds} does not hold {where}: {broken.why}.{go}"
    here = next((m for m in traced.odd_moments() if m.step == traced.step), None)
    if here is None:
        return ""
    if here.mark == "!":
        return "here it stops. Is every value what you expect? F shows where they come from."
    if here.mark == "∞":
        return "it does not end, and the recording stops here. * tells what each loop does."
    return f"here it goes odd: {short(here.told)}. F shows where it comes from."


def _about_the_step(work: Workspace, traced: Traced) -> str:
    """What to do at an ordinary step: the question that helps here, with its key."""
    moments, step = traced.odd_moments(), traced.step
    if step <= traced.opening and work.tracing.opens != "odd":
        odd = " O goes to where it is odd." if moments else ""
        return f"press ↓, and say first what will change.{odd}"
    if step == traced.story.last:
        return "the last step. Which value was the first you did not expect?" + (
            " O goes to where it is odd." if moments else "")  # fmt: skip
    calls = traced.story.into(step)
    if calls is not None:
        name = traced.story.step(calls).function
        return f"{name} is called here. → goes into it, Shift+↓ goes past it."
    for question in fitting_questions(work):
        if question.about in _ASK:
            return f"{_WONDERING.get(question.about, question.words)} {_ASK[question.about]}"
    return "compare each value with what you expect. The first surprise is near."


# -- Pinpoint ------------------------------------------------------------------------------------


def _next_in_pinpoint(work: Workspace) -> str:
    search, checking = work.pinpointing.search, work.checking
    if checking.stale:
        return "the program has changed. R runs the plan, then leads are looked for."
    if not checking.complete():
        return "some cases did not run. R runs the plan; leads come after that."
    if not checking.odd():
        return "no case is odd: nothing to look for. Press 1 for what is untried."
    if search is not None and search.held_back:
        return "which line do you suspect? G takes your guess; then the leads are shown."
    if search is not None and search.stopped and not search.leads:
        return "the search was stopped. R runs the plan and looks again."
    if search is None or (search.doing and not search.leads):
        return "wait while small changes are tried. Esc stops it. G takes your guess."
    lead = search.lead_in_hand()
    if lead is None:
        return "follow the shortest odd case: press 2. Q asks you about its values."
    level = search.level(lead)
    if level == 0:
        return f"{_read_again(lead)} Do you see it? Enter uncovers what."
    if level == 1 and checking.most_revealed() > 1:
        return "press M and mend it yourself. Enter uncovers how."
    if level == 1:
        return "press M and mend it yourself: how is yours to find."
    if lead.mend is None:
        return "M opens the program at that line. T follows the case that shows it best."
    return "M takes this mend over into the program, to be tried there and changed."


def _read_again(lead: Lead) -> str:
    """Where to look: a line, two lines with something to come between them, several lines."""
    first, last = lead.lines[0], lead.lines[-1]
    inserts = lead.mend is not None and any(
        not e.before and e.line == first + 1 for e in lead.mend.edits
    )
    if inserts and last == first + 1:
        return f"read lines {first} and {last}, and between."
    if first != last:
        return f"read lines {first} to {last} again."
    return f"read line {first} again."


# -- Mend and Record -----------------------------------------------------------------------------


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
        return "a case broke. What does this change do there? Ctrl+Z takes it back."
    if effect is not None:
        return "no case is settled by it. Ctrl+Z takes it back; try another thing."
    if work.checking.stale or not work.checking.complete():
        return "R runs the plan again."
    if not work.checking.odd():
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
