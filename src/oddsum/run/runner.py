"""What runs the cases of a plan: the learner's interpreter, or the plan's own command."""

from __future__ import annotations

import threading

from oddsum.languages.language import Interpreter
from oddsum.model.case import Case, Plan
from oddsum.model.outcome import Run
from oddsum.run.case import run_case
from oddsum.run.command import run_command
from oddsum.run.removable import Removable
from oddsum.run.rooms import Room
from oddsum.run.scratch import Scratch
from oddsum.run.spare import beginning
from oddsum.run.terms import Terms, terms_of


class Runner(Removable):
    """Runs cases one after the other; a context manager. Scratch copies are made in its room."""

    @property
    def room(self) -> Room:
        """Where they are made."""
        raise NotImplementedError

    def run(self, case: Case, scratch: Scratch, stop: threading.Event | None = None) -> Run:
        """Run a case in a scratch folder, which is put back afterwards."""
        raise NotImplementedError

    def warm(self) -> None:
        """Let what the first case would wait for begin already; raises RunError."""


class ProbeRunner(Runner):
    """Runs programs in a probe: each case a fork of one that waits, or one of its own."""

    def __init__(self, plan: Plan, interpreter: Interpreter, terms: Terms) -> None:
        self.plan, self.host = plan, beginning(interpreter, terms)

    @property
    def room(self) -> Room:
        """Where its scratch copies are made."""
        return self.host.room

    def run(self, case: Case, scratch: Scratch, stop: threading.Event | None = None) -> Run:
        """Run a case; raises StartError, RunError."""
        return run_case(self.plan, case, scratch, self.host.start, stop)

    def warm(self) -> None:
        """Start the interpreter that waits."""
        self.host.warm()

    def remove(self) -> None:
        """End the waiting interpreter."""
        self.host.remove()


class CommandRunner(Runner):
    """Runs programs in other languages."""

    def __init__(self, plan: Plan, terms: Terms) -> None:
        self.plan, self._room = plan, Room(terms)

    @property
    def room(self) -> Room:
        """Where its scratch copies are made."""
        return self._room

    def run(self, case: Case, scratch: Scratch, stop: threading.Event | None = None) -> Run:
        """Run a case; raises RunError where the command cannot be started."""
        return run_command(self.plan, case, scratch, stop)

    def remove(self) -> None:
        """Nothing waits but the room."""
        self._room.remove()


def runner_of(plan: Plan, interpreter: Interpreter, fenced: bool = False) -> Runner:
    """What runs this plan; ``fenced``: behind the fence whatever the plan says."""
    terms = terms_of(plan, fenced)
    return CommandRunner(plan, terms) if plan.run else ProbeRunner(plan, interpreter, terms)
