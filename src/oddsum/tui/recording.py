"""The record in the background: checks written down, the notebook, runs held side by side."""

from __future__ import annotations

import time
from functools import partial
from pathlib import Path

from textual import on

from oddsum.mend.effect import effect_of
from oddsum.mend.words import effect_words
from oddsum.model.errors import OddSumError
from oddsum.model.history import Entry, PastRun
from oddsum.model.lead import Edit
from oddsum.tui import messages
from oddsum.tui.screens.station import Station
from oddsum.tui.uncovering import UncoveringApp


class RecordingApp(UncoveringApp):
    """Writes down what happens, and reads it back for the screen."""

    def read_record(self) -> None:
        """Read what is recorded of the program."""
        from oddsum.tui.record_workers import read_record

        self._start("record", partial(read_record, self, self.history))

    def plan_has_run(self) -> None:
        """Write the check down; say what a kept change did; try the change in hand anew."""
        from oddsum.tui.record_workers import record_run

        super().plan_has_run()
        work = self.work
        assert work.plan is not None
        run = PastRun(
            at=time.time(),
            seconds=work.seconds,
            plan=work.plan.file.name if work.plan.file is not None else "",
            interpreter=work.interpreter.title if work.interpreter is not None else "",
            outcomes={r.name: r.outcome for r in work.in_order()},
        )
        self._say_what_was_settled()
        # Its own group, and never cut short: a check that has run is written down.
        start = partial(record_run, self, self.history, run, work.version)
        self.run_worker(start, thread=True, group="record")
        draft = work.draft
        if draft is not None and draft.changed:
            draft.tried = ""
            self.start_try()

    def _say_what_was_settled(self) -> None:
        """After a change was kept: what the whole plan says of it now."""
        work = self.work
        if not work.kept_edits:
            return
        effect, edits = effect_of(work.kept_before, work.results), work.kept_edits
        work.kept_edits = ()
        self.notify(f"Kept. {effect_words(effect)}", timeout=10)
        if effect.settled:
            self._begin_page(edits, effect.settled)
        if not work.odd():
            self.look_for_gaps()

    def _begin_page(self, edits: tuple[Edit, ...], settled: tuple[int, ...]) -> None:
        """A page of the notebook for a fault that is mended, with what is known of it."""
        from oddsum.record.notebook import page_for

        work, search = self.work, self.work.search
        names = {c.number: c.name for c in work.cases}
        before = work.kept_source
        if before is None:
            return
        page = page_for(
            edits,
            [names[n] for n in settled if n in names],
            before,
            leads=[(x, search.level(x)) for x in search.leads] if search is not None else (),
            runs=work.record.runs,
            tries=work.tries,
            now=time.time(),
        )
        self.write_page(page)
        self.notify("A page about it was begun in the notebook (5).")

    # -- the notebook ------------------------------------------------------------------------

    def write_page(self, page: Entry, out: bool = False) -> None:
        """Write a page of the notebook, or take it out."""
        from oddsum.tui.record_workers import write_entry

        start = partial(write_entry, self, self.history, page, out)
        self.run_worker(start, thread=True, group="record")

    @on(messages.RecordRead)
    def record_read(self, message: messages.RecordRead) -> None:
        """The record as it is now; the run in hand stays, a last one in hand gives way to newer."""
        record, work = self.work.record, self.work
        at_end = record.cursor >= len(record.runs) - 1
        held = [record.runs[n].number if 0 <= n < len(record.runs) else 0
                for n in (record.cursor, record.marked)]  # fmt: skip
        first = message.runs[0].number if message.runs else 0
        earlier = tuple(r for r in record.runs if r.number < first)  # read before, by going there
        record.runs = (*earlier, *message.runs)
        numbers = [r.number for r in record.runs]
        record.count, record.entries = message.count, message.entries
        record.read = True
        last = len(numbers) - 1
        record.cursor = last if at_end or held[0] not in numbers else numbers.index(held[0])
        record.marked = numbers.index(held[1]) if held[1] in numbers else -1
        record.page = max(0, min(record.page, len(record.entries) - 1))
        work.tries = message.tries
        self._say_damaged()
        self.show()

    def read_earlier(self) -> None:
        """Read the runs ahead of those that are shown."""
        from oddsum.tui.record_workers import read_earlier

        first = self.work.record.runs[0].number
        self._start("earlier", partial(read_earlier, self, self.history, first))

    @on(messages.EarlierRead)
    def earlier_read(self, message: messages.EarlierRead) -> None:
        """They stand ahead of the others; the run in hand is the last of them."""
        record = self.work.record
        if not message.runs or not record.runs or message.runs[-1].number >= record.runs[0].number:
            return
        more = len(message.runs)
        record.runs = (*message.runs, *record.runs)
        record.cursor = more - 1
        record.marked += more if record.marked >= 0 else 0
        self.show()

    def _say_damaged(self) -> None:
        store = self.history.store
        if store.set_aside is not None:
            self.notify(store.damage, severity="warning", timeout=15)
            store.set_aside = None

    # -- versions ----------------------------------------------------------------------------

    def compare_runs(self, first: int, second: int) -> None:
        """Read the programs of two runs, by their places in the record that is shown."""
        runs = self.work.record.runs
        self.read_versions((runs[first].version, runs[second].version))

    def read_versions(self, numbers: tuple[int, int]) -> None:
        """Read two versions of the program; 0 stands for the one on disk."""
        from oddsum.tui.record_workers import read_versions

        self._start("versions", partial(read_versions, self, self.history, numbers))

    @on(messages.VersionsRead)
    def versions_read(self, message: messages.VersionsRead) -> None:
        """Two versions are there; the station that asked for them shows them."""
        for screen in self.screen_stack:
            if isinstance(screen, Station):
                screen.take_versions(message)

    def take_version(self, name: str, text: str, words: str) -> None:
        """Put a file of an earlier version in hand at Mend, as a change to be tried and kept."""
        draft = self.open_draft(name)
        if draft is None or draft.source.name != name or draft.changed:
            self.notify("Keep or put back the change in hand at Mend first.", severity="warning")
            return
        self.set_draft(text, taken=words)
        self.action_go("mend")

    # -- the report --------------------------------------------------------------------------

    def ask_for_report(self) -> None:
        """Ask where the report is to be written, then write it."""
        from oddsum.record.assemble import format_of
        from oddsum.tui.dialogs.ask import Ask

        work = self.work
        if not work.complete() or work.fault is not None:
            self.notify("A report tells how the cases came out: wait until the plan has run.")
            return
        start = Path(f"{work.program.stem}-report.html")

        def check(text: str) -> None:
            path = Path(text.strip()).expanduser()
            format_of(path)
            if not path.absolute().parent.is_dir():
                raise OddSumError(f"There is no folder {path.absolute().parent}.")

        ask = Ask(
            "WRITE THE REPORT",
            "Into which file? It may end in .html or .md.",
            "In it: the plan with its results, the trace table of the case in hand, leads as far "
            "as you uncovered them, charts, the notebook, and the program.",
            check,
            typed=str(work.program.resolve().parent / start),
        )
        self.push_screen(ask, self._write_report)

    def _write_report(self, text: str | None, over: bool = False) -> None:
        from oddsum.tui.dialogs.choose import Choose
        from oddsum.tui.record_workers import write_report

        if text is None:
            return
        path, work = Path(text.strip()).expanduser(), self.work
        if path.exists() and not over:
            said = [f"{path.name} is there already, from before."]
            answers = [("leave", "Leave it"), ("over", "Write over it")]
            self.push_screen(
                Choose("THE FILE IS THERE", said, answers),
                lambda answer: self._write_report(text, over=True) if answer == "over" else None,
            )
            return
        assert work.plan is not None and work.interpreter is not None
        search, traced = work.search, work.traced
        leads = [(x, search.level(x)) for x in search.leads] if search and not search.stale else []
        chosen = [traced.case] if traced is not None and traced.case in work.cases else []
        self.notify(f"Writing {path.name}.")
        start = partial(write_report, self, path, work.plan, work.interpreter, self.history,
                        chosen, work.in_order(), leads)  # fmt: skip
        self._start("report", start)

    @on(messages.ReportWritten)
    def report_written(self, message: messages.ReportWritten) -> None:
        """The report is there, or could not be written."""
        if message.fault is not None:
            self.notify(str(message.fault), severity="error", timeout=15)
            return
        self.notify(f"The report is written: {message.path.name}, in {message.path.parent}.",
                    timeout=10)  # fmt: skip
        for remark in message.remarks:
            self.notify(remark, severity="warning", timeout=15)
