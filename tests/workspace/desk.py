"""A workspace in a test: an interface that writes down what it is told, and jobs run by hand."""

from __future__ import annotations

import time
from collections import deque
from collections.abc import Callable
from pathlib import Path
from typing import Any

from oddsum.model.case import Case, Plan
from oddsum.model.outcome import CaseResult, Outcome, Run
from oddsum.workspace.interface import Choice, Part
from oddsum.workspace.jobs import Jobs
from oddsum.workspace.workspace import Workspace

Call = Callable[[], None]


class Desk:
    """The interface that a workspace sees. Nothing happens by itself: ``run`` lets it.

    ``answers`` are given to choices in turn, by their word; without one, a choice stays open.
    """

    def __init__(self) -> None:
        self.posted: deque[Call] = deque()
        self.work: deque[Call] = deque()  # of jobs that were begun and have not run
        self.timers: list[tuple[float, Call]] = []
        self.said: list[str] = []
        self.choices: list[tuple[Choice, Callable[[str], None]]] = []
        self.answers: list[str] = []
        self.parts: set[Part] = set()
        self.gone: list[str] = []

    def post(self, call: Call) -> None:
        self.posted.append(call)

    def later(self, seconds: float, call: Call) -> Call:
        timer = (seconds, call)
        self.timers.append(timer)
        return lambda: self.timers.remove(timer) if timer in self.timers else None

    def changed(self, *parts: Part) -> None:
        self.parts.update(parts)

    def say(self, text: str, weight: str = "information", seconds: float = 5.0) -> None:
        self.said.append(text)

    def choose(self, choice: Choice, then: Callable[[str], None]) -> None:
        if self.answers:
            then(self.answers.pop(0))
        else:
            self.choices.append((choice, then))

    def go(self, station: str) -> None:
        self.gone.append(station)

    # -- letting things happen ---------------------------------------------------------------

    def deliver(self) -> None:
        """Carry out what was posted, and what that posts."""
        while self.posted:
            self.posted.popleft()()

    def run(self) -> None:
        """Run the jobs that were begun, and those that follow from them, to their end."""
        self.deliver()
        while self.work:
            self.work.popleft()()
            self.deliver()

    def pass_time(self) -> None:
        """Let every timer that is set come to its end."""
        timers, self.timers = self.timers, []
        for _, call in timers:
            call()

    def heard(self, words: str) -> bool:
        return any(words in text for text in self.said)


def workspace(program: Path, python: str | None = None) -> tuple[Workspace, Desk]:
    """A workspace whose jobs wait until the desk runs them; saves are told by hand."""
    desk = Desk()
    made = Workspace(
        program,
        desk,
        python=python,
        jobs=Jobs(desk.post, lambda name, work: desk.work.append(work)),
    )
    made._watch_files = lambda: None  # it would wait for ever
    return made, desk


def until(holds: Callable[[], bool], desk: Desk, seconds: float = 30.0) -> None:
    """For jobs on threads of their own: deliver what they post until something holds."""
    end = time.monotonic() + seconds
    while not holds():
        assert time.monotonic() < end, "it never came to hold"
        desk.deliver()
        time.sleep(0.002)


def result(number: int, outcome: Outcome, stale: bool = False) -> CaseResult:
    return CaseResult(
        number=number, name=str(number), kind="normal", outcome=outcome, checked=(), expected=None,
        actual="", difference=None, run=Run(ending="ended"), stale=stale,
    )  # fmt: skip


class UnderWay:
    """Stands for a job that has not ended."""

    over = False


_PLACES = {
    "fault": "checking", "plan": "checking", "results": "checking", "broken": "claims",
    "traced": "tracing", "search": "pinpointing", "draft": "mending", "record": "recording",
    "doing": "lookups",
}  # fmt: skip


def given(*outcomes: Outcome, stale: bool = False, begun: bool = True, **more: Any) -> Workspace:
    """The work on a program whose cases came out like this.

    ``more`` are attributes of the stations' objects; ``checking`` and ``tracing`` say that a job of
    theirs is under way.
    """
    made, _ = workspace(Path("ferry.py"))
    made.begun = begun
    cases = tuple(Case(number=n, name=str(n), stdin="") for n, _ in enumerate(outcomes, 1))
    made.checking.plan = Plan(program=Path("ferry.py"), cases=cases)
    made.checking.results = {n: result(n, o, stale) for n, o in enumerate(outcomes, 1)}
    if more.pop("checking", None) is not None:
        made.checking.job = UnderWay()
    if more.pop("tracing", None) is not None:
        made.tracing._job = UnderWay()
    for name, value in more.items():
        setattr(getattr(made, _PLACES[name]), name, value)
    return made
