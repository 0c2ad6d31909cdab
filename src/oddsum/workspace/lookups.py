"""Questions about a recording that take their time: one at a time, and each can be stopped."""

from __future__ import annotations

from collections.abc import Callable

from oddsum.check.apart import line_apart
from oddsum.check.containment import containment_at
from oddsum.languages.questions import Question
from oddsum.model.errors import OddSumError
from oddsum.trace.containment import Containment
from oddsum.trace.nodes import scalar_text
from oddsum.trace.parts import Apart
from oddsum.trace.search import first_true, steps_with
from oddsum.workspace.checking import Checking
from oddsum.workspace.interface import Interface, Part
from oddsum.workspace.jobs import Job, Jobs, under_way
from oddsum.workspace.tracing import Traced, Tracing


class Lookups:
    """What is being looked for in the recording in hand. ``doing`` tells it; blank for nothing."""

    def __init__(
        self, checking: Checking, tracing: Tracing, jobs: Jobs, interface: Interface
    ) -> None:
        self._checking, self._tracing = checking, tracing
        self._jobs, self._interface = jobs, interface
        self.doing = ""
        self._job: Job | None = None
        self._inside: Job | None = None

    def take_apart(self, file: str, line: int, visit: int, show: Callable[[Apart], None]) -> None:
        """Record the case again with the parts of one line at one of its visits."""
        plan, interpreter = self._checking.plan, self._checking.interpreter
        traced, source = self._tracing.walked, self._checking.files.source_of(file)
        if plan is None or interpreter is None or source is None or traced is None:
            self._interface.say("The program cannot be run as it is.")
            return
        case = traced.case

        def take(apart: Apart) -> None:
            self._ended()
            if self._tracing.traced is traced:
                show(apart)

        self._begin(
            f"Working out line {line} once more.",
            lambda job: line_apart(plan, case, interpreter, source, line, visit, job.stop),
            take,
        )

    def find(self, question: Question) -> None:
        """Go to the next step at which a question becomes true, or at which a value turns up."""
        traced = self._tracing.walked
        if traced is None:
            return
        story, start = traced.story, traced.step

        def work(job: Job) -> tuple[str, int | None]:
            if not question.names:  # no condition, but a value: where does it turn up next?
                value = scalar_text(question.ask({}))
                return value, steps_with(story, value, start, job.stop)
            return question.text, first_true(
                story, question, start, stop=job.stop,
                on_progress=lambda step: job.went(
                    self._went, f"Looking for {question.text}: step {step:,}."
                ),
            )  # fmt: skip

        def take(found: tuple[str, int | None]) -> None:
            self._ended()
            if self._tracing.traced is traced:
                self._tracing.go(found[1], f"{found[0]}: at no later step.")

        self._begin(f"Looking for {question.text}.", work, take)

    def look_inside(self, traced: Traced, take: Callable[[Containment | None, str], None]) -> None:
        """Run the case once more, up to the step in hand, to see what lies inside of what.

        ``take`` gets what is known then, or why that could not be found out.
        """
        plan, interpreter = self._checking.plan, self._checking.interpreter
        if plan is None or interpreter is None:
            return
        case, step, run = traced.case, traced.step, traced.result.run
        self._inside = self._jobs.start(
            "inside",
            lambda job: containment_at(plan, case, interpreter, step, run, job.stop),
            done=lambda containment: take(containment, ""),
            failed=lambda fault: take(None, str(fault)),
            replaces=self._inside,
        )

    def _begin(self, doing: str, work: Callable[[Job], object], take: Callable[..., None]) -> None:
        self.doing = doing
        self._job = self._jobs.start(
            "looking", work, done=take, failed=self._failed, replaces=self._job
        )
        self._interface.changed(Part.COUNT)

    def _went(self, doing: str) -> None:
        self.doing = doing
        self._interface.changed(Part.COUNT)

    def _ended(self) -> None:
        self.doing = ""
        self._interface.changed(Part.COUNT)

    def _failed(self, fault: OddSumError) -> None:
        self._ended()
        self._interface.say(str(fault), "error")

    def stop(self) -> bool:
        """Stop looking; says whether something was looked for."""
        was = bool(self.doing) or under_way(self._inside)
        for job in (self._job, self._inside):
            self._jobs.cancel(job)
        self.doing = ""
        return was
