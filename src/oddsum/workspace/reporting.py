"""The report: one file with all of it, to hand in or to ask for help with."""

from __future__ import annotations

from pathlib import Path

from oddsum.formats.table import write
from oddsum.model.errors import OddSumError
from oddsum.record.assemble import assemble, format_of
from oddsum.record.history import History
from oddsum.source.save import replace_file
from oddsum.workspace.checking import Checking
from oddsum.workspace.interface import Choice, Interface
from oddsum.workspace.jobs import Job, Jobs
from oddsum.workspace.pinpointing import Pinpointing, told_with
from oddsum.workspace.tracing import Tracing


class Reporting:
    """Writes the report, once the plan has run."""

    def __init__(
        self,
        checking: Checking,
        tracing: Tracing,
        pinpointing: Pinpointing,
        history: History,
        jobs: Jobs,
        interface: Interface,
    ) -> None:
        self._checking, self._tracing, self._pinpointing = checking, tracing, pinpointing
        self._history, self._jobs, self._interface = history, jobs, interface
        self._job: Job | None = None

    def may_write(self) -> bool:
        """Whether there is something to tell; says why where there is not."""
        if not self._checking.complete() or self._checking.fault is not None:
            self._interface.say(
                "A report tells how the cases came out: wait until the plan has run."
            )
            return False
        return True

    def usual_path(self) -> Path:
        """Where it is written unless another place is named."""
        program = self._checking.files.program
        return program.resolve().parent / f"{program.stem}-report.html"

    @staticmethod
    def check_path(text: str) -> None:
        """Refuse a path that nothing can be written to; raises OddSumError."""
        path = _path(text)
        format_of(path)
        if not path.absolute().parent.is_dir():
            raise OddSumError(f"There is no folder {path.absolute().parent}.")

    def write(self, text: str, over: bool = False) -> None:
        """Write it to a path as it was typed; a file that is there is asked about first."""
        path = _path(text)
        if path.exists() and not over:
            answers = (("leave", "Leave it"), ("over", "Write over it"))
            said = (f"{path.name} is there already, from before.",)
            choice = Choice("THE FILE IS THERE", said, answers)
            self._interface.choose(
                choice, lambda answer: self.write(text, over=True) if answer == "over" else None
            )
            return
        checking, history = self._checking, self._history
        plan, interpreter, results = checking.plan, checking.interpreter, checking.in_order()
        assert plan is not None and interpreter is not None
        search, traced = self._pinpointing.search, self._tracing.traced
        leads = told_with(search) if search is not None and not search.stale else []
        chosen = [traced.case] if traced is not None and traced.case in checking.cases else []

        def work(job: Job) -> tuple[str, ...]:
            made, remarks = assemble(plan, interpreter, history, chosen=chosen, results=results,
                                     leads=leads, stop=job.stop)  # fmt: skip
            replace_file(path, write("report", format_of(path), made).encode("utf-8"))
            return remarks

        self._interface.say(f"Writing {path.name}.")
        self._job = self._jobs.start(
            "report",
            work,
            done=lambda remarks: self._written(path, remarks),
            failed=lambda fault: self._interface.say(str(fault), "error", 15),
            replaces=self._job,
        )

    def _written(self, path: Path, remarks: tuple[str, ...]) -> None:
        told = f"The report is written: {path.name}, in {path.parent}."
        self._interface.say(told, seconds=10)
        for remark in remarks:
            self._interface.say(remark, "warning", 15)


def _path(text: str) -> Path:
    return Path(text.strip()).expanduser()
