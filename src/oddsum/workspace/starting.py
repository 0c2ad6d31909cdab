"""Whether a program without a plan can start: nothing runs then that would tell."""

from __future__ import annotations

from oddsum.check.starts import look_whether_it_starts
from oddsum.languages import language_of
from oddsum.model.errors import OddSumError, StartError
from oddsum.workspace.checking import Checking
from oddsum.workspace.jobs import Job, Jobs


class Starting:
    """Asks the program's own interpreter, behind the scenes; Check shows what is in the way."""

    def __init__(self, checking: Checking, jobs: Jobs) -> None:
        self._checking, self._jobs = checking, jobs
        self._job: Job | None = None

    def look(self) -> None:
        """Look, where no check does."""
        checking, program = self._checking, self._checking.files.program
        language = language_of(program)
        if checking.plan is not None or checking.fault is not None or "trace" not in language.can:
            return

        def work(job: Job) -> None:
            interpreter = language.running.find_interpreter(program, checking.python)
            look_whether_it_starts(program, interpreter)

        self._job = self._jobs.start(
            "starts", work, done=lambda _: None, failed=self._take, replaces=self._job
        )

    def _take(self, fault: OddSumError) -> None:
        if self._checking.plan is None and isinstance(fault, StartError):
            self._checking.take_fault(fault)
