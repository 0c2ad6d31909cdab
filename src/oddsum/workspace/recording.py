"""Record: what happened so far, as it is written down: runs, versions, the notebook."""

from __future__ import annotations

import time
from collections.abc import Callable
from dataclasses import dataclass

from oddsum.model.errors import OddSumError
from oddsum.model.history import Entry, PastRun, Try, Version
from oddsum.model.lead import Edit, Lead
from oddsum.record.history import History
from oddsum.record.notebook import page_for
from oddsum.record.versions import version_of
from oddsum.source.program import Source
from oddsum.workspace.archive import Archive
from oddsum.workspace.checking import Checking
from oddsum.workspace.interface import Choice, Interface, Part
from oddsum.workspace.jobs import Job
from oddsum.workspace.tries import Tries

Versions = tuple[Version | None, Version | None]


@dataclass
class Record:
    """What is recorded of the program: its last checks of so many, and the notebook.

    ``cursor`` is the check in hand and ``marked`` one to hold it against (places in ``runs``, -1
    for none); ``page`` is the notebook's page in hand.
    """

    runs: tuple[PastRun, ...] = ()
    count: int = 0
    entries: tuple[Entry, ...] = ()
    cursor: int = 0
    marked: int = -1
    page: int = 0
    read: bool = False

    def number_of(self, place: int) -> int:
        """The how many-th check of the program a run is, by its place in ``runs``."""
        return self.count - len(self.runs) + place + 1

    def run_in_hand(self) -> tuple[PastRun | None, PastRun | None]:
        """The run in hand, and the one before it."""
        if not 0 <= self.cursor < len(self.runs):
            return None, None
        return self.runs[self.cursor], self.runs[self.cursor - 1] if self.cursor else None


@dataclass(frozen=True)
class _Read:
    runs: tuple[PastRun, ...]
    count: int
    tries: tuple[Try, ...]
    entries: tuple[Entry, ...]


