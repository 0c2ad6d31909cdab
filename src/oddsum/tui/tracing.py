"""Recording in the background: cases, and what is asked of a recording that takes its time."""

from __future__ import annotations

from functools import partial

from textual import on

from oddsum.model.case import Case
from oddsum.model.claim import Claim
from oddsum.model.errors import OddSumError
from oddsum.plan.claims import moved, read_claims, write_claims
from oddsum.source.asking import Question
from oddsum.source.reads import Reads, reads
from oddsum.source.walks import Walk, walks
from oddsum.tui import messages
from oddsum.tui.background import WorkingApp
from oddsum.tui.work import Traced


class TracingApp(WorkingApp):
    """Records cases, and looks things up in the recordings."""

    _wanted_step: int | None = None  # where the trace that is being opened is to be looked at

    def open_trace(
        self,
        case: Case,
        line: int | None = None,
        at_the_end: bool = False,
        step: int | None = None,
    ) -> None:
        """Record a case and go to it: at a step, the first visit of a line, or where it stopped."""
        from oddsum.tui.workers import record_case

        work = self.work
        if work.plan is None or work.fault is not None or work.interpreter is None:
            self.notify("The program cannot be run as it is.")
            return
        if work.plan.run:
            self.notify(f"Trace reads Python, and this plan runs {' '.join(work.plan.run)}.")
            return
        self._wanted_step = step
        traced = work.traced
        if traced is not None and not traced.stale and traced.case == case and line is not None:
            self._go_to_line(line)
            self.switch_mode("trace")
            return
        known = work.results.get(case.number)
        plain = known.run if known is not None and not known.stale else None
        work.trace_number += 1
        if traced is not None:
            work.earlier = traced
        work.tracing, work.traced = 0, None
        start = partial(
            record_case, self, work.trace_number, work.plan, case, work.interpreter, plain, line,
            at_the_end, work.watches, work.claims,
        )  # fmt: skip
        self._start("trace", start)
        self.switch_mode("trace")

    @on(messages.StepsRecorded)
    def steps_recorded(self, message: messages.StepsRecorded) -> None:
        """The recording goes on."""
        if self.work.tracing is not None and message.number == self.work.trace_number:
            self.work.tracing = message.count
            self.show()

    @on(messages.TraceEnded)
    def trace_ended(self, message: messages.TraceEnded) -> None:
        """The recording is there, or could not be made."""
        work = self.work
        if message.number != work.trace_number:
            return
        work.tracing = None
        self._take_fault(message.fault)
        if message.traced is not None:
            self._keep_place(message.traced)
            message.traced.source = work.source
            work.traced = message.traced
            if message.line is not None:
                self._go_to_line(message.line)
            elif message.at_the_end:
                story = message.traced.story
                work.traced.step = story.where_raised or story.last or 1
            for remark in message.traced.story.trace.remarks:
                self.notify(remark)
        self.show()

    def _go_to_line(self, line: int) -> None:
        traced = self.work.traced
        if traced is not None:
            step = self._wanted_step or traced.story.next_at({(self.work.program.name, line)}, 0)
            self._wanted_step = None
            traced.step = traced.story.nearest(step) if step else traced.step

    def _keep_place(self, traced: Traced) -> None:
        """A case that is recorded again is shown where one was before."""
        before = self.work.earlier
        if before is not None and before.case.number == traced.case.number and len(traced.story):
            traced.step = traced.story.nearest(before.step)
            traced.column = before.column
            unchanged = not before.stale and before.source == self.work.source
            if unchanged and not traced.story.same_steps(before.story):
                self.notify(
                    "This recording took other steps than the one before: the program depends on "
                    "something that changes, such as the clock. | shows where they part."
                )

    # -- what the source says ------------------------------------------------------------------

    def walks_of(self, file: str) -> tuple[Walk, ...]:
        """The loops of one of the program's files."""
        source = self.source_of(file)
        return walks(source) if source is not None else ()

    def reads_of(self, file: str) -> dict[int, Reads]:
        """What the statements of one of the program's files read and set."""
        source = self.source_of(file)
        return reads(source) if source is not None else {}

    # -- taking its time -----------------------------------------------------------------------

    def record_again(self) -> None:
        """Record the case in hand once more: with other watches, or after a save."""
        traced = self.work.traced
        if traced is not None:
            self.open_trace(traced.case)

    def take_apart(self, traced: Traced, file: str, line: int, visit: int) -> None:
        """Record the case again with the parts of one line at one of its visits."""
        from oddsum.tui.workers import take_apart

        work, source = self.work, self.source_of(file)
        if work.plan is None or work.interpreter is None or source is None:
            self.notify("The program cannot be run as it is.")
            return
        work.looking = f"Working out line {line} once more."
        self._start("looking", partial(
            take_apart, self, work.plan, traced, work.interpreter, source, line, visit
        ))  # fmt: skip
        self.show()

    def look_inside(self, traced: Traced) -> None:
        """Run the case once more, up to the step in hand, to see what lies inside of what."""
        from oddsum.tui.workers import look_inside

        work = self.work
        if work.plan is not None and work.interpreter is not None:
            self._start("inside", partial(look_inside, self, work.plan, traced, work.interpreter))

    @on(messages.InsideFound)
    def inside_found(self, message: messages.InsideFound) -> None:
        """It is known, or could not be told: the page that asked shows it, if it is still there."""
        from oddsum.tui.dialogs.ledger import LedgerPage

        page = self.screen
        asked = (message.traced, message.step)
        if isinstance(page, LedgerPage) and (page.traced, page.step) == asked:
            page.take(message.web, message.fault)

    @on(messages.LineApart)
    def line_apart(self, message: messages.LineApart) -> None:
        """The line is taken apart, or could not be."""
        self.work.looking = ""
        self.show()
        show = getattr(self.screen, "show_apart", None)
        if show is not None and message.traced is self.work.traced:
            show(message)

    def look_for(self, question: Question) -> None:
        """Look for the next step at which a question becomes true."""
        from oddsum.tui.workers import look_for

        traced = self.work.traced
        if traced is not None:
            self.work.looking = f"Looking for {question.text}."
            self._start("looking", partial(look_for, self, traced, question))
            self.show()

    @on(messages.LookedThrough)
    def looked_through(self, message: messages.LookedThrough) -> None:
        """The search has come so far."""
        if self.work.looking:
            self.work.looking = f"Looking for {message.what}: step {message.step:,}."
            self.show()

    @on(messages.MomentFound)
    def moment_found(self, message: messages.MomentFound) -> None:
        """The search is over."""
        self.work.looking = ""
        if message.traced is self.work.traced:
            if message.step is None:
                self.notify(f"{message.what}: at no later step.")
            else:
                message.traced.step = message.step
        self.show()

    # -- claims --------------------------------------------------------------------------------

    def read_files(self) -> None:
        """Read the claims as well; a claim whose line is gone is told, and kept in its file."""
        super().read_files()
        work = self.work
        try:
            kept = read_claims(work.program)
        except OddSumError as error:
            self.notify(str(error), severity="warning", timeout=10)
            return
        here = [moved(c, work.source) if work.source is not None else c for c in kept]
        work.claims = tuple(c for c in here if c is not None)
        for claim, now in zip(kept, here, strict=True):
            if now is None:
                self.notify(f"The line of the claim {claim.holds} is gone: {claim.text}")

    def change_claims(self, claims: tuple[Claim, ...]) -> None:
        """Keep other claims, and hold them against the recording in hand and all cases."""
        from oddsum.trace.claims import claims_for, first_broken

        work = self.work
        try:
            write_claims(work.program, claims)
        except OddSumError as error:
            self.notify(str(error), severity="error", timeout=10)
            return
        work.claims = claims
        if work.traced is not None:
            mine = claims_for(claims, work.traced.case.name)
            work.traced.broken = first_broken(work.traced.story, mine)
        self.hold_claims()
        self.show()

    def hold_claims(self) -> None:
        """Hold the claims against every case, behind the scenes."""
        from oddsum.tui.workers import hold_claims

        work = self.work
        work.broken = {}
        results = tuple(work.results.values())
        if work.plan is None or work.interpreter is None or work.plan.run:
            return
        if work.claims and results:
            self._start("claims", partial(
                hold_claims, self, work.plan, results, work.interpreter, work.claims
            ))  # fmt: skip

    @on(messages.ClaimsHeld)
    def claims_held(self, message: messages.ClaimsHeld) -> None:
        """Every case was held against the claims."""
        if message.claims == self.work.claims:
            self.work.broken = message.broken
            self.show()

    def plan_has_run(self) -> None:
        """Then the claims are held against it."""
        super().plan_has_run()
        self.hold_claims()
