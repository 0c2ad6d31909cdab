"""The one quiet line: at every station it names the next thing to do, and a key that does it."""

from __future__ import annotations

import re
import tempfile
from functools import cache
from pathlib import Path
from typing import Any

import msgspec
import pytest
from desk import given, result

from asked import told
from oddsum.model.case import Case
from oddsum.model.claim import Broken, Claim
from oddsum.model.errors import ProgramError
from oddsum.model.history import Entry, PastRun
from oddsum.model.lead import Edit, Lead, Mend
from oddsum.model.outcome import CaseResult, Outcome, Run
from oddsum.source.program import Source
from oddsum.tui.actions import actions_of
from oddsum.workspace.draft import Draft
from oddsum.workspace.next_step import next_words
from oddsum.workspace.pinpointing import Search
from oddsum.workspace.recording import Record
from oddsum.workspace.tracing import Traced, Veil

SOURCE = Source("ferry.py", "a = 1\nb = 2\n")
AGREES, DIFFERS, OPEN = Outcome.AGREES, Outcome.DIFFERS, Outcome.OPEN
EDIT = Edit("ferry.py", 2, 2, ("b = 2",), ("b = 3",))
LEAD = Lead(rank=1, lines=(2,), file="ferry.py", function="", kind="constant", where="w", what="x",
            how="h", mend=Mend((EDIT,), (1,), ()), score=0.9, evidence=())  # fmt: skip
LOOK = msgspec.structs.replace(LEAD, mend=None)
BETWEEN = msgspec.structs.replace(
    LEAD, lines=(2, 3), mend=Mend((Edit("ferry.py", 3, 2, (), ("c = 1",)),), (1,), ())
)
SEVERAL = msgspec.structs.replace(LEAD, lines=(2, 3, 4))
CLAIM = Claim(holds="total > 0", file="ferry.py", line=2)


def draft(text: str = "a = 1\nb = 3\n", after: tuple[Outcome, ...] = (), **more: Any) -> Draft:
    made = Draft(Path("ferry.py"), SOURCE, text, tried=text, **more)
    made.results = {n: result(n, o) for n, o in enumerate(after, 1)}
    return made


PROGRAM = """def fare(age):
    if age < 16:
        return 3
    return 6


total = 0
for age in (9, 34):
    total += fare(age)
print(total)
"""


@cache
def recording() -> tuple[Any, CaseResult]:
    """A small program recorded, and how its case came out: 9 in place of 12."""
    with tempfile.TemporaryDirectory() as folder:
        story, _ = told(Path(folder), PROGRAM)
    run = Run(ending="ended", output="9\n")
    case = CaseResult(
        number=1, name="1", kind="normal", outcome=DIFFERS, checked=("stdout",), expected="12\n",
        actual="9\n", difference=None, run=run,
    )  # fmt: skip
    return story, case


def at(line: int, visit: int = 1) -> int:
    """The step that visits a line for the how many-th time."""
    story, _ = recording()
    return story.visits({("ferry.py", line)})[visit - 1]


def traced(step: int | None = None, **more: Any) -> Traced:
    """That recording, at a step; odd where it prints."""
    story, ended = recording()
    case = Case(number=1, name="1", stdin="", stdout="12\n")
    made = Traced(case, story, ended, at(10), opening=at(7))
    made.step = made.opening if step is None else step
    for name, value in more.items():
        setattr(made, name, value)
    return made


def broken(step: int) -> Broken:
    return Broken(claim=CLAIM, step=step, line=2, why="total is 0")


def run(number: int) -> PastRun:
    return PastRun(number=number, at=1.0, seconds=0.1, outcomes={})