class Recording:
    """Writes down what happens, in the order in which it happened, and reads it back."""

    def __init__(
        self, checking: Checking, tries: Tries, archive: Archive, interface: Interface
    ) -> None:
        self._checking, self._tries = checking, tries
        self._archive, self._interface = archive, interface
        self.record = Record()
        self.versions: dict[tuple[int, int], Versions] = {}  # two at a time, as they were asked for
        self._earlier: Job | None = None

    # -- reading and writing -----------------------------------------------------------------

    def _in_turn(self, write: Callable[[History], object]) -> None:
        """Write something, then read all of it anew; what cannot be written is told, and read."""

        def work(history: History, job: Job) -> _Read:
            try:
                write(history)
            except OddSumError as error:
                job.tell(self._archive.say, error)
            return _Read(history.runs(), history.count(), history.tries(), history.entries())

        self._archive.write(work, self._take)

    def read(self) -> None:
        """Read what is recorded of the program."""
        self._in_turn(lambda history: None)

    def _take(self, read: _Read) -> None:
        """The record as it is now; the run in hand stays, a last one in hand gives way to newer."""
        record = self.record
        at_end = record.cursor >= len(record.runs) - 1
        held = [record.runs[n].number if 0 <= n < len(record.runs) else 0
                for n in (record.cursor, record.marked)]  # fmt: skip
        first = read.runs[0].number if read.runs else 0
        earlier = tuple(r for r in record.runs if r.number < first)  # read before, by going there
        record.runs = (*earlier, *read.runs)
        numbers = [r.number for r in record.runs]
        record.count, record.entries, record.read = read.count, read.entries, True
        last = len(numbers) - 1
        record.cursor = last if at_end or held[0] not in numbers else numbers.index(held[0])
        record.marked = numbers.index(held[1]) if held[1] in numbers else -1
        record.page = max(0, min(record.page, len(record.entries) - 1))
        self._tries.take(read.tries)
        self._say_damaged()
        self._interface.changed(Part.RECORD)

    def _say_damaged(self) -> None:
        store = self._archive.history.store
        if store.set_aside is not None:
            self._interface.say(store.damage, "warning", 15)
            store.set_aside = None

    # -- runs --------------------------------------------------------------------------------

    def write_run(self) -> None:
        """Write down the check that has just run."""
        checking = self._checking
        assert checking.plan is not None
        file, interpreter = checking.plan.file, checking.interpreter
        run = PastRun(
            at=time.time(),
            seconds=checking.seconds,
            plan=file.name if file is not None else "",
            interpreter=interpreter.title if interpreter is not None else "",
            outcomes={r.name: r.outcome for r in checking.in_order()},
        )
        version = checking.version  # the program on disk, where it could not be read before
        self._in_turn(lambda h: h.add_run(run, version or version_of(h.program)))

    def move(self, by: int) -> None:
        """Take another run in hand; ahead of the first that is shown, earlier ones are read."""
        record = self.record
        if record.cursor + by < 0 and len(record.runs) < record.count:
            self._read_earlier()
        else:
            self.choose(record.cursor + by)

    def choose(self, place: int) -> None:
        """Take the run at a place in hand, the nearest where there is none."""
        record = self.record
        record.cursor = max(0, min(place, len(record.runs) - 1))
        self._interface.changed(Part.RECORD)

    def mark(self) -> None:
        """Mark the run in hand, or no longer."""
        record = self.record
        record.marked = -1 if record.marked == record.cursor else record.cursor
        self._interface.changed(Part.RECORD)

    def _read_earlier(self) -> None:
        first = self.record.runs[0].number
        self._earlier = self._archive.read(
            "earlier", lambda h: h.runs(before=first), self._take_earlier, replaces=self._earlier
        )

    def _take_earlier(self, runs: tuple[PastRun, ...]) -> None:
        """They stand ahead of the others; the run in hand is the last of them."""
        record = self.record
        if not runs or not record.runs or runs[-1].number >= record.runs[0].number:
            return
        record.runs = (*runs, *record.runs)
        record.cursor = len(runs) - 1
        record.marked += len(runs) if record.marked >= 0 else 0
        self._interface.changed(Part.RECORD)

    # -- versions ----------------------------------------------------------------------------

    def read_versions(
        self, numbers: tuple[int, int], then: Callable[[Versions], None] | None = None
    ) -> None:
        """Read two versions of the program, None where one is not recorded; 0 stands for the one
        on disk. ``then`` gets them.
        """

        def work(history: History) -> Versions:
            first, second = (
                history.version(n) if n else version_of(history.program) for n in numbers
            )
            return first, second

        def take(versions: Versions) -> None:
            if 0 not in numbers:  # what is on disk can be another one the next time
                self.versions[numbers] = versions
            if then is not None:
                then(versions)
            self._interface.changed(Part.RECORD)

        self._archive.read("versions", work, take)

    def versions_in_hand(self) -> Versions | None:
        """The programs of the run in hand and of the one before; read where not known yet."""
        run, before = self.record.run_in_hand()
        if run is None:
            return None
        key = (before.version, run.version) if before is not None else (0, run.version)
        if before is not None and key[0] != key[1] and key not in self.versions:
            self.versions[key] = (None, None)  # being read: it is not asked for twice
            self.read_versions(key)
        return self.versions.get(key)

    def pair_to_compare(self) -> tuple[int, int] | None:
        """Places of the marked run and the one in hand, the earlier first; without a mark, of the
        one before and this one. Says what to do where there are no two.
        """
        record = self.record
        first = record.marked if record.marked >= 0 else record.cursor - 1
        if not record.runs or first < 0 or first == record.cursor:
            self._interface.say("Mark another run first: Space marks the one in hand.")
            return None
        return min(first, record.cursor), max(first, record.cursor)

    # -- the notebook ------------------------------------------------------------------------

    def turn(self, by: int) -> None:
        """Take another page in hand."""
        record = self.record
        record.page = max(0, min(record.page + by, len(record.entries) - 1))
        self._interface.changed(Part.RECORD)

    def page_in_hand(self) -> Entry | None:
        """The notebook's page in hand; None where there is none."""
        entries = self.record.entries
        return entries[self.record.page] if entries else None

    def write_page(self, page: Entry) -> None:
        """Write a page of the notebook; a new one is in hand then."""
        if not page.number:
            self.record.page = len(self.record.entries)
        self._in_turn(lambda history: history.write_entry(page))

    def ask_to_take_out(self) -> None:
        """Take the page in hand out of the notebook, if that is meant."""
        page = self.page_in_hand()
        if page is None:
            return
        said = f"The page about {page.where or 'a fault'} is taken out, with what you wrote."
        answers = (("leave", "Leave it"), ("out", "Take it out"))
        choice = Choice("A PAGE OF THE NOTEBOOK", (said,), answers)

        def answered(answer: str) -> None:
            if answer == "out":
                self._in_turn(lambda history: history.take_out(page))

        self._interface.choose(choice, answered)

    def begin_page(
        self,
        edits: tuple[Edit, ...],
        settled: tuple[int, ...],
        before: Source,
        leads: list[tuple[Lead, int]],
    ) -> None:
        """A page for a fault that is mended, with what is known of it.

        ``settled`` are case numbers, ``before`` the file ahead of the change.
        """
        names = {c.number: c.name for c in self._checking.cases}
        page = page_for(
            edits,
            [names[n] for n in settled if n in names],
            before,
            leads=leads,
            runs=self.record.runs,
            tries=self._tries.all,
            now=time.time(),
        )
        self._in_turn(lambda history: history.write_entry(page))
        self._interface.say("A page about it was begun in the notebook (5).")
