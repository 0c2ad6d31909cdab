"""What the odd cases have in common, and no case that agrees: looked for behind the scenes."""

from __future__ import annotations

from collections.abc import Sequence

from oddsum.advise.pattern import Pattern, find_pattern
from oddsum.languages import cannot
from oddsum.languages.language import Interpreter
from oddsum.model.case import Plan
from oddsum.model.outcome import CaseResult
from oddsum.workspace.interface import Interface, Part
from oddsum.workspace.jobs import Job, Jobs


class Shared:
    """``pattern`` is None while it is not known, and where nothing can be said."""

    def __init__(self, jobs: Jobs, interface: Interface) -> None:
        self._jobs, self._interface = jobs, interface
        self.pattern: Pattern | None = None
        self._job: Job | None = None

    def forget(self) -> None:
        """The results are others now."""
        self._jobs.cancel(self._job)
        self.pattern = None

    def look(
        self, plan: Plan, interpreter: Interpreter | None, results: Sequence[CaseResult]
    ) -> None:
        """See what the odd ones of these results share; where that fails nothing is said."""
        if not any(r.outcome.odd for r in results):
            return
        by = None if cannot(plan, "advice") else interpreter
        self._job = self._jobs.start(
            "pattern",
            lambda job: find_pattern(plan, by, tuple(results), job.stop),
            done=self._take,
            failed=lambda fault: None,  # the program was changed: the next check looks again
            replaces=self._job,
        )

    def _take(self, pattern: Pattern | None) -> None:
        self.pattern = pattern
        self._interface.changed(Part.CASES)
