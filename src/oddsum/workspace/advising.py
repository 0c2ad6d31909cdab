"""What no case tries: limits, branches, kinds; with inputs that would."""

from __future__ import annotations

from oddsum.advise.advice import Advice, advise
from oddsum.languages import cannot
from oddsum.model.errors import OddSumError
from oddsum.workspace.checking import Checking
from oddsum.workspace.interface import Interface, Part
from oddsum.workspace.jobs import Job, Jobs, under_way


class Advising:
    """Looks the plan over, behind the scenes, once for each state of program and plan.

    ``fault`` says why that could not be done; it was told, too.
    """

    def __init__(self, checking: Checking, jobs: Jobs, interface: Interface) -> None:
        self._checking, self._jobs, self._interface = checking, jobs, interface
        self.advice: Advice | None = None
        self.failed = False
        self._job: Job | None = None

    @property
    def busy(self) -> bool:
        """Whether it is being looked for."""
        return under_way(self._job)

    def forget(self) -> None:
        """Program or plan is another now."""
        self._jobs.cancel(self._job)
        self.advice = None

    def stop(self) -> bool:
        """Stop looking; says whether it was looked for."""
        was = self.busy
        self._jobs.cancel(self._job)
        return was

    def refusal(self) -> str:
        """Why nothing can be said now; blank where it can."""
        checking = self._checking
        if checking.plan is None or checking.fault is not None or checking.interpreter is None:
            return "Advice reads the program as it runs: add a case first. A adds one."
        refusal = cannot(checking.plan, "advice")
        if refusal:
            return refusal
        if not checking.settled():
            return "Wait until the plan has run. R runs it."
        return ""

    def look(self) -> None:
        """See what no case tries, where it is not known yet."""
        if self.refusal() or self.advice is not None or self.busy:
            return
        plan, interpreter = self._checking.plan, self._checking.interpreter
        results = self._checking.in_order()
        assert plan is not None and interpreter is not None
        self.failed = False

        def work(job: Job) -> Advice:
            return advise(plan, interpreter, results, job.stop)

        self._job = self._jobs.start("advice", work, done=self._take, failed=self._refuse)

    def _take(self, advice: Advice) -> None:
        self.advice = advice
        self._interface.changed(Part.CASES)

    def _refuse(self, fault: OddSumError) -> None:
        self.failed = True
        self._checking.take_fault(fault)
        self._interface.changed(Part.CASES)
