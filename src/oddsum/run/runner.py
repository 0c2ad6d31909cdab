"""What runs the cases of a plan: the learner's interpreter, or the plan's own command."""

from __future__ import annotations

import threading

from oddsum.languages.language import Interpreter
from oddsum.model.case import Case, Plan
from oddsum.model.outcome import Run
from oddsum.run.begin import beginning
from oddsum.run.case import run_case
from oddsum.run.command import run_command
from oddsum.run.scratch import Removable, Scratch


class Runner(Removable):
    """Runs cases one after the other; a context manager."""

    def run(self, case: Case, scratch: Scratch, stop: threading.Event | None = None) -> Run:
        """Run a case in a scratch folder, which is put back afterwards."""
        raise NotImplementedError


class ProbeRunner(Runner):
    """Runs programs in a probe: each case a fork of one that waits, or one of its own."""

    def __init__(self, plan: Plan, interpreter: Interpreter) -> None:
        self.plan, self.host = plan, beginning(interpreter)

    def run(self, case: Case, scratch: Scratch, stop: threading.Event | None = None) -> Run:
        """Run a case; raises StartError, RunError."""
        return run_case(self.plan, case, scratch, self.host.start, stop)

    def remove(self) -> None:
        """End the waiting interpreter."""
        self.host.remove()


class CommandRunner(Runner):
    """Runs programs in other languages."""

    def __init__(self, plan: Plan) -> None:
        self.plan = plan

    def run(self, case: Case, scratch: Scratch, stop: threading.Event | None = None) -> Run:
        """Run a case; raises RunError where the command cannot be started."""
        return run_command(self.plan, case, scratch, stop)

    def remove(self) -> None:
        """Nothing waits."""


def runner_of(plan: Plan, interpreter: Interpreter) -> Runner:
    """What runs this plan."""
    return CommandRunner(plan) if plan.run else ProbeRunner(plan, interpreter)
