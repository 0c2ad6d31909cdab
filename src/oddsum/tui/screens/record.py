"""Record: every run of the plan, what it settled and broke, and the notebook."""

from __future__ import annotations

import time
from collections.abc import Iterable
from typing import ClassVar

from textual import on
from textual.binding import BindingType
from textual.containers import Vertical, VerticalScroll
from textual.widget import Widget

from oddsum.mend.words import edit_words
from oddsum.model.history import Entry, PastRun
from oddsum.record.changes import between
from oddsum.source.edits import edits_of
from oddsum.source.program import Source
from oddsum.trace.words import counted
from oddsum.tui.actions import bindings_of
from oddsum.tui.glyphs import own
from oddsum.tui.inks import INK_OF
from oddsum.tui.screens.station import Station
from oddsum.tui.widgets.divider import Divider
from oddsum.tui.widgets.heading import Heading
from oddsum.tui.widgets.notebook import notebook_lines
from oddsum.tui.widgets.panels import Panels
from oddsum.tui.widgets.prose import Prose, wrapped
from oddsum.tui.widgets.run_grid import RunGrid, grid_lines, place_at
from oddsum.tui.widgets.tries import tries_lines
from oddsum.tui.writing import Piece
from oddsum.workspace.interface import Part
from oddsum.workspace.recording import Record, Versions

_MOST_EDITS = 8  # places of a program that are listed for a run


