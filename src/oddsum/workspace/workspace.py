"""The work in hand: an object a station, and what happens in one that matters to the others."""

from __future__ import annotations

from functools import partial
from pathlib import Path

from oddsum.mend.effect import effect_of
from oddsum.mend.words import effect_words
from oddsum.model.case import Case, Plan
from oddsum.model.history import Version
from oddsum.model.lead import Lead
from oddsum.model.outcome import CaseResult, Outcome
from oddsum.record.history import History
from oddsum.run.leftovers import sweep_saves
from oddsum.run.watch import changes
from oddsum.workspace.advising import Advising
from oddsum.workspace.archive import Archive
from oddsum.workspace.autosave import Autosave
from oddsum.workspace.breakpoints import Breakpoints
from oddsum.workspace.checking import Checking
from oddsum.workspace.claims import Claims
from oddsum.workspace.files import Files
from oddsum.workspace.interface import EVERYTHING, Interface, Part, StationName
from oddsum.workspace.jobs import Job, Jobs
from oddsum.workspace.lookups import Lookups
from oddsum.workspace.mending import Mending
from oddsum.workspace.pinpointing import Pinpointing, told_with
from oddsum.workspace.planning import Planning
from oddsum.workspace.preferences import Preferences
from oddsum.workspace.recording import Recording
from oddsum.workspace.reporting import Reporting
from oddsum.workspace.starting import Starting
from oddsum.workspace.tracing import Tracing, Wish
from oddsum.workspace.tries import Tries
from oddsum.workspace.walking import Walking

_FINISHES = frozenset({"record", "keep", "report"})  # jobs that a closing window lets end


