"""Pinpoint: the leads that were found, and how far each one is uncovered."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import partial

from oddsum.languages import cannot
from oddsum.languages.language import Interpreter
from oddsum.model.answer import AT_LINE, Ends, Said
from oddsum.model.case import Case, Plan
from oddsum.model.claim import Claim
from oddsum.model.errors import OddSumError
from oddsum.model.lead import Lead
from oddsum.model.lead import Pinpointing as Found
from oddsum.model.outcome import CaseResult
from oddsum.pinpoint.asking import Inquiry, inquire
from oddsum.pinpoint.remembered import Memory
from oddsum.pinpoint.search import pinpoint
from oddsum.plan.answers import read_answers, write_answers
from oddsum.record.revealed import recall, remember
from oddsum.record.versions import version_of
from oddsum.trace.ask import Story
from oddsum.workspace.archive import Archive
from oddsum.workspace.checking import Checking
from oddsum.workspace.interface import Interface, Part
from oddsum.workspace.jobs import Job, Jobs, under_way
from oddsum.workspace.tracing import Tracing, Wish


@dataclass
class Search:
    """What was found so far, and how far each lead is revealed (0 to 2)."""

    leads: tuple[Lead, ...] = ()
    found: Found | None = None
    doing: str = ""  # what the search is at, blank once it is over
    done: int = 0
    total: int = 0
    cursor: int = 0
    revealed: dict[tuple[str, tuple[int, ...]], int] = field(default_factory=dict)
    stale: bool = False
    stopped: bool = False
    stories: dict[int, tuple[Case, Story]] = field(default_factory=dict)  # of some odd cases
    answers: dict[str, Said] = field(default_factory=dict)  # by the sentence that was judged
    ends: Ends | None = None  # where the answers lead
    guess: int = 0  # the line the user named; 0 for none
    no_guess: bool = False  # the user has said to have none
    guess_first: bool = False  # no lead is shown before there is one
    first: int = 0  # how far a lead is revealed when it is first seen

    @property
    def held_back(self) -> bool:
        """Whether leads wait for the learner's own guess."""
        return self.guess_first and not self.guess and not self.no_guess

    def keep_in_hand(self, leads: tuple[Lead, ...]) -> None:
        """Take other leads; the one that is being read stays in hand, wherever it ranks now."""
        before = self.lead_in_hand() if self.cursor or self.revealed else None
        self.leads = leads
        places = [(x.file, x.lines) for x in leads]
        if before is not None and (before.file, before.lines) in places:
            self.cursor = places.index((before.file, before.lines))

    def level(self, lead: Lead) -> int:
        """How far a lead is revealed: an index into LEVELS."""
        return self.revealed.get((lead.file, lead.lines), self.first)

    def lead_in_hand(self) -> Lead | None:
        """The lead that the cursor is on, the nearest where there are fewer than it thinks."""
        if not self.leads:
            return None
        self.cursor = min(max(self.cursor, 0), len(self.leads) - 1)
        return self.leads[self.cursor]


@dataclass(frozen=True)
class _Progress:
    doing: str
    done: int
    total: int


