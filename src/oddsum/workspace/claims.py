"""What the learner says must hold: kept beside the program, held against every case."""

from __future__ import annotations

from oddsum.check.claims import check_claims
from oddsum.languages import cannot
from oddsum.model.claim import Broken, Claim
from oddsum.model.errors import OddSumError
from oddsum.plan.claims import moved, read_claims, write_claims
from oddsum.trace.claims import claims_for, first_broken
from oddsum.workspace.checking import Checking
from oddsum.workspace.interface import Interface, Part
from oddsum.workspace.jobs import Job, Jobs
from oddsum.workspace.tracing import Traced, Tracing


class Claims:
    """The claims of the program, and the first that each case breaks."""

    def __init__(
        self, checking: Checking, tracing: Tracing, jobs: Jobs, interface: Interface
    ) -> None:
        self._checking, self._tracing = checking, tracing
        self._jobs, self._interface = jobs, interface
        self.broken: dict[int, Broken] = {}  # by case number
        self._job: Job | None = None

    @property
    def all(self) -> tuple[Claim, ...]:
        """The claims there are."""
        return self._tracing.claims

    def read(self) -> None:
        """Read them; one whose line is gone is told, and stays in its file."""
        files = self._checking.files
        try:
            kept = read_claims(files.program)
        except OddSumError as error:
            self._interface.say(str(error), "warning", 10)
            return
        here = [moved(c, files.source) if files.source is not None else c for c in kept]
        self._tracing.claims = tuple(c for c in here if c is not None)
        for claim, now in zip(kept, here, strict=True):
            if now is None:
                self._interface.say(f"The line of the claim {claim.holds} is gone: {claim.text}")

    def here(self) -> tuple[Claim, ...]:
        """Those about the step in hand: its line, or what its function returns."""
        traced = self._tracing.walked
        return tuple(c for c in self.all if traced is not None and _is_about(c, traced))

    def make(self, holds: str) -> None:
        """Claim that something holds at the step in hand, in the place of what is claimed there.

        Nothing typed takes it away.
        """
        traced = self._tracing.walked
        if traced is None:
            return
        step, text = traced.story.step(traced.step), holds.strip()
        others = tuple(c for c in self.all if not _is_about(c, traced))
        made: tuple[Claim, ...] = ()
        if text and "return" in step.events:
            made = (Claim(holds=text, function=step.function),)
        elif text:
            file = step.statement.file
            source = self._checking.files.source_of(file)
            reads = source.lines[step.line - 1].strip() if source is not None else ""
            made = (Claim(holds=text, file=file, line=step.line, text=reads),)
        if not self._keep((*others, *made)):
            return
        broken = traced.broken
        if broken is not None:
            self._interface.say(
                f"{broken.claim.holds} does not hold at step {broken.step:,}: {broken.why}."
            )
        elif made:
            self._interface.say("It holds in this case, every time.")

    def _keep(self, claims: tuple[Claim, ...]) -> bool:
        """Keep other claims, and hold them against the recording in hand and all cases."""
        try:
            write_claims(self._checking.files.program, claims)
        except OddSumError as error:
            self._interface.say(str(error), "error", 10)
            return False
        self._tracing.claims = claims
        traced = self._tracing.traced
        if traced is not None:
            traced.broken = first_broken(traced.story, claims_for(claims, traced.case.name))
        self.check()
        self._interface.changed(Part.TRACE, Part.CASES)
        return True

    def check(self) -> None:
        """Hold the claims against every case, behind the scenes."""
        checking = self._checking
        plan, interpreter, results = checking.plan, checking.interpreter, checking.results
        self._jobs.cancel(self._job)
        self.broken = {}
        if plan is None or interpreter is None or not self.all or not results:
            return
        if cannot(plan, "trace"):
            return
        claims, of = self.all, tuple(results.values())

        def work(job: Job) -> dict[int, Broken]:
            return check_claims(plan, of, interpreter, claims, job.stop)

        self._job = self._jobs.start(
            "claims",
            work,
            done=self._take,
            failed=lambda fault: None,  # the check itself says what is wrong
            replaces=self._job,
        )

    def _take(self, broken: dict[int, Broken]) -> None:
        self.broken = broken
        self._interface.changed(Part.TRACE, Part.CASES)

    def stop(self) -> bool:
        """Stop holding them; nobody is told, for nobody was told that it began."""
        self._jobs.cancel(self._job)
        return False


def _is_about(claim: Claim, traced: Traced) -> bool:
    step = traced.story.step(traced.step)
    if "return" in step.events:
        return claim.function == step.function
    return claim.line == step.line and claim.file in ("", step.statement.file)
