"""The one quiet line: at every station it names the next thing to do, and a key that does it."""

from __future__ import annotations

import re
from pathlib import Path
from types import SimpleNamespace
from typing import Any

import pytest

from oddsum.model.case import Case, Plan
from oddsum.model.claim import Broken, Claim
from oddsum.model.errors import ProgramError
from oddsum.model.history import Entry, PastRun
from oddsum.model.lead import Lead
from oddsum.model.outcome import CaseResult, Outcome, Run
from oddsum.source.program import Source
from oddsum.tui.actions import actions_of
from oddsum.tui.draft import Draft
from oddsum.tui.next_step import next_words
from oddsum.tui.work import Record, Search, Work

SOURCE = Source("ferry.py", "a = 1\nb = 2\n")
AGREES, DIFFERS, OPEN = Outcome.AGREES, Outcome.DIFFERS, Outcome.OPEN
LEAD = Lead(rank=1, lines=(2,), file="ferry.py", function="", kind="constant", where="w", what="x",
            how="h", mend=None, score=0.9, evidence=())  # fmt: skip
CLAIM = Claim(holds="total > 0", file="ferry.py", line=2)


def result(number: int, outcome: Outcome, stale: bool = False) -> CaseResult:
    return CaseResult(
        number=number, name=str(number), kind="normal", outcome=outcome, checked=(), expected=None,
        actual="", difference=None, run=Run(ending="ended"), stale=stale,
    )  # fmt: skip


def work(*outcomes: Outcome, stale: bool = False, **more: Any) -> Work:
    """The work on a program whose cases came out like this."""
    cases = tuple(Case(number=n, name=str(n), stdin="") for n, _ in enumerate(outcomes, 1))
    made = Work(Path("ferry.py"), None, None, begun=True)
    made.plan = Plan(program=Path("ferry.py"), cases=cases)
    made.results = {n: result(n, o, stale) for n, o in enumerate(outcomes, 1)}
    for name, value in more.items():
        setattr(made, name, value)
    return made


def draft(text: str = "a = 1\nb = 3\n", after: tuple[Outcome, ...] = (), **more: Any) -> Draft:
    made = Draft(Path("ferry.py"), SOURCE, text, tried=text, **more)
    made.results = {n: result(n, o) for n, o in enumerate(after, 1)}
    return made


def traced(step: int, last: int = 9, **more: Any) -> Any:
    """As much of a recording as the line looks at."""
    story = type("Story", (), {"last": last, "__len__": lambda self: last})()
    return SimpleNamespace(**{"step": step, "story": story, "stale": False, "broken": None, **more})


def broken(step: int) -> Broken:
    return Broken(claim=CLAIM, step=step, line=2, why="total is 0")


def run(number: int) -> PastRun:
    return PastRun(number=number, at=1.0, seconds=0.1, outcomes={})


