"""Record: every run of the plan, what it settled and broke, and the notebook."""

from __future__ import annotations

import time
from collections.abc import Iterable
from typing import ClassVar

from textual import on
from textual.binding import BindingType
from textual.containers import Horizontal, Vertical, VerticalScroll
from textual.widget import Widget

from oddsum.mend.words import edit_words
from oddsum.model.history import Entry, PastRun, Version
from oddsum.record.changes import between
from oddsum.source.edits import edits_of
from oddsum.source.program import Source
from oddsum.trace.words import counted
from oddsum.tui import messages
from oddsum.tui.actions import bindings_of
from oddsum.tui.glyphs import own
from oddsum.tui.inks import INK_OF
from oddsum.tui.recording import RecordingApp
from oddsum.tui.screens.station import Station
from oddsum.tui.widgets.heading import Heading
from oddsum.tui.widgets.notebook import notebook_lines
from oddsum.tui.widgets.prose import Prose, wrapped
from oddsum.tui.widgets.run_grid import RunGrid, grid_lines, place_at
from oddsum.tui.widgets.tries import tries_lines
from oddsum.tui.writing import Piece

_MOST_EDITS = 8  # places of a program that are listed for a run


class RecordScreen(Station):
    """The grid of runs at the left, the run in hand and the notebook beside it."""

    station = "record"
    BINDINGS: ClassVar[list[BindingType]] = [*bindings_of("record")]

    def __init__(self) -> None:
        super().__init__()
        self._versions: dict[tuple[int, int], tuple[Version | None, Version | None]] = {}
        self._comparing: tuple[int, int] | None = None  # the runs whose versions a page waits for
        self._bringing = 0  # the version that is to be put back, 0 for none

    @property
    def recording(self) -> RecordingApp:
        """The application, as what it is."""
        app = self.app
        assert isinstance(app, RecordingApp)
        return app

    def compose_body(self) -> Iterable[Widget]:
        """Lay out runs, the one in hand, and the notebook."""
        with Horizontal(id="body"):
            with Vertical(id="left", classes="column"):
                yield Heading("RUNS", id="runs-heading")
                with VerticalScroll(id="runs-scroll", can_focus=False):
                    yield RunGrid(id="runs")
                yield Heading("TRIES SO FAR", id="tries-heading").add_class("spaced", "roomy")
                with VerticalScroll(id="tries-scroll", can_focus=False).add_class("roomy"):
                    yield Prose(id="tries")
            yield Vertical(classes="gap")
            with Vertical(id="right", classes="column"):
                yield Heading(id="run-heading")
                yield Prose(id="run")
                yield Heading("NOTEBOOK", id="notebook-heading").add_class("spaced")
                with VerticalScroll(id="notebook-scroll", can_focus=False):
                    yield Prose(id="notebook")

    def on_mount(self) -> None:
        """The keys go to the runs."""
        self.query_one(RunGrid).focus()

    # -- showing -----------------------------------------------------------------------------

    def show_body(self) -> None:
        """Bring runs and notebook up to date."""
        record, grid = self.work.record, self.query_one(RunGrid)
        heading = self.query_one("#runs-heading", Heading)
        heading.lit = True
        heading.right = _count_words(len(record.runs), record.count)
        tall = not self.has_class("-narrow")
        if record.runs:
            grid.write(lambda width: grid_lines(record, width, tall))
        else:
            said = (
                "Every run of the whole plan is written down here, with the program as it was."
                if record.read
                else "The record is being read."
            )
            if self.work.record_fault and not record.read:
                said = self.work.record_fault
            grid.write(lambda width: [[], *wrapped(said, width, "quiet")])
        self._show_run()
        tries = self.work.tries
        self.query_one("#tries-heading", Heading).right = f"{len(tries)}" if tries else ""
        self.query_one("#tries", Prose).write(lambda width: tries_lines(tries, width))
        pages = self.query_one("#notebook-heading", Heading)
        pages.right = counted(len(record.entries), "page") if record.entries else ""
        self.query_one("#notebook", Prose).write(
            lambda width: notebook_lines(record.entries, record.page, width)
        )

    def _run_in_hand(self) -> tuple[PastRun | None, PastRun | None]:
        """The run in hand, and the one before it."""
        runs, at = self.work.record.runs, self.work.record.cursor
        if not 0 <= at < len(runs):
            return None, None
        return runs[at], runs[at - 1] if at else None

    def _show_run(self) -> None:
        record = self.work.record
        run, before = self._run_in_hand()
        heading, prose = self.query_one("#run-heading", Heading), self.query_one("#run", Prose)
        if run is None:
            heading.title, heading.right = "HOW THE RECORD WORKS", ""
            prose.write(_first_steps)
            return
        heading.title = f"RUN {record.number_of(record.cursor)}"
        heading.right = time.strftime("%d %b %Y, %H:%M:%S", time.localtime(run.at))
        key = (before.version, run.version) if before is not None else (0, run.version)
        if before is not None and key[0] != key[1] and key not in self._versions:
            self.recording.read_versions(key)
        pair = self._versions.get(key)
        roomy = not self.has_class("-narrow")
        prose.write(lambda width: run_lines(run, before, pair, width, roomy))

    def take_versions(self, message: messages.VersionsRead) -> None:
        """Two versions are there: for the run in hand, for a page, or to be put back."""
        self._versions[message.numbers] = message.versions
        if self._comparing is not None:
            self._open_comparison(*self._comparing, message.versions)
            self._comparing = None
        elif self._bringing and message.numbers == (0, self._bringing):
            self._bringing = 0
            self._put_back(message.versions)
        self._show_run()

    # -- runs --------------------------------------------------------------------------------

    @on(RunGrid.Moved)
    def choose(self, message: RunGrid.Moved) -> None:
        """Another run is in hand."""
        record = self.work.record
        if message.column is not None:
            place = place_at(record, self.query_one(RunGrid).size.width, message.column)
            if place is None:
                return
            record.cursor = place
        elif record.cursor + message.by < 0 and len(record.runs) < record.count:
            self.recording.read_earlier()
            return
        else:
            record.cursor = max(0, min(record.cursor + message.by, len(record.runs) - 1))
        self.show()

    def action_to_end(self, side: int) -> None:
        """To the first run that is shown, or the last."""
        record = self.work.record
        record.cursor = 0 if side < 0 else len(record.runs) - 1
        self.show()

    def action_mark(self) -> None:
        """Mark the run in hand, or no longer."""
        record = self.work.record
        record.marked = -1 if record.marked == record.cursor else record.cursor
        self.show()

    def action_side_by_side(self) -> None:
        """The marked run and this one; without a mark, the one before and this one."""
        record = self.work.record
        first = record.marked if record.marked >= 0 else record.cursor - 1
        if not record.runs or first < 0 or first == record.cursor:
            self.notify("Mark another run first: Space marks the one in hand.")
            return
        first, second = sorted((first, record.cursor))
        self._comparing = first, second
        self.recording.compare_runs(first, second)

    def _open_comparison(
        self, first: int, second: int, versions: tuple[Version | None, Version | None]
    ) -> None:
        from oddsum.tui.dialogs.two_versions import two_versions_page

        record = self.work.record
        old, new = versions
        if old is None or new is None:
            self.notify("One of the two programs is not in the record.")
            return
        self.app.push_screen(
            two_versions_page(
                (record.number_of(first), record.runs[first], old),
                (record.number_of(second), record.runs[second], new),
            )
        )

    def action_put_back(self) -> None:
        """Take the program of the run in hand up in Mend."""
        run, _ = self._run_in_hand()
        if run is not None:
            self._bringing = run.version
            self.recording.read_versions((0, run.version))

    def _put_back(self, versions: tuple[Version | None, Version | None]) -> None:
        now, then = versions
        if now is None or then is None:
            self.notify("That program is not in the record.")
            return
        names = [n for n, text in then.files.items() if now.files.get(n) != text]
        if not names:
            self.notify("The program is the same as in that run.")
            return
        number = self.work.record.number_of(self.work.record.cursor)
        self.recording.take_version(names[0], then.files[names[0]], f"the program of run {number}")
        if len(names) > 1:
            self.notify(f"Also changed since: {', '.join(names[1:])}. Put them back one by one.")

    # -- the notebook ------------------------------------------------------------------------

    @on(RunGrid.Turned)
    def turn(self, message: RunGrid.Turned) -> None:
        """Another page is in hand; the newest stands at the top."""
        record = self.work.record
        record.page = max(0, min(record.page - message.by, len(record.entries) - 1))
        self.show()

    def action_edit(self) -> None:
        """Write in the page in hand."""
        record = self.work.record
        if not record.entries:
            self.notify("There is no page yet. A begins one.")
            return
        self._open_page(record.entries[record.page])

    def action_add(self) -> None:
        """Begin a page."""
        self._open_page(Entry(at=time.time()))

    def _open_page(self, page: Entry) -> None:
        from oddsum.tui.dialogs.page_card import PageCard

        def keep(changed: Entry | None) -> None:
            if changed is not None:
                if not page.number:
                    self.work.record.page = len(self.work.record.entries)
                self.recording.write_page(changed)

        self.app.push_screen(PageCard(page), keep)

    def action_delete(self) -> None:
        """Take the page in hand out of the notebook."""
        from oddsum.tui.dialogs.choose import Choose

        record = self.work.record
        if not record.entries:
            return
        page = record.entries[record.page]
        said = [f"The page about {page.where or 'a fault'} is taken out, with what you wrote."]
        self.app.push_screen(
            Choose("A PAGE OF THE NOTEBOOK", said, [("leave", "Leave it"), ("out", "Take it out")]),
            lambda answer: self.recording.write_page(page, out=True) if answer == "out" else None,
        )

    def word_of_keys(self) -> str:
        """What the keys move through."""
        return "run"

    def action_report(self) -> None:
        """Write the report."""
        self.recording.ask_for_report()


