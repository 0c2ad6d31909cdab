"""Mend: the change in hand, tried on a copy and written only when the learner says so."""

from __future__ import annotations

import time
from collections.abc import Callable
from dataclasses import dataclass
from functools import partial
from pathlib import Path

from oddsum.languages import language_of
from oddsum.languages.language import Interpreter
from oddsum.mend.attempt import attempt
from oddsum.mend.keep import ChangedMeanwhile, keep
from oddsum.mend.words import edits_words
from oddsum.model.case import Plan
from oddsum.model.errors import OddSumError, StartError
from oddsum.model.history import Try
from oddsum.model.lead import Edit, Lead
from oddsum.model.outcome import CaseResult
from oddsum.record.history import History
from oddsum.record.store import StoreError
from oddsum.record.versions import version_of
from oddsum.source.edits import applied
from oddsum.source.program import Source, read_source
from oddsum.workspace.checking import Checking
from oddsum.workspace.draft import Draft
from oddsum.workspace.interface import Choice, Interface, Part
from oddsum.workspace.jobs import Job, Jobs
from oddsum.workspace.pinpointing import Pinpointing
from oddsum.workspace.tries import Tries

PAUSE = 0.35  # seconds without a key, after which a change is tried
STOOD = 2.0  # seconds that a try must stand before it counts as one that was looked at


class NotRecorded(OddSumError):
    """The version before could not be put into the record, so nothing was written."""


@dataclass(frozen=True)
class _Change:
    """A change as it was when it was to be kept, with the file and the results before it.

    News of the save can come before the word that it was written, and the draft follows its file.
    """

    edits: tuple[Edit, ...]
    text: str
    source: Source
    before: dict[int, CaseResult]
    tried: Try | None


def _stand(draft: Draft) -> tuple[object, ...]:
    """All that a change shows outside of the program's own text."""
    tried = draft.tried == draft.text
    return draft.changed, draft.changed_lines(), tried, draft.done, draft.taken