class Workspace:
    """Owns the stations' objects. What one of them tells, is passed on here and nowhere else.

    ``plan_file`` and ``python`` are what the command line named; ``jobs`` where a test has its own.
    """

    def __init__(
        self,
        program: Path,
        interface: Interface,
        plan_file: Path | None = None,
        python: str | None = None,
        jobs: Jobs | None = None,
    ) -> None:
        self._interface = interface
        self.jobs = jobs or Jobs(interface.post)
        self.history = History(program)
        self.begun = False  # whether the files have been read once
        self.station: StationName = "check"  # where the user is
        self.watching = False  # whether saves are noticed
        self._led: list[tuple[Lead, int]] = []  # leads before the last change that was kept
        self._watch: Job | None = None
        rest = (self.jobs, interface)
        archive = Archive(self.history, *rest)

        self.files = Files(program)
        self.checking = Checking(self.files, *rest)
        self.checking.plan_file = plan_file
        self.starting = Starting(self.checking, self.jobs)
        self.planning = Planning(self.checking, interface)
        self.advising = Advising(self.checking, *rest)
        self.tracing = Tracing(self.checking, *rest)
        self.lookups = Lookups(self.checking, self.tracing, *rest)
        self.breakpoints = Breakpoints(self.files, self.tracing, interface)
        self.walking = Walking(self.tracing, self.breakpoints, interface)
        self.claims = Claims(self.checking, self.tracing, *rest)
        self.pinpointing = Pinpointing(self.checking, self.tracing, archive, *rest)
        self.tries = Tries(self.checking, archive, interface)
        self.mending = Mending(self.checking, self.pinpointing, self.tries, self.history, *rest)
        self.autosave = Autosave(self.files, self.mending, archive, interface)
        self.archive = archive
        self.recording = Recording(self.checking, self.tries, archive, interface)
        self.reporting = Reporting(
            self.checking, self.tracing, self.pinpointing, self.history, *rest
        )
        self.preferences = Preferences(
            self.checking, self.tracing, self.pinpointing, interface, python
        )

        self.checking.begins = self._check_begins
        self.checking.completed = self._plan_has_run
        self.checking.reread = self.read_files
        self.mending.paused = self.autosave.save
        self.mending.kept = self._change_kept

    # -- beginning and ending ----------------------------------------------------------------

    def begin(self) -> None:
        """Read the files, run the plan where there is one, and look at what the record has."""
        sweep_saves(self.files.folder)
        self.read_files()
        self.begun = True
        if self.checking.plan is not None:
            self.checking.check_all()
        else:
            self.starting.look()
        self.recording.read()
        self.autosave.look()
        self.preferences.say_fault()
        self.preferences.ask()
        self._watch_files()
        self._interface.changed(*EVERYTHING)

    def close(self) -> None:
        """The window goes away; what is being written is written to its end."""
        self.jobs.close(but_not=_FINISHES)

    def read_files(self) -> None:
        """Read program, plan and claims as they are on disk; what is in hand follows them."""
        self.checking.read()
        self.claims.read()
        self.planning.follow_file()
        self.mending.follow_file()

    def _watch_files(self) -> None:
        """Hear of every save beside the program and beside its plan."""
        plan = self.checking.plan or Plan(program=self.files.program)

        def work(job: Job) -> None:
            ready = partial(job.tell, self._watches, True)
            for paths in changes(plan.program, plan.file, job.stop, ready):
                if paths:
                    job.tell(self.files_changed, paths)

        self._watch = self.jobs.start(
            "watch",
            work,
            done=lambda _: None,
            failed=lambda fault: self._interface.say(str(fault), "warning", 15),
            replaces=self._watch,
        )

    def _watches(self, watching: bool) -> None:
        self.watching = watching

    # -- what happens ------------------------------------------------------------------------

    def files_changed(self, paths: frozenset[Path]) -> None:
        """A save: what is shown is stale until the plan has run again."""
        checking, had_fault = self.checking, self.checking.fault is not None
        before = self.files.source and self.files.source.text, checking.plan
        self.read_files()
        foreign = self.files.foreign(paths)
        fine = checking.fault is None and not had_fault
        if fine and not foreign:
            return  # written from here: it has been dealt with
        same = before == (self.files.source and self.files.source.text, checking.plan)
        if fine and same and all(p.suffix == ".toml" for p in paths):
            return  # another program's plan, or our own writing of this one
        if fine and same and checking.plan is not None and all(map(checking.ran_with, paths)):
            return  # saved again without a change
        self._program_changed()
        if checking.fault is None and checking.plan is not None:
            checking.check_all()
        self.starting.look()
        self.preferences.ask()
        self._interface.changed(*EVERYTHING)

    def _program_changed(self) -> None:
        """Nothing that was found out is of the program as it is now."""
        self.checking.make_stale()
        self.advising.forget()
        self.tracing.make_stale()
        self.pinpointing.make_stale(program_changed=True)

    def _check_begins(self) -> None:
        self.advising.forget()
        self.pinpointing.make_stale(program_changed=False)

    def _plan_has_run(self) -> None:
        """Every case has a result of the program as it is now."""
        self.claims.check()
        self._say_what_was_settled()
        self.recording.write_run()
        self.mending.try_again()
        if self.station == "pinpoint":
            self.pinpointing.begin()

    def _change_kept(self) -> None:
        """A change is in its file now. How far leads were uncovered is of the text before."""
        search = self.pinpointing.search
        self._led = told_with(search) if search is not None else []
        self.read_files()
        self._program_changed()
        self.autosave.save()
        if self.checking.fault is None and self.checking.cases:
            self.checking.check_all()

    def _say_what_was_settled(self) -> None:
        """After a change was kept: what the whole plan says of it now."""
        mending = self.mending
        if not mending.edits:
            return
        effect, edits = effect_of(mending.before, self.checking.results), mending.edits
        mending.edits = ()
        self._interface.say(f"Kept. {effect_words(effect)}", seconds=10)
        if effect.settled and mending.source is not None:
            self.recording.begin_page(edits, effect.settled, mending.source, self._led)
        if not self.checking.odd():
            self.advising.look()

    # -- going about -------------------------------------------------------------------------

    def go(self, station: StationName) -> None:
        """Go to a station. Trace opens on the shortest odd case where nothing is recorded."""
        if station == "trace" and self.tracing.traced is None and not self.tracing.busy:
            if self.tracing.open_shortest_odd():
                return
        self._interface.go(station)

    def arrived(self, station: StationName) -> None:
        """The user is at a station now: what it needs is begun."""
        self.station = station
        if station == "pinpoint":
            self.pinpointing.begin()
        elif station == "mend":
            self.mending.open()

    def trace_case_in_hand(self) -> None:
        """Follow the case in hand at Check; one that stopped, where it stopped."""
        case = self.checking.case_in_hand()
        if case is None:
            return
        if case.disabled:
            self._interface.say("This case is set aside. - takes it back into the plan.")
            return
        result = self.checking.results.get(case.number)
        stopped = result is not None and result.outcome is Outcome.STOPPED
        self.tracing.open(case, Wish(at_the_end=stopped))

    def trace_from_mend(self, case: Case) -> None:
        """Follow a case in the program as its file has it."""
        draft = self.mending.draft
        if draft is not None and draft.changed:
            self._interface.say(
                "Trace follows the program as its file has it: keep your change first, or put it "
                "back."
            )
        else:
            self.tracing.open(case)

    def newest_result(self, number: int) -> CaseResult | None:
        """How a case came out with the change in hand; else, in the program as its file has it."""
        draft = self.mending.draft
        tried = draft.results if draft is not None and draft.changed else {}
        return tried.get(number) or self.checking.results.get(number)

    def mend(self) -> None:
        """Change the program: at the lead in hand, or at the line where the user is."""
        lead, traced = self.pinpointing.lead_in_hand(), self.tracing.walked
        fault = self.checking.fault
        if self.station == "pinpoint" and lead is not None:
            if not self.mending.take_over(lead):
                return
        elif self.station == "trace" and traced is not None and not traced.stale:
            step = traced.story.step(traced.step)
            self.mending.open(step.statement.file, step.line)
        elif self.station == "check" and fault is not None and fault.line:
            self.mending.open(fault.file or "", fault.line)
        self.go("mend")

    def put_run_back(self) -> None:
        """Take the program of the run in hand at Record up in Mend."""
        run, _ = self.recording.record.run_in_hand()
        if run is None:
            return
        number = self.recording.record.number_of(self.recording.record.cursor)

        self.recording.read_versions((0, run.version), lambda found: self._put_back(number, *found))

    def _put_back(self, number: int, now: Version | None, then: Version | None) -> None:
        if now is None or then is None:
            self._interface.say("That program is not in the record.")
            return
        names = [n for n, text in then.files.items() if now.files.get(n) != text]
        if not names:
            self._interface.say("The program is the same as in that run.")
            return
        words = f"the program of run {number}"
        if not self.mending.take_version(names[0], then.files[names[0]], words):
            return
        self.go("mend")
        if len(names) > 1:
            others = ", ".join(names[1:])
            self._interface.say(f"Also changed since: {others}. Put them back one by one.")

    def result_in_hand(self) -> int:
        """The number of the case that the user is looking at."""
        traced = self.tracing.traced
        if self.station == "trace" and traced is not None:
            return traced.case.number
        return self.checking.selected

    def stop(self) -> None:
        """Stop what is running, at once; what was found stays. A try is stopped first, alone."""
        if self.mending.stop():
            return
        stations = (self.checking, self.tracing, self.pinpointing, self.advising, self.lookups,
                    self.claims)  # fmt: skip
        if any([station.stop() for station in stations]):
            self._interface.say("Stopped. R runs the plan again.")
            self._interface.changed(Part.CASES, Part.TRACE, Part.LEADS)