def run_lines(
    run: PastRun,
    before: PastRun | None,
    versions: tuple[Version | None, Version | None] | None,
    width: int,
    roomy: bool,
) -> list[list[Piece]]:
    """One run: its tally, what it settled and broke, what was changed in the program."""
    counts: list[Piece] = [Piece(" ")]
    for outcome, ink in INK_OF.items():
        count = sum(o is outcome for o in run.outcomes.values())
        if count:
            word = outcome.value if count == 1 else outcome.plural
            counts.append(Piece(f"{count} {word}   ", ink, True))
    lines = [counts]
    step = between(before, run)
    for names, word, ink in ((step.settled, "settled", "agree"), (step.broke, "broke", "odd"),
                             (step.new, "new cases", "quiet")):  # fmt: skip
        if names and before is not None:
            text = f"{word}: {', '.join(names)}"
            lines += wrapped(text.replace("`", "'"), width - 1, ink, indent=1)
    blank: list[list[Piece]] = [[]] if roomy else []
    return [*lines, *blank, *_program_lines(run, before, versions, width)]


def _program_lines(
    run: PastRun,
    before: PastRun | None,
    versions: tuple[Version | None, Version | None] | None,
    width: int,
) -> list[list[Piece]]:
    if before is None:
        return [[Piece(" The first run that is recorded here.", "quiet")]]
    if before.version == run.version:
        return [[Piece(" The program is the same as in the run before.", "quiet")]]
    if versions is None or versions[0] is None or versions[1] is None:
        return [[Piece(" The program is being read.", "quiet")]]
    old, new = versions[0].files, versions[1].files
    lines: list[list[Piece]] = [[Piece(" changed in the program", "quiet")]]
    edits = [e for name in new for e in edits_of(Source(name, old.get(name, "")), new[name])]
    for edit in edits[:_MOST_EDITS]:
        text = edit_words(edit).replace("`", "'")
        lines += wrapped(own(text), width - 3, "strong", indent=3)
    if len(edits) > _MOST_EDITS:
        lines.append([Piece(f"   and {len(edits) - _MOST_EDITS} places more", "quiet")])
    return lines


def _count_words(shown: int, count: int) -> str:
    if not count:
        return ""
    return f"{count:,} in all" if shown == count else f"the last {shown:,} of {count:,}"


def _first_steps(width: int) -> list[list[Piece]]:
    lines: list[list[Piece]] = [[]]
    for text in (
        "A run of the plan is written down with its time, the program as it was, and how every "
        "case came out. So you can see when a case was settled, and what you changed then.",
        "Any program of before can be put back. Nothing here is ever sent anywhere.",
    ):
        lines += [*wrapped(text, width, "quiet"), []]
    return lines