class Mending:
    """One file at a time. ``paused`` is called as typing pauses, ``kept`` once it is written."""

    def __init__(
        self,
        checking: Checking,
        pinpointing: Pinpointing,
        tries: Tries,
        history: History,
        jobs: Jobs,
        interface: Interface,
    ) -> None:
        self._checking, self._pinpointing, self._tries = checking, pinpointing, tries
        self._history, self._jobs, self._interface = history, jobs, interface
        self.paused: Callable[[], None] = lambda: None
        self.kept: Callable[[], None] = lambda: None
        self.draft: Draft | None = None
        self.before: dict[int, CaseResult] = {}  # results before a change was kept, and
        self.edits: tuple[Edit, ...] = ()  # what it was; until the plan has run on what is there
        self.source: Source | None = None  # the file before that change
        self._try: Job | None = None
        self._keep: Job | None = None
        self._unpause: Callable[[], None] = lambda: None

    # -- the text in hand --------------------------------------------------------------------

    def open(self, file: str = "", line: int = 0) -> Draft | None:
        """The change in hand: the one there is, or one begun on a file of the program.

        Another file is taken up only while nothing in the one in hand is changed.
        """
        draft, files = self.draft, self._checking.files
        name = file or (draft.source.name if draft else "")
        if draft is None or (name and name != draft.source.name and not draft.changed):
            source = files.source_of(name) if name else files.source
            if source is None:
                return draft
            path = (files.folder / source.name).resolve()
            draft = self.draft = Draft(path, source, source.text)
            self._interface.changed(Part.DRAFT)
        if line and draft.source.name == (file or draft.source.name):
            draft.cursor = (max(0, line - 1), 0)
            self._interface.changed(Part.DRAFT)
        return draft

    def type(self, text: str) -> None:
        """The text is another now: it is tried as soon as typing pauses."""
        draft = self.draft
        if draft is None or draft.text == text:
            return
        before = _stand(draft)
        draft.text, draft.taken = text, ""
        self._try_soon(PAUSE)
        if _stand(draft) != before:  # most keys change nothing but the program itself
            self._interface.changed(Part.DRAFT)

    def put(self, text: str, taken: str = "") -> None:
        """Put another text in hand; the editor follows, and can take it back.

        ``taken`` says what it was taken over from.
        """
        draft = self.draft
        if draft is None:
            return
        draft.text, draft.taken = text, taken
        draft.revision += 1
        self._try_soon(0.0)
        self._interface.changed(Part.DRAFT)

    def put_back(self) -> None:
        """Make the text what the file has."""
        draft = self.draft
        if draft is None or not draft.changed:
            self._interface.say("The text here is as the file has it.")
            return
        if draft.shown:
            self._tries.remember(draft)
        self.put(draft.source.text)
        self._interface.say("As the file has it. Ctrl+Z brings your change back.")

    def switch_line(self, line: int) -> None:
        """Switch the statement on a line off, or on again."""
        draft = self.draft
        if draft is None:
            return
        language = language_of(draft.source.name)
        try:
            text, off = language.writing.switched(Source(draft.source.name, draft.text), line)
        except OddSumError as error:
            self._interface.say(str(error), "warning")
            return
        self.put(text)
        now = "off. The same key switches it on again" if off else "on"
        self._interface.say(f"Line {line} is {now}.")

    def take_over(self, lead: Lead) -> bool:
        """Put a lead's mend into the text, as an ordinary change; or go to its line.

        Returns False where something else is in hand already.
        """
        search, draft = self._pinpointing.search, self.open(lead.file, lead.lines[0])
        if draft is None or search is None:
            return False
        if draft.source.name != lead.file:
            self._interface.say(
                f"Keep or put back what you changed in {draft.source.name} first; lead "
                f"{lead.letter} is in {lead.file}.",
                "warning",
            )
            return False
        if lead.mend is None or search.level(lead) < 2 or search.stale:
            return True
        edits = tuple(e for e in lead.mend.edits if e.file == draft.source.name)
        self.put(applied(draft.source, edits), taken=f"the mend of lead {lead.letter}")
        return True

    def take_over_lead_in_hand(self) -> None:
        """The same for the lead that is in hand at Pinpoint; says why where there is none."""
        search, lead = self._pinpointing.search, self._pinpointing.lead_in_hand()
        if search is None or lead is None:
            self._interface.say("No lead is there to take over. 3 looks for leads.")
            return
        if search.level(lead) < 2 or lead.mend is None:
            self._interface.say(
                f"Lead {lead.letter} is not uncovered so far: change line "
                f"{lead.lines[0]} yourself, or uncover it with 3 and Enter."
            )
        self.take_over(lead)

    def take_version(self, name: str, text: str, words: str) -> bool:
        """Put a file of an earlier version in hand; False where a change is in hand already."""
        draft = self.open(name)
        if draft is None or draft.source.name != name or draft.changed:
            self._interface.say("Keep or put back the change in hand at Mend first.", "warning")
            return False
        self.put(text, taken=words)
        return True

    def other_files(self) -> list[Path]:
        """The files of the program that can be taken up; none, and said why, where none can."""
        draft = self.draft
        if draft is None:
            return []
        if draft.changed:
            self._interface.say(f"Keep or put back what you changed in {draft.source.name} first.")
            return []
        files = language_of(self._checking.files.program).reading.own_files(
            self._checking.files.program
        )
        if len(files) < 2:
            self._interface.say("This program has one file of its own.")
            return []
        return list(files)

    # -- trying ------------------------------------------------------------------------------

    def _try_soon(self, pause: float) -> None:
        self._jobs.cancel(self._try)
        self._unpause()
        if self.draft is not None:
            self.draft.done = None
        self._unpause = self._interface.later(max(pause, 0.01), self._typing_paused)

    def _typing_paused(self) -> None:
        self._unpause = lambda: None
        self.paused()
        self.try_now()

    def try_now(self) -> None:
        """Run the plan on a copy with the text in hand, where that was not done yet."""
        draft, checking = self.draft, self._checking
        plan, interpreter = checking.plan, checking.interpreter
        if draft is None or not draft.changed:
            return
        if draft.tried == draft.text and not draft.conflict:
            self._stands(draft)  # typed once more: what it showed is looked at once more
            return
        if plan is None or not checking.cases or interpreter is None:
            return
        draft.done, draft.tried, draft.fault, draft.results = 0, draft.text, None, {}
        started = time.monotonic()
        self._try = self._jobs.start(
            "try",
            partial(self._work, plan, draft.source, draft.text, interpreter),
            done=lambda _: self._tried(draft, time.monotonic() - started, None),
            failed=lambda fault: self._tried(draft, time.monotonic() - started, fault),
            replaces=self._try,
        )
        self._interface.changed(Part.DRAFT)

    def try_again(self) -> None:
        """The plan has run on the program as it is: what the change does to it is another now."""
        if self.draft is not None and self.draft.changed:
            self.draft.tried = ""
            self.try_now()

    def _work(
        self, plan: Plan, source: Source, text: str, interpreter: Interpreter, job: Job
    ) -> None:
        for result in attempt(plan, source, text, interpreter, stop=job.stop):
            job.tell(self._one, result)

    def _one(self, result: CaseResult) -> None:
        draft = self.draft
        if draft is not None and draft.done is not None:
            draft.results[result.number] = result
            draft.done += 1
            self._interface.changed(Part.DRAFT, Part.COUNT)

    def _tried(self, draft: Draft, seconds: float, fault: OddSumError | None) -> None:
        draft.done, draft.seconds, draft.fault = None, seconds, fault
        if fault is None and len(draft.results) < len(self._checking.cases):
            draft.tried = ""  # the plan was changed half way: it says nothing
        else:
            self._stands(draft)
        self._interface.changed(Part.DRAFT)

    def _stands(self, draft: Draft) -> None:
        job = self._try  # another try begins another one
        self._interface.later(STOOD, lambda: self._stood(draft, job))

    def _stood(self, draft: Draft, job: Job | None) -> None:
        """Remember a try whose result was looked at for a moment."""
        if job is self._try and draft is self.draft and draft.shown:
            self._tries.remember(draft)

    def stop(self) -> bool:
        """Stop a try; says whether one was under way."""
        draft = self.draft
        if draft is None or draft.done is None:
            return False
        self._jobs.cancel(self._try)
        draft.done, draft.tried, draft.results = None, "", {}
        self._interface.say("The try was stopped. The next key begins another.")
        self._interface.changed(Part.DRAFT)
        return True

    # -- keeping -----------------------------------------------------------------------------

    def keep(self, over: bool = False, without_record: bool = False, anyway: bool = False) -> None:
        """Write the text into the file, with the version before it kept in the record.

        A text that cannot start, in the place of one that can, is asked about: ``anyway``.
        """
        draft = self.draft
        if draft is None or not draft.changed:
            self._interface.say("There is nothing to keep: the text here is as the file has it.")
            return
        starts = not isinstance(draft.fault, StartError) or draft.tried != draft.text
        if not (starts or anyway or isinstance(self._checking.fault, StartError)):
            self._ask_before_keeping(draft)
            return
        history = None if without_record else self._history
        self._checking.files.will_write(draft.path, draft.text)
        path, source, text = draft.path, draft.source, draft.text
        before, tried = dict(self._checking.results), self._tries.shown(draft)
        change = _Change(draft.edits, text, source, before, tried)

        def work(job: Job) -> Source:
            if history is not None:
                try:
                    history.keep_version(version_of(history.program))
                except OddSumError as error:
                    raise NotRecorded(error.text, hint=error.hint) from error
            return keep(path, source, text, over=over)

        self._keep = self._jobs.start(
            "keep",
            work,
            done=lambda written: self._kept(draft, change, written),
            failed=self._refused,
            replaces=self._keep,
        )

    def _ask_before_keeping(self, draft: Draft) -> None:
        said = (
            str(draft.fault),
            "The file as it is now can start. If you keep this, the version before is in Record: "
            "5, then B, puts it back.",
        )
        answers = (("leave", "Go on writing"), ("keep", "Keep it all the same"))
        self._interface.choose(
            Choice("THIS TEXT CANNOT START", said, answers),
            lambda answer: self.keep(anyway=True) if answer == "keep" else None,
        )

    def _kept(self, draft: Draft, change: _Change, written: Source) -> None:
        """The file is written: the plan runs on it, also where another one is in hand by now."""
        draft.conflict = False
        self.before, self.edits, self.source = change.before, change.edits, change.source
        if change.tried is not None:
            self._tries.keep(draft, change.tried, change.text)
        draft.source = written
        self._interface.say(f"Kept: {edits_words(self.edits)}.")
        self.kept()
        self._interface.changed(Part.DRAFT)

    def _refused(self, fault: OddSumError) -> None:
        """Nothing was written: say why, and ask what to do where there is a choice."""
        if isinstance(fault, ChangedMeanwhile):
            said = "Keeping yours would lose what was done there; it stays in the record (5)."
            answers = (("leave", "Neither yet"), ("mine", "Keep mine over it"),
                       ("theirs", "Take the file's, drop mine"))  # fmt: skip
            choice = Choice("THE FILE HAS CHANGED", (str(fault), said), answers)
            self._interface.choose(choice, self._after_conflict)
        elif isinstance(fault, (NotRecorded, StoreError)):
            said = "The version before would be lost if you keep this now."
            either = (("leave", "Do not keep it yet"), ("anyway", "Keep it anyway"))
            choice = Choice("THE VERSION BEFORE", (str(fault), said), either)
            self._interface.choose(choice, self._after_unrecorded)
        else:
            self._interface.say(str(fault), "error", 15)

    def _after_unrecorded(self, answer: str) -> None:
        if answer == "anyway":
            self.keep(without_record=True)

    def _after_conflict(self, answer: str) -> None:
        draft = self.draft
        if draft is None:
            return
        if answer == "mine":
            self.keep(over=True)
        elif answer == "theirs":
            try:
                draft.source = read_source(draft.path, draft.source.name)
            except OddSumError as error:
                self._interface.say(str(error), "error", 15)
                return
            draft.conflict = False
            self.put(draft.source.text)

    def follow_file(self) -> None:
        """The files were read anew: a text that nobody has changed here follows its file."""
        draft = self.draft
        if draft is None:
            return
        now = self._checking.files.source_of(draft.source.name)
        if now is None or now.text == draft.source.text:
            draft.conflict = False
        elif not draft.changed or draft.text == now.text:
            draft.source, draft.text, draft.conflict = now, now.text, False
            draft.revision += 1
        else:
            draft.conflict = True
        self._interface.changed(Part.DRAFT)