class Pinpointing:
    """One search at a time: begun where there is something to look for and nobody has looked."""

    def __init__(
        self,
        checking: Checking,
        tracing: Tracing,
        archive: Archive,
        jobs: Jobs,
        interface: Interface,
    ) -> None:
        self._checking, self._tracing, self._archive = checking, tracing, archive
        self._jobs, self._interface = jobs, interface
        self.reveal_first = 0  # how far leads are revealed at once, as the user has set it
        self.guess_first = False  # whether a guess comes before any lead, as the user has set it
        self.search: Search | None = None
        self._memory = Memory()  # what the last search saw
        self._job: Job | None = None
        self._recall: Job | None = None

    @property
    def busy(self) -> bool:
        """Whether a search is under way."""
        return under_way(self._job)

    def lead_in_hand(self) -> Lead | None:
        """The lead that the cursor is on; None while leads are held back."""
        search = self.search
        return search.lead_in_hand() if search is not None and not search.held_back else None

    # -- searching ---------------------------------------------------------------------------

    def begin(self) -> None:
        """Look for leads, where there is something to look for and nobody has looked yet."""
        checking, before = self._checking, self.search
        plan, interpreter = checking.plan, checking.interpreter
        if not checking.settled() or plan is None or interpreter is None:
            return
        if cannot(plan, "pinpoint"):
            return
        if before is not None and not before.stale and not before.stopped:
            return
        before = before or Search()
        self.search = Search(
            doing="looking at the odd cases",
            revealed=before.revealed,
            answers=before.answers or self._kept_answers(),
            guess=before.guess,
            no_guess=before.no_guess,
            guess_first=self.guess_first or plan.guess_first,
            first=min(self.reveal_first, checking.most_revealed()),
        )
        self._job = self._jobs.start(
            "search",
            partial(self._work, plan, interpreter, checking.in_order(), self._tracing.claims),
            done=self._take,
            failed=self._fail,
            replaces=self._job,
        )
        self._remembered()
        self._interface.changed(Part.LEADS)

    def _work(
        self,
        plan: Plan,
        interpreter: Interpreter,
        results: tuple[CaseResult, ...],
        claims: tuple[Claim, ...],
        job: Job,
    ) -> Found:
        return pinpoint(
            plan,
            interpreter,
            results,
            stop=job.stop,
            on_progress=lambda what, done, total: job.went(
                self._went, _Progress(what, done, total)
            ),
            on_leads=lambda leads: job.tell(self._so_far, leads),
            claims=claims,
            on_stories=lambda stories: job.tell(self._tell_stories, stories),
            memory=self._memory,
        )

    def _went(self, progress: _Progress) -> None:
        assert self.search is not None
        search = self.search
        search.doing, search.done, search.total = progress.doing, progress.done, progress.total
        self._interface.changed(Part.COUNT)

    def _so_far(self, leads: tuple[Lead, ...]) -> None:
        assert self.search is not None
        self.search.keep_in_hand(leads)
        self._interface.changed(Part.LEADS)

    def _tell_stories(self, stories: dict[int, tuple[Case, Story]]) -> None:
        assert self.search is not None
        self.search.stories = stories

    def _take(self, found: Found) -> None:
        assert self.search is not None
        self.search.doing = ""
        self.search.found = found
        self.search.keep_in_hand(found.leads)
        self._interface.changed(Part.LEADS)

    def _fail(self, fault: OddSumError) -> None:
        assert self.search is not None
        self.search.doing, self.search.stopped = "", True
        self._checking.take_fault(fault)
        self._interface.changed(Part.LEADS)

    def stop(self) -> bool:
        """Stop the search; what was found stays. Says whether one was under way."""
        was = self.busy
        self._jobs.cancel(self._job)
        if was and self.search is not None:
            self.search.doing, self.search.stopped = "", True
            self._interface.changed(Part.LEADS)
        return was

    def make_stale(self, program_changed: bool) -> None:
        """What was found is of before; what was revealed stays where the program is the same."""
        self._jobs.cancel(self._job)
        search = self.search
        if search is None:
            return
        search.stale, search.doing = True, ""
        if program_changed:
            search.revealed, search.guess, search.ends = {}, 0, None
            search.no_guess = False
            search.answers = {t: s for t, s in search.answers.items() if not t.startswith(AT_LINE)}
        self._interface.changed(Part.LEADS)

    # -- the leads ---------------------------------------------------------------------------

    def choose(self, cursor: int) -> None:
        """Take another lead in hand, by its place from 0."""
        if self.search is not None and self.search.leads:
            self.search.cursor = cursor
            self._interface.changed(Part.LEADS)

    def reveal(self) -> None:
        """Reveal one level more of the lead in hand, here and in every window after this one."""
        search, lead = self.search, self.lead_in_hand()
        if search is None or lead is None:
            return
        most = self._checking.most_revealed()
        if search.level(lead) >= most:
            self._interface.say(
                "All of it is uncovered."
                if most > 1
                else "The author of this plan asks you to find the rest yourself."
            )
            return
        search.revealed[lead.file, lead.lines] = min(search.level(lead) + 1, most)
        levels = dict(search.revealed)
        self._archive.write(lambda h, job: remember(h, version_of(h.program), levels))
        self._interface.changed(Part.LEADS)

    def _remembered(self) -> None:
        """Read what was revealed of the same program before."""
        self._recall = self._archive.read(
            "revealed",
            lambda h: recall(h, version_of(h.program)),
            self._take_levels,
            replaces=self._recall,
        )

    def _take_levels(self, levels: Mapping[tuple[str, tuple[int, ...]], int]) -> None:
        search = self.search
        if search is None or search.stale:
            return
        most = self._checking.most_revealed()
        for place, level in levels.items():
            now = search.revealed.get(place, search.first)
            search.revealed[place] = max(min(level, most), now)  # never covered again
        self._interface.changed(Part.LEADS)

    def trace(self) -> None:
        """Follow the case that shows the lead in hand best; else the shortest odd one."""
        checking, lead = self._checking, self.lead_in_hand()
        shortest = checking.shortest_odd()
        number = lead.case if lead is not None else None
        if number is None and shortest is not None:
            number = shortest.number
        case = checking.case_numbered(number)
        if case is None:
            self._interface.say("No case is odd.")
        elif lead is None:
            self._tracing.open(case)
        else:
            step = lead.step if lead.case == number else None
            self._tracing.open(case, Wish(step, (lead.file, lead.lines[0])))

    # -- the learner's own part --------------------------------------------------------------

    def may_guess(self) -> bool:
        """Whether a guess can be held against something; says why where it cannot."""
        if self.search is None or not self._checking.odd():
            self._interface.say("There is nothing to guess at: no case is odd.")
            return False
        return self._checking.files.source is not None

    def guess(self, line: int) -> None:
        """Take the line that the learner suspects; 0: none. What the evidence says to it is told
        once the search is over.
        """
        if self.search is not None:
            self.search.guess, self.search.no_guess = line, not line
            self._interface.changed(Part.LEADS)

    def inquiry(self) -> Inquiry | None:
        """What to ask next about values of the shortest odd case; None where none is recorded."""
        search = self.search
        asked = self._asked_about()
        if search is None or asked is None:
            self._interface.say("There is no recording of an odd case to ask about yet.")
            return None
        inquiry = inquire(asked[1], asked[0], search.answers)
        search.ends = inquiry.ends
        return inquiry

    def _asked_about(self) -> tuple[Case, Story] | None:
        stories = self.search.stories if self.search is not None else {}
        return min(stories.values(), key=lambda told: len(told[1]), default=None)

    def see(self, step: int | None) -> None:
        """After the questions: look at a step of that case in Trace, where one was named."""
        self._interface.changed(Part.LEADS)
        asked = self._asked_about()
        if step is not None and asked is not None:
            self._tracing.open(asked[0], Wish(step))

    def _kept_answers(self) -> dict[str, Said]:
        """What was said of values before, kept beside the program."""
        try:
            return read_answers(self._checking.files.program)
        except OddSumError as error:
            self._interface.say(str(error), "warning", 15)
            return {}

    def keep_answer(self, text: str, said: Said) -> None:
        """Take an answer; those about calls hold for every version of the program and are kept."""
        search = self.search
        if search is None:
            return
        search.answers[text] = said
        lasting = {t: s for t, s in search.answers.items() if not t.startswith(AT_LINE)}
        try:
            write_answers(self._checking.files.program, lasting)
        except OddSumError as error:
            self._interface.say(str(error), "warning", 15)


def told_with(search: Search) -> list[tuple[Lead, int]]:
    """Each lead with how far it is revealed, for a report or a page of the notebook."""
    if search.held_back:
        return []
    return [(lead, search.level(lead)) for lead in search.leads]