class RecordScreen(Station):
    """The grid of runs at the left, the run in hand and the notebook beside it."""

    station = "record"
    BINDINGS: ClassVar[list[BindingType]] = [*bindings_of("record")]

    def compose_body(self) -> Iterable[Widget]:
        """Lay out runs, the one in hand, and the notebook."""
        with Panels(56, id="body"):
            with Vertical(id="left", classes="column"):
                yield Heading("RUNS", id="runs-heading")
                with VerticalScroll(id="runs-scroll", can_focus=False):
                    yield RunGrid(id="runs")
                yield Heading("TRIES SO FAR", id="tries-heading").add_class("spaced", "roomy")
                with VerticalScroll(id="tries-scroll", can_focus=False).add_class("roomy"):
                    yield Prose(id="tries")
            yield Divider()
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

    def show_body(self, parts: frozenset[Part]) -> None:
        """Bring runs, tries and notebook up to date."""
        if parts & {Part.RECORD, Part.MARKS}:
            self._show_runs()
            self._show_run()
            self._show_notebook()
        if parts & {Part.TRIES, Part.MARKS}:
            tries = self.workspace.tries.all
            self.query_one("#tries-heading", Heading).right = f"{len(tries)}" if tries else ""
            self.query_one("#tries", Prose).write(lambda width: tries_lines(tries, width))

    @property
    def _record(self) -> Record:
        return self.workspace.recording.record

    def _show_runs(self) -> None:
        record, grid, fault = self._record, self.query_one(RunGrid), self.workspace.archive.fault
        heading = self.query_one("#runs-heading", Heading)
        heading.lit = True
        heading.right = _count_words(len(record.runs), record.count)
        tall = not self.has_class("-narrow")
        if record.runs:
            grid.write(lambda width: grid_lines(record, width, tall))
            return
        said = (
            "Every run of the whole plan is written down here, with the program as it was."
            if record.read
            else fault or "The record is being read."
        )
        grid.write(lambda width: [[], *wrapped(said, width, "quiet")])

    def _show_notebook(self) -> None:
        record = self._record
        pages = self.query_one("#notebook-heading", Heading)
        pages.right = counted(len(record.entries), "page") if record.entries else ""
        self.query_one("#notebook", Prose).write(
            lambda width: notebook_lines(record.entries, record.page, width)
        )

    def _show_run(self) -> None:
        record = self._record
        run, before = record.run_in_hand()
        heading, prose = self.query_one("#run-heading", Heading), self.query_one("#run", Prose)
        if run is None:
            heading.title, heading.right = "HOW THE RECORD WORKS", ""
            prose.write(_first_steps)
            return
        heading.title = f"RUN {record.number_of(record.cursor)}"
        heading.right = time.strftime("%d %b %Y, %H:%M:%S", time.localtime(run.at))
        pair = self.workspace.recording.versions_in_hand()
        roomy = not self.has_class("-narrow")
        prose.write(lambda width: run_lines(run, before, pair, width, roomy))

    # -- runs --------------------------------------------------------------------------------

    @on(RunGrid.Moved)
    def choose(self, message: RunGrid.Moved) -> None:
        """Another run is in hand."""
        if message.column is None:
            self.workspace.recording.move(message.by)
            return
        place = place_at(self._record, self.query_one(RunGrid).size.width, message.column)
        if place is not None:
            self.workspace.recording.choose(place)

    def action_to_end(self, side: int) -> None:
        """To the first run that is shown, or the last."""
        self.workspace.recording.choose(0 if side < 0 else len(self._record.runs) - 1)

    def action_mark(self) -> None:
        """Mark the run in hand, or no longer."""
        self.workspace.recording.mark()

    def action_side_by_side(self) -> None:
        """The marked run and this one; without a mark, the one before and this one."""
        recording = self.workspace.recording
        pair = recording.pair_to_compare()
        if pair is None:
            return
        first, second = pair
        runs = recording.record.runs
        recording.read_versions(
            (runs[first].version, runs[second].version),
            lambda versions: self._open_comparison(first, second, versions),
        )

    def _open_comparison(self, first: int, second: int, versions: Versions) -> None:
        from oddsum.tui.dialogs.two_versions import two_versions_page

        record, (old, new) = self._record, versions
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
        self.workspace.put_run_back()

    # -- the notebook ------------------------------------------------------------------------

    @on(RunGrid.Turned)
    def turn(self, message: RunGrid.Turned) -> None:
        """Another page is in hand; the newest stands at the top."""
        self.workspace.recording.turn(-message.by)

    def action_edit(self) -> None:
        """Write in the page in hand."""
        page = self.workspace.recording.page_in_hand()
        if page is None:
            self.notify("There is no page yet. A begins one.")
        else:
            self._open_page(page)

    def action_add(self) -> None:
        """Begin a page."""
        self._open_page(Entry(at=time.time()))

    def _open_page(self, page: Entry) -> None:
        from oddsum.tui.dialogs.page_card import PageCard

        def keep(changed: Entry | None) -> None:
            if changed is not None:
                self.workspace.recording.write_page(changed)

        self.app.push_screen(PageCard(page), keep)

    def action_delete(self) -> None:
        """Take the page in hand out of the notebook."""
        self.workspace.recording.ask_to_take_out()

    def word_of_keys(self) -> str:
        """What the keys move through."""
        return "run"

    def action_report(self) -> None:
        """Ask where the report is to be written, then write it."""
        from oddsum.tui.dialogs.ask import Ask

        reporting = self.workspace.reporting
        if not reporting.may_write():
            return

        def write(text: str | None) -> None:
            if text is not None:
                reporting.write(text)

        ask = Ask(
            "WRITE THE REPORT",
            "Into which file? It may end in .html or .md.",
            "In it: the plan with its results, the trace table of the case in hand, leads as far "
            "as you uncovered them, charts, the notebook, and the program.",
            reporting.check_path,
            typed=str(reporting.usual_path()),
        )
        self.app.push_screen(ask, write)


def run_lines(
    run: PastRun,
    before: PastRun | None,
    versions: Versions | None,
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
    if not run.outcomes:
        counts.append(Piece("not checked: kept because another text replaced it", "quiet"))
    lines = [counts]
    step = between(before, run)
    for names, word, ink in ((step.settled, "settled", "agree"), (step.broke, "broke", "odd"),
                             (step.new, "new cases", "quiet")):  # fmt: skip
        if names and before is not None and before.outcomes:
            text = f"{word}: {', '.join(names)}"
            lines += wrapped(text.replace("`", "'"), width - 1, ink, indent=1)
    blank: list[list[Piece]] = [[]] if roomy else []
    return [*lines, *blank, *_program_lines(run, before, versions, width)]


def _program_lines(
    run: PastRun,
    before: PastRun | None,
    versions: Versions | None,
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
