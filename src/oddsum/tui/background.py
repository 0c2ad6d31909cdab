"""What goes on behind the screens: files are read, plans checked, cases recorded, leads sought."""

from __future__ import annotations

import time
from collections.abc import Callable
from functools import partial
from pathlib import Path

from textual import on
from textual.app import App
from textual.timer import Timer

from oddsum.compare.told import since_words
from oddsum.model.answer import AT_LINE, Said
from oddsum.model.case import Case, Plan
from oddsum.model.errors import OddSumError, StartError
from oddsum.model.outcome import Outcome
from oddsum.plan.find import choose_plan
from oddsum.source.program import Source, find_program, read_source
from oddsum.tui import messages
from oddsum.tui.work import Search, Work

_STOPPABLE = ("check", "trace", "search", "pattern", "advice", "looking", "inside", "claims")
_SHOW_EVERY = 0.1  # seconds between two pictures of results that are coming in


class WorkingApp(App[None]):
    """Holds the work in hand, starts what runs in the background, and takes what it tells."""

    def __init__(self, program: Path, plan_file: Path | None, python: str | None) -> None:
        super().__init__()
        self.work = Work(program, plan_file, python)
        self._sources: dict[str, Source | None] = {}
        self._showing: Timer | None = None
        self.written: dict[Path, str] = {}  # files that were saved here, as they were then

    def show(self) -> None:
        """Bring what is on the screen up to date; ``app.py`` knows what that is."""
        raise NotImplementedError

    def action_go(self, station: str) -> None:
        """Go to a station; ``app.py`` has them."""
        raise NotImplementedError

    def limited(self, plan: Plan) -> Plan:
        """A plan with the user's limits where it has none; ``choices.py`` knows them."""
        return plan

    # -- reading the files -------------------------------------------------------------------

    def read_files(self) -> None:
        """Read program and plan as they are on disk; what is wrong with them becomes a fault."""
        from oddsum.plan.read import read_plan

        work = self.work
        work.fault, self._sources = None, {}
        try:
            work.source = read_source(find_program(work.program))
            path = choose_plan(work.program, work.plan_file)
            plan = read_plan(path, work.program) if path is not None else None
            work.plan = self.limited(plan) if plan is not None else None
        except OddSumError as error:
            work.fault = error
        numbers = [c.number for c in work.plan.cases] if work.plan else []
        if work.selected not in numbers:
            work.selected = numbers[0] if numbers else 0

    def source_of(self, file: str) -> Source | None:
        """One of the learner's files, by the name that steps and leads give it."""
        if file not in self._sources:
            try:
                path = self.work.program.resolve().parent / file
                self._sources[file] = read_source(path, file)
            except OddSumError:
                self._sources[file] = None
        return self._sources[file]

    @on(messages.FilesChanged)
    def files_changed(self, message: messages.FilesChanged) -> None:
        """A save: what is shown is stale until the plan has run again."""
        work = self.work
        before, had_fault = (work.source and work.source.text, work.plan), work.fault is not None
        self.read_files()
        own = {p for p in message.paths if self._as_written(p)}
        if own == message.paths and work.fault is None and not had_fault:
            return
        for path in message.paths - own:
            self.written.pop(path, None)  # somebody else's now, even if it comes back
        same = before == (work.source and work.source.text, work.plan)
        if (
            same
            and not had_fault
            and work.fault is None
            and all(p.suffix == ".toml" for p in message.paths)
        ):
            return  # another program's plan, or our own writing of this one
        work.make_stale()
        if work.traced is not None:
            work.traced.stale = True
        self._drop_search(changed=True)
        if work.fault is None and work.plan is not None:
            self.action_check()
        self.show()

    def _as_written(self, path: Path) -> bool:
        """Whether a file is still what was written here: then its save has been dealt with."""
        text = self.written.get(path)
        if text is None:
            return False
        try:
            return read_source(path).text == text
        except OddSumError:
            return False

    def _drop_search(self, changed: bool) -> None:
        self.workers.cancel_group(self, "search")
        self.work.drop_search(changed)

    def _take_fault(self, fault: OddSumError | None) -> None:
        """A program that cannot start is for Check to show; anything else is told at once."""
        if isinstance(fault, StartError):
            self.work.fault = fault
        elif fault is not None:
            self.notify(str(fault), severity="error", timeout=15)

    # -- background work ---------------------------------------------------------------------

    def _start(self, group: str, work: Callable[[], None]) -> None:
        self.run_worker(work, thread=True, exclusive=True, group=group, exit_on_error=True)

    def action_check(self) -> None:
        """Run the whole plan."""
        if self._may_check():
            self.check_cases(self.work.cases)

    def action_check_odd(self) -> None:
        """Run those that do not agree."""
        odd = {r.number for r in self.work.in_order() if r.outcome is not Outcome.AGREES}
        cases = tuple(c for c in self.work.cases if c.number in odd)
        if not cases:
            self.notify("Every case that has run agrees. R runs them all.")
        elif self._may_check():
            self.check_cases(cases)

    def action_check_this(self) -> None:
        """Run the case in hand alone."""
        case = self.work.selected_case()
        if case is None or case.disabled:
            self.notify("This case is set aside. - takes it back into the plan.")
        elif self._may_check():
            self.check_cases((case,))

    def _may_check(self) -> bool:
        work = self.work
        if work.plan is None or not work.cases:
            self.notify("There is no case to run yet. A adds one.")
            return False
        if work.fault is not None:
            self.read_files()
            if work.fault is not None:
                self.show()
        return work.fault is None

    def check_cases(self, cases: tuple[Case, ...]) -> None:
        """Run these cases of the plan; the results of all others stay as they are."""
        from oddsum.tui.workers import check_plan

        work = self.work
        assert work.plan is not None
        self._drop_search(changed=False)
        for group in ("pattern", "advice"):
            self.workers.cancel_group(self, group)
        work.before = {r.name: r.outcome for r in work.in_order()}
        work.make_stale(frozenset(c.number for c in cases))
        work.check_number += 1
        work.checking, work.to_check, work.since, work.advising = 0, len(cases), "", False
        start = partial(check_plan, self, work.check_number, work.plan, work.python, cases)
        self._start("check", start)
        self.show()

    @on(messages.InterpreterFound)
    def interpreter_found(self, message: messages.InterpreterFound) -> None:
        """It is known now what runs the program."""
        if message.number == self.work.check_number:
            self.work.interpreter, self.work.left_out = message.interpreter, message.left_out
            self.work.version = message.version
            if message.interpreter.remark:
                self.notify(message.interpreter.remark)
            self.show()

    @on(messages.CaseFinished)
    def case_finished(self, message: messages.CaseFinished) -> None:
        """One more result; those of the check before stay, stale, until theirs come."""
        work = self.work
        if message.number != work.check_number:
            return
        work.results[message.result.number] = message.result
        work.checking = (work.checking or 0) + 1
        self._show_soon()

    def _show_soon(self) -> None:
        """Show what has come so far, some ten times a second at most."""
        if self._showing is None:
            self._showing = self.set_timer(_SHOW_EVERY, self._show_now)

    def _show_now(self) -> None:
        self._showing = None
        self.show()

    @on(messages.CheckEnded)
    def check_ended(self, message: messages.CheckEnded) -> None:
        """The plan has run."""
        work = self.work
        if message.number != work.check_number:
            return
        whole = work.checking == work.to_check
        work.checking, work.fault = None, message.fault
        if message.fault is not None:
            work.results = {}
        elif whole:
            numbers = {c.number for c in work.cases}
            work.results = {n: r for n, r in work.results.items() if n in numbers}
            work.since = since_words(work.before, work.in_order())
            first = not work.checked_at
            work.checked_at, work.seconds = time.strftime("%H:%M:%S"), message.seconds
            shortest = work.shortest_odd()
            if first and shortest is not None and work.selected == work.cases[0].number:
                work.selected = shortest.number  # nobody has chosen yet: begin where it is odd
            if work.complete():
                self._look_for_pattern()
                self.plan_has_run()
        self.show()

    def _look_for_pattern(self) -> None:
        """See what the odd cases share, behind the scenes."""
        from oddsum.tui.workers import look_for_pattern

        work = self.work
        if work.plan is None or not work.odd():
            return
        interpreter = None if work.plan.run else work.interpreter
        start = partial(
            look_for_pattern, self, work.check_number, work.plan, interpreter, work.in_order()
        )
        self._start("pattern", start)

    @on(messages.PatternFound)
    def pattern_found(self, message: messages.PatternFound) -> None:
        """What the odd cases share, or that nothing can be said."""
        if message.number == self.work.check_number and not self.work.stale:
            self.work.pattern = message.pattern
            self.show()

    def plan_has_run(self) -> None:
        """Every case has a result of the program as it is now."""

    def begin_search(self) -> None:
        """Look for leads, where there is something to look for and nobody has looked yet."""
        from oddsum.tui.workers import search_leads

        work = self.work
        if not work.complete() or work.checking is not None or work.fault is not None:
            return
        if work.plan is not None and work.plan.run:
            return
        if work.search is not None and not work.search.stale and not work.search.stopped:
            return
        assert work.plan is not None and work.interpreter is not None
        before = work.search or Search()
        work.search = Search(
            doing="looking at the odd cases",
            uncovered=before.uncovered,
            answers=before.answers or self._kept_answers(),
            guess=before.guess,
            first=min(work.reveal_first, work.most_uncovered()),
        )
        start = partial(
            search_leads,
            self,
            work.check_number,
            work.plan,
            work.interpreter,
            work.in_order(),
            work.claims,
        )
        self._start("search", start)

    @on(messages.SearchWent)
    def search_went(self, message: messages.SearchWent) -> None:
        """The search goes on."""
        search = self.work.search
        if search is not None and search.doing and message.number == self.work.check_number:
            search.doing, search.done, search.total = message.doing, message.done, message.total
            self.show()

    @on(messages.LeadsFound)
    def leads_found(self, message: messages.LeadsFound) -> None:
        """The best leads so far."""
        search = self.work.search
        if search is not None and search.doing and message.number == self.work.check_number:
            search.leads = message.leads
            self.show()

    def _kept_answers(self) -> dict[str, Said]:
        """What was said of values before, kept beside the program."""
        from oddsum.plan.answers import read_answers

        try:
            return read_answers(self.work.program)
        except OddSumError as error:
            self.notify(str(error), severity="warning", timeout=15)
            return {}

    def keep_answer(self, text: str, said: Said) -> None:
        """Take an answer; those about calls hold for every version of the program and are kept."""
        from oddsum.plan.answers import write_answers

        search = self.work.search
        if search is None:
            return
        search.answers[text] = said
        lasting = {t: s for t, s in search.answers.items() if not t.startswith(AT_LINE)}
        try:
            write_answers(self.work.program, lasting)
        except OddSumError as error:
            self.notify(str(error), severity="warning", timeout=15)

    @on(messages.StoriesTold)
    def stories_told(self, message: messages.StoriesTold) -> None:
        """Values of these cases can be asked about."""
        search = self.work.search
        if search is not None and message.number == self.work.check_number:
            search.stories = message.stories

    @on(messages.SearchEnded)
    def search_ended(self, message: messages.SearchEnded) -> None:
        """The search is over."""
        search = self.work.search
        if search is None or message.number != self.work.check_number:
            return
        search.doing = ""
        if message.found is None:
            search.stopped = True
            self._take_fault(message.fault)
        else:
            search.found, search.leads = message.found, message.found.leads
        self.show()

    def watch_saves(self) -> None:
        """Check again whenever a file of the program is saved."""
        from oddsum.tui.workers import watch_files

        plan = self.work.plan or Plan(program=self.work.program)
        self._start("watch", partial(watch_files, self, plan))

    def action_stop_work(self) -> None:
        """Stop what is running, at once; what was found stays."""
        work = self.work
        if (
            work.checking is None
            and work.tracing is None
            and not (work.search and work.search.doing)
            and not work.advising
            and not work.looking
        ):
            return
        for group in _STOPPABLE:
            self.workers.cancel_group(self, group)
        work.advising, work.looking = False, ""
        if work.search is not None and work.search.doing:
            work.search.doing, work.search.stopped = "", True
        work.checking = work.tracing = None
        self.notify("Stopped. R runs the plan again.")
        self.show()
