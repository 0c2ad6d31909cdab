"""What runs in the background for Mend and Record: tries, keeping, and the record itself."""

from __future__ import annotations

import time
from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING

from textual.worker import get_current_worker

from oddsum.formats.table import write
from oddsum.mend.attempt import attempt
from oddsum.mend.keep import ChangedMeanwhile, keep
from oddsum.model.case import Case, Plan
from oddsum.model.errors import OddSumError
from oddsum.model.history import Entry, PastRun, Try, Unkept, Version
from oddsum.model.lead import Lead
from oddsum.model.outcome import CaseResult
from oddsum.record.assemble import assemble, format_of
from oddsum.record.history import History
from oddsum.record.store import StoreError
from oddsum.record.uncovered import Levels, recall, remember
from oddsum.record.unkept import hold, left_behind, let_go
from oddsum.record.versions import version_of
from oddsum.run.interpreter import Interpreter
from oddsum.run.running import own_process
from oddsum.source.program import Source
from oddsum.source.save import replace_file
from oddsum.tui import messages

if TYPE_CHECKING:
    from textual.app import App


def try_text(
    app: App[None], number: int, plan: Plan, source: Source, text: str, interpreter: Interpreter
) -> None:
    """Run the plan on a copy in which a file has another text, and tell each result."""
    worker = get_current_worker()
    started, fault = time.monotonic(), None
    try:
        for result in attempt(plan, source, text, interpreter, stop=worker.cancelled_event):
            app.post_message(messages.TryCaseFinished(number, result))
    except OddSumError as error:
        fault = error
    if not worker.is_cancelled:  # a copy that cannot start sets the event as well
        app.post_message(messages.TryEnded(number, time.monotonic() - started, fault))


def keep_text(
    app: App[None], history: History | None, path: Path, source: Source, text: str, over: bool
) -> None:
    """Keep the version before, then write the text into its file."""
    try:
        if history is not None:
            history.keep_version(version_of(history.program))
    except OddSumError as error:
        app.post_message(messages.KeepRefused("record", error))
        return
    try:
        written = keep(path, source, text, over=over)
    except ChangedMeanwhile as error:
        app.post_message(messages.KeepRefused("changed", error))
    except OddSumError as error:
        app.post_message(messages.KeepRefused("write", error))
    else:
        app.post_message(messages.Kept(path, written))


def remember_try(app: App[None], history: History, tried: Try, first: bool) -> None:
    """Record a try; ``first`` says that it was not in the list a moment ago."""
    with history.turn:
        try:
            if first:
                history.add_try(tried)
            else:
                history.keep_try(tried)
            app.post_message(messages.TriesRead(history.tries()))
        except StoreError as error:
            app.post_message(messages.RecordFailed(error))


def hold_change(
    app: App[None], history: History, in_hand: Callable[[], Unkept | None], instead_of: int
) -> None:
    """Write down the change in hand, or that there is none. It is asked for in its turn: of two
    that wait, the later does not write what the earlier was to.
    """
    with history.turn:
        try:
            change = in_hand()
            if change is not None:
                hold(history, change)
            else:
                let_go(history, own_process())
            if instead_of not in (0, own_process()):
                let_go(history, instead_of)
        except StoreError as error:
            app.post_message(messages.RecordFailed(error))


def read_unkept(app: App[None], history: History) -> None:
    """Read what windows that are gone had in hand."""
    try:
        app.post_message(messages.UnkeptFound(left_behind(history)))
    except StoreError as error:
        app.post_message(messages.RecordFailed(error))


def remember_uncovered(app: App[None], history: History, levels: Levels) -> None:
    """Write down how far leads of the program are uncovered."""
    with history.turn:
        try:
            remember(history, version_of(history.program), levels)
        except OddSumError as error:
            app.post_message(messages.RecordFailed(error))


def read_uncovered(app: App[None], history: History) -> None:
    """Read how far leads of the program were uncovered."""
    try:
        app.post_message(messages.UncoveredRead(recall(history, version_of(history.program))))
    except OddSumError as error:
        app.post_message(messages.RecordFailed(error))


def record_run(app: App[None], history: History, run: PastRun, version: Version | None) -> None:
    """Record a check of a version, the one on disk where it is not known; then read the record."""
    with history.turn:
        try:
            history.add_run(run, version or version_of(history.program))
        except OddSumError as error:
            app.post_message(messages.RecordFailed(error))
        _tell_record(app, history)


def read_record(app: App[None], history: History) -> None:
    """Read what is recorded of the program."""
    with history.turn:
        _tell_record(app, history)


def _tell_record(app: App[None], history: History) -> None:
    try:
        runs, count = history.runs(), history.count()
        tries, entries = history.tries(), history.entries()
    except StoreError as error:
        app.post_message(messages.RecordFailed(error))
        return
    app.post_message(messages.RecordRead(runs, count, tries, entries))


def read_earlier(app: App[None], history: History, before: int) -> None:
    """Read the checks ahead of one."""
    try:
        app.post_message(messages.EarlierRead(history.runs(before=before)))
    except StoreError as error:
        app.post_message(messages.RecordFailed(error))


def write_entry(app: App[None], history: History, entry: Entry, out: bool = False) -> None:
    """Write a page of the notebook, or take it out; then read the record."""
    with history.turn:
        try:
            if out:
                history.take_out(entry)
            else:
                history.write_entry(entry)
        except StoreError as error:
            app.post_message(messages.RecordFailed(error))
        _tell_record(app, history)


def read_versions(app: App[None], history: History, numbers: tuple[int, int]) -> None:
    """Read two versions, to be held against each other; 0 stands for what is on disk."""
    found: list[Version | None] = []
    try:
        for number in numbers:
            found.append(history.version(number) if number else version_of(history.program))
    except OddSumError as error:
        app.post_message(messages.RecordFailed(error))
        return
    app.post_message(messages.VersionsRead(numbers, (found[0], found[1])))


def write_report(
    app: App[None],
    path: Path,
    plan: Plan,
    interpreter: Interpreter,
    history: History,
    chosen: list[Case],
    results: tuple[CaseResult, ...],
    leads: list[tuple[Lead, int]],
) -> None:
    """Put the report together and write it."""
    stop, fault = get_current_worker().cancelled_event, None
    remarks: tuple[str, ...] = ()
    try:
        made, remarks = assemble(plan, interpreter, history, chosen=chosen, results=results,
                                 leads=leads, stop=stop)  # fmt: skip
        replace_file(path, write("report", format_of(path), made).encode("utf-8"))
    except OddSumError as error:
        fault = error
    app.post_message(messages.ReportWritten(path, fault, remarks))
