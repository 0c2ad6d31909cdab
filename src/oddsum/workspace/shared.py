"""What the odd cases have in common, and no case that agrees: looked for behind the scenes."""

from __future__ import annotations

from typing import TYPE_CHECKING

from oddsum.advise.pattern import Pattern, find_pattern
from oddsum.languages import cannot
from oddsum.workspace.interface import Interface, Part
from oddsum.workspace.jobs import Job, Jobs

if TYPE_CHECKING:
    from oddsum.workspace.checking import Checking


class Shared:
    """``pattern`` is None while it is not known, and where nothing can be said."""

    def __init__(self, checking: Checking, jobs: Jobs, interface: Interface) -> None:
        self._checking, self._jobs, self._interface = checking, jobs, interface
        self.pattern: Pattern | None = None
        self._job: Job | None = None

    def forget(self) -> None:
        """The results are others now."""
        self._jobs.cancel(self._job)
        self.pattern = None

    def look(self) -> None:
        """See what the odd cases share; where that fails nothing is said."""
        checking = self._checking
        plan, results = checking.plan, checking.in_order()
        if plan is None or not checking.odd():
            return
        interpreter = None if cannot(plan, "advice") else checking.interpreter
        self._job = self._jobs.start(
            "pattern",
            lambda job: find_pattern(plan, interpreter, results, job.stop),
            done=self._take,
            failed=lambda fault: None,  # the program was changed: the next check looks again
            replaces=self._job,
        )

    def _take(self, pattern: Pattern | None) -> None:
        self.pattern = pattern
        self._interface.changed(Part.CASES)