LINES = [  # the work, the station, what the line says
    (Work(Path("ferry.py"), None, None), "check", "wait for your program to be read"),
    (work(fault=ProgramError("no")), "check", "press M and put it right"),
    (work(fault=ProgramError("no")), "mend", "keep it with Ctrl+S"),
    (work(DIFFERS, checking=0), "trace", "wait for the plan to run. Esc stops it"),
    (work(), "check", "press A to write a case, or V"),
    (work(AGREES, DIFFERS), "check", "trace case 2, the shortest that is odd. T takes you there"),
    (work(AGREES, OPEN), "check", "case 2 has nothing expected yet"),
    (work(AGREES), "check", "every case agrees. L shows"),
    (work(DIFFERS, broken={1: broken(3)}), "check", "total > 0 does not hold in case 1, line 2"),
    (work(DIFFERS), "trace", "press T in Check"),
    (work(DIFFERS, tracing=5), "trace", "wait for the recording"),
    (work(DIFFERS, looking="Looking for a > 1."), "trace", "Looking for a > 1. Esc stops it"),
    (work(DIFFERS, traced=traced(1)), "trace", "say first what you think will change"),
    (work(DIFFERS, traced=traced(5)), "trace", "compare each value with what you expect"),
    (work(DIFFERS, traced=traced(9)), "trace", "the last step"),
    (work(DIFFERS, traced=traced(5, stale=True)), "trace", "T records it anew"),
    (work(DIFFERS, traced=traced(5, broken=broken(5))), "trace", "does not hold here: total is 0."),
    (work(DIFFERS, traced=traced(5, broken=broken(7))), "trace", "at step 7: total is 0. ; goes"),
    (work(DIFFERS, traced=traced(8, broken=broken(7))), "trace", "compare each value"),
    (work(DIFFERS), "pinpoint", "wait while small changes are tried"),
    (work(DIFFERS, search=Search()), "pinpoint", "press 2"),
    (work(DIFFERS, search=Search((LEAD,))), "pinpoint", "read line 2 again. Do you see it? Enter"),
    (work(DIFFERS, search=Search((LEAD,), first=1)), "pinpoint", "Enter uncovers how"),
    (work(DIFFERS, search=Search((LEAD,), first=2)), "pinpoint", "M takes this mend over"),
    (work(DIFFERS), "mend", "press E and change one thing"),
    (work(DIFFERS, draft=draft(SOURCE.text)), "mend", "change one thing; every case is tried"),
    (work(DIFFERS, stale=True, draft=draft(SOURCE.text)), "mend", "R runs the plan again"),
    (work(AGREES, draft=draft(SOURCE.text)), "mend", "every case agrees. L shows whether"),
    (work(DIFFERS, draft=draft(trying=0)), "mend", "go on typing"),
    (work(DIFFERS, draft=draft(conflict=True)), "mend", "asks which of the two to keep"),
    (work(DIFFERS, draft=draft(fault=ProgramError("no"))), "mend", "cannot start yet"),
    (work(DIFFERS, draft=draft(after=(AGREES,))), "mend", "Ctrl+S keeps it in the file"),
    (work(AGREES, DIFFERS, draft=draft(after=(DIFFERS, AGREES))), "mend", "a case broke"),
    (work(DIFFERS, draft=draft(after=(DIFFERS,))), "mend", "no case is settled by it. Ctrl+Z"),
    (work(AGREES), "record", "R runs the plan; each run is recorded here"),
    (work(AGREES, record=Record((run(1), run(2)), cursor=1, marked=0)), "record", "D holds the two"),
    (work(AGREES, record=Record((run(1),), cursor=0, entries=(Entry(at=1.0),))), "record", "E opens"),
    (work(AGREES, record=Record((run(1),), cursor=0)), "record", "W writes a report"),
]  # fmt: skip


@pytest.mark.parametrize(("given", "station", "said"), LINES, ids=[f"{s}-{w}" for _, s, w in LINES])
def test_it_says_what_to_do_next(given, station, said):
    assert said in next_words(given, station)


@pytest.mark.parametrize(("given", "station", "said"), LINES, ids=[f"{s}-{w}" for _, s, w in LINES])
def test_every_key_it_names_does_something_at_that_station(given, station, said):
    words = next_words(given, station)
    labels = {a.label for a in actions_of(station)} | {
        "1",
        "2",
        "3",
        "4",
        "5",
        "Esc",
        "Ctrl+Z",
        "M",
    }
    for key in re.findall(r"(?<![\w+])(Ctrl\+[A-Z]|[A-Z1-5](?= [a-z])|Enter|Esc)(?!\w)", words):
        assert key in labels, f"{key}: {words}"


def test_an_author_who_keeps_the_mend_covered_is_heard():
    given = work(DIFFERS, search=Search((LEAD,), first=1))
    assert given.plan is not None
    given.plan = Plan(program=Path("ferry.py"), cases=given.plan.cases, reveal="what")
    assert "uncovers how" not in next_words(given, "pinpoint")


def test_a_program_in_another_language_is_led_back_to_check():
    given = work(DIFFERS)
    assert given.plan is not None
    given.plan = Plan(program=Path("ferry.c"), cases=given.plan.cases, run=("./ferry",))
    for station in ("trace", "pinpoint"):
        assert "press 1 to go back to Check" in next_words(given, station)