LINES = [  # the work, the station, what the line says
    (given(begun=False), "check", "wait for your program to be read"),
    (given(fault=ProgramError("no")), "check", "press M and put it right"),
    (given(fault=ProgramError("no")), "mend", "keep it with Ctrl+S"),
    (given(DIFFERS, checking=0), "trace", "wait for the plan to run. Esc stops it"),
    (given(), "check", "press A to write a case, or V"),
    (given(AGREES, DIFFERS), "check", "trace case 2, the shortest that is odd. T takes you there"),
    (given(AGREES, OPEN), "check", "case 2 has nothing expected yet"),
    (given(AGREES), "check", "every case agrees. L shows"),
    (given(AGREES, stale=True), "check", "before the last save. R runs"),
    (given(AGREES, DIFFERS, results={1: result(1, AGREES)}), "check", "1 case did not run: it was"),
    (given(AGREES, DIFFERS, results={}), "check", "no case has run yet. R"),
    (given(AGREES, DIFFERS, results={1: result(1, AGREES)}), "pinpoint", "some cases did not run"),
    (given(DIFFERS, broken={1: broken(3)}), "check", "total > 0 does not hold in case 1, line 2"),
    (given(DIFFERS), "trace", "press T in Check"),
    (given(DIFFERS, tracing=5), "trace", "wait for the recording"),
    (given(DIFFERS, doing="Looking for a > 1."), "trace", "Looking for a > 1. Esc stops it"),
    (given(DIFFERS, traced=traced()), "trace", "say first what will change. O goes"),
    (given(DIFFERS, traced=traced(at(2))), "trace", "Why was this True? X shows why"),
    (given(DIFFERS, traced=traced(at(2, 2))), "trace", "Why was this False? X shows why"),
    (given(DIFFERS, traced=traced(at(8))), "trace", "is this value what you expect? If not, F"),
    (given(DIFFERS, traced=traced(at(9))), "trace", "fare is called here. → goes into it"),
    (given(DIFFERS, traced=traced(at(3))), "trace", "did it give what you expect? ( lists every"),
    (given(DIFFERS, traced=traced(at(10))), "trace", "here it goes odd: expected 12. F shows"),
    (given(DIFFERS, traced=traced(at(3), stale=True)), "trace", "T records it anew"),
    (given(DIFFERS, traced=traced(at(3), veil=Veil(1, 2))), "trace", "read the line that is lifted"),
    (given(DIFFERS, traced=traced(5, broken=broken(5))), "trace", "does not hold here: total is 0."),
    (given(DIFFERS, traced=traced(5, broken=broken(7))), "trace", "at step 7: total is 0. O goes"),
    (given(DIFFERS, traced=traced(at(2), broken=broken(1))), "trace", "Why was this True?"),
    (given(DIFFERS), "pinpoint", "wait while small changes are tried"),
    (given(DIFFERS, search=Search()), "pinpoint", "press 2. Q asks you"),
    (given(DIFFERS, search=Search((LEAD,), guess_first=True)), "pinpoint", "G takes your guess"),
    (given(DIFFERS, search=Search(stopped=True)), "pinpoint", "the search was stopped. R"),
    (given(DIFFERS, stale=True), "pinpoint", "the program has changed. R"),
    (given(AGREES), "pinpoint", "no case is odd"),
    (given(), "pinpoint", "press 1: Check takes your first case"),
    (given(DIFFERS, search=Search((BETWEEN,))), "pinpoint", "read lines 2 and 3, and between. Do"),
    (given(DIFFERS, search=Search((SEVERAL,))), "pinpoint", "read lines 2 to 4 again. Do you"),
    (given(DIFFERS, search=Search((LOOK,), first=2)), "pinpoint", "M opens the program at that"),
    (given(DIFFERS, search=Search((LEAD,))), "pinpoint", "read line 2 again. Do you see it? Enter"),
    (given(DIFFERS, search=Search((LEAD,), first=1)), "pinpoint", "Enter uncovers how"),
    (given(DIFFERS, search=Search((LEAD,), first=2)), "pinpoint", "M takes this mend over"),
    (given(DIFFERS), "mend", "press E and change one thing"),
    (given(DIFFERS, draft=draft(SOURCE.text)), "mend", "change one thing; every case is tried"),
    (given(DIFFERS, stale=True, draft=draft(SOURCE.text)), "mend", "R runs the plan again"),
    (given(AGREES, draft=draft(SOURCE.text)), "mend", "every case agrees. L shows whether"),
    (given(DIFFERS, draft=draft(done=0)), "mend", "go on typing"),
    (given(DIFFERS, draft=draft(conflict=True)), "mend", "asks which of the two to keep"),
    (given(DIFFERS, draft=draft(fault=ProgramError("no"))), "mend", "cannot start yet"),
    (given(DIFFERS, draft=draft(after=(AGREES,))), "mend", "Ctrl+S keeps it in the file"),
    (given(AGREES, DIFFERS, draft=draft(after=(DIFFERS, AGREES))), "mend", "a case broke"),
    (given(DIFFERS, draft=draft(after=(DIFFERS,))), "mend", "no case is settled by it. Ctrl+Z"),
    (given(AGREES), "record", "R runs the plan; each run is recorded here"),
    (given(AGREES, record=Record((run(1), run(2)), cursor=1, marked=0)), "record", "D holds the two"),
    (given(AGREES, record=Record((run(1),), cursor=0, entries=(Entry(at=1.0),))), "record", "E opens"),
    (given(AGREES, record=Record((run(1),), cursor=0)), "record", "W writes a report"),
]  # fmt: skip


@pytest.mark.parametrize(("work", "station", "said"), LINES, ids=[f"{s}-{w}" for _, s, w in LINES])
def test_it_says_what_to_do_next(work, station, said):
    assert said in next_words(work, station)


@pytest.mark.parametrize(("work", "station", "said"), LINES, ids=[f"{s}-{w}" for _, s, w in LINES])
def test_every_key_it_names_does_something_at_that_station(work, station, said):
    words = next_words(work, station)
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


@pytest.mark.parametrize(("work", "station", "said"), LINES, ids=[f"{s}-{w}" for _, s, w in LINES])
def test_it_fits_into_eighty_columns(work, station, said):
    assert len("Next: " + next_words(work, station)) <= 78


def test_an_author_who_keeps_the_mend_covered_is_heard():
    work = given(DIFFERS, search=Search((LEAD,), first=1))
    work.checking.plan = msgspec.structs.replace(work.checking.plan, reveal="what")
    assert "uncovers how" not in next_words(work, "pinpoint")


def test_a_program_in_another_language_is_led_back_to_check():
    work = given(DIFFERS)
    work.checking.plan = msgspec.structs.replace(work.checking.plan, run=("./ferry",))
    for station in ("trace", "pinpoint"):
        assert "press 1 to go back to Check" in next_words(work, station)
    assert "D holds expected and actual" in next_words(work, "check")
