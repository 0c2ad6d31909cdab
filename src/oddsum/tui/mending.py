"""Mending in the background: changes tried on a copy, kept, put back; and the tries remembered."""

from __future__ import annotations

import time
from collections.abc import Sequence
from functools import partial
from pathlib import Path

from textual import on
from textual.app import SuspendNotSupported
from textual.timer import Timer

from oddsum.mend.effect import key_of
from oddsum.mend.words import edits_words
from oddsum.model.errors import OddSumError
from oddsum.model.history import Try
from oddsum.model.lead import Lead
from oddsum.record.history import History
from oddsum.run.editor import edited_with, editor_command
from oddsum.source.edits import applied
from oddsum.source.program import Source, read_source
from oddsum.source.switch import switched
from oddsum.tui import messages
from oddsum.tui.draft import Draft
from oddsum.tui.planning import PlanningApp

PAUSE = 0.35  # seconds without a key, after which a change is tried
STOOD = 2.0  # seconds that a try must stand before it counts as one that was looked at


def _stand(draft: Draft) -> tuple[object, ...]:
    """All that a change shows outside of the program's own text."""
    tried = draft.tried == draft.text
    return draft.changed, draft.changed_lines(), tried, draft.trying, draft.taken


class MendingApp(PlanningApp):
    """Holds the change in hand and tries it; writes it only when the learner says so."""

    def __init__(self, program: Path, plan_file: Path | None, python: str | None) -> None:
        super().__init__(program, plan_file, python)
        self.history = History(program)
        self.editor_setting = ""
        self._pausing: Timer | None = None

    # -- the text in hand --------------------------------------------------------------------

    def open_draft(self, file: str = "", line: int = 0) -> Draft | None:
        """The change in hand: the one there is, or one begun on a file of the program.

        Another file is taken up only while nothing in the one in hand is changed.
        """
        work = self.work
        draft, name = work.draft, file or (work.draft.source.name if work.draft else "")
        if draft is None or (name and name != draft.source.name and not draft.changed):
            source = self.source_of(name) if name else work.source
            if source is None:
                return draft
            path = (work.program.resolve().parent / source.name).resolve()
            draft = work.draft = Draft(path, source, source.text)
        if line and draft.source.name == (file or draft.source.name):
            draft.cursor = (max(0, line - 1), 0)
        return draft

    def draft_changed(self, text: str) -> None:
        """The text is another now: it is tried as soon as typing pauses."""
        draft = self.work.draft
        if draft is None or draft.text == text:
            return
        before = _stand(draft)
        draft.text, draft.taken = text, ""
        self._try_soon()
        if _stand(draft) != before:  # most keys change nothing but the program itself
            self.show()

    def set_draft(self, text: str, taken: str = "") -> None:
        """Put another text in hand; the editor follows, and can take it back."""
        draft = self.work.draft
        if draft is None:
            return
        draft.text, draft.taken = text, taken
        draft.revision += 1
        self._try_soon(0.0)
        self.show()

    def _try_soon(self, pause: float = PAUSE) -> None:
        draft = self.work.draft
        self.workers.cancel_group(self, "try")
        if self._pausing is not None:
            self._pausing.stop()
        if draft is not None:
            draft.number += 1
            draft.trying = None
        self._pausing = self.set_timer(max(pause, 0.01), self.typing_paused)

    def typing_paused(self) -> None:
        """Nothing was typed for a moment: the text is tried."""
        self._pausing = None
        self.start_try()

    # -- trying ------------------------------------------------------------------------------

    def start_try(self) -> None:
        """Run the plan on a copy with the text in hand."""
        from oddsum.tui.record_workers import try_text

        work, draft = self.work, self.work.draft
        if draft is None or not draft.changed or (draft.tried == draft.text and not draft.conflict):
            return
        if work.plan is None or not work.cases or work.interpreter is None:
            return
        draft.number += 1
        draft.trying, draft.tried, draft.fault, draft.results = 0, draft.text, None, {}
        start = partial(
            try_text, self, draft.number, work.plan, draft.source, draft.text, work.interpreter
        )
        self._start("try", start)
        self.show()

    @on(messages.TryCaseFinished)
    def try_case_finished(self, message: messages.TryCaseFinished) -> None:
        """A case has run on the copy."""
        draft = self.work.draft
        if draft is None or message.number != draft.number or draft.trying is None:
            return
        draft.results[message.result.number] = message.result
        draft.trying += 1
        self._show_soon()

    @on(messages.TryEnded)
    def try_ended(self, message: messages.TryEnded) -> None:
        """The whole plan has run on the copy, or it could not be begun."""
        draft = self.work.draft
        if draft is None or message.number != draft.number:
            return
        draft.trying, draft.seconds, draft.fault = None, message.seconds, message.fault
        if draft.fault is None and len(draft.results) < len(self.work.cases):
            draft.tried = ""  # stopped half way: it says nothing
        else:
            self.set_timer(STOOD, partial(self._list_try, draft.number))
        self.show()

    def action_stop_work(self) -> None:
        """Stop what is running, a try too."""
        draft = self.work.draft
        if draft is not None and draft.trying is not None:
            self.workers.cancel_group(self, "try")
            draft.number += 1
            draft.trying, draft.tried, draft.results = None, "", {}
            self.notify("The try was stopped. The next key begins another.")
            self.show()
            return
        super().action_stop_work()

    # -- the tries ---------------------------------------------------------------------------

    def _list_try(self, number: int) -> None:
        """Remember a try whose result was looked at for a moment."""
        draft = self.work.draft
        if draft is not None and draft.number == number and draft.shown:
            self.list_try(draft)

    def list_try(self, draft: Draft, kept: bool = False) -> None:
        """Put a try into the list, or say of it that it was kept."""
        from oddsum.tui.record_workers import remember_try

        effect = draft.effect(self.work.results)
        if effect is None or (draft.listed == draft.text and not kept):
            return
        first = draft.listed != draft.text
        draft.listed = draft.text
        names = {c.number: c.name for c in self.work.cases}
        tried = Try(
            at=time.time(),
            key=key_of(draft.source.name, draft.text),
            edits=draft.edits,
            settled=tuple(names[n] for n in effect.settled if n in names),
            broke=tuple(names[n] for n in effect.broke if n in names),
            agreeing=effect.agreeing,
            cases=effect.cases,
            kept=kept,
            words=draft.taken,
        )
        # Not exclusive: a try on its way into the list is not to be cut short by the next.
        start = partial(remember_try, self, self.history, tried, first)
        self.run_worker(start, thread=True, group="tries")

    def tried_before(self, draft: Draft) -> Try | None:
        """The same text in the list of tries, from before."""
        if draft.listed == draft.text:
            return None
        key = key_of(draft.source.name, draft.text)
        return next((t for t in self.work.tries if t.key == key), None)

    @on(messages.TriesRead)
    def tries_read(self, message: messages.TriesRead) -> None:
        """The list of tries, as it is recorded now."""
        self.work.tries = message.tries
        self.show()

    def say_of_record(self, fault: OddSumError) -> None:
        """The record could not be had: told once, for nothing else depends on it."""
        if str(fault) != self.work.record_fault:
            self.work.record_fault = str(fault)
            self.notify(str(fault), severity="warning", timeout=15)

    @on(messages.RecordFailed)
    def record_failed(self, message: messages.RecordFailed) -> None:
        """Something could not be recorded."""
        self.say_of_record(message.fault)

    # -- what can be done to the text --------------------------------------------------------

    def switch_line(self, line: int) -> None:
        """Switch the statement on a line off, or on again."""
        draft = self.work.draft
        if draft is None:
            return
        if draft.path.suffix != ".py":
            self.notify("Lines are switched off in Python programs.")
            return
        try:
            text, off = switched(Source(draft.source.name, draft.text), line)
        except OddSumError as error:
            self.notify(str(error), severity="warning")
            return
        self.set_draft(text)
        self.notify(f"Line {line} is {'off. The same key switches it on again' if off else 'on'}.")

    def put_back(self) -> None:
        """Make the text what the file has."""
        draft = self.work.draft
        if draft is None or not draft.changed:
            self.notify("The text here is as the file has it.")
            return
        if draft.shown:
            self.list_try(draft)
        self.set_draft(draft.source.text)
        self.notify("As the file has it. Ctrl+Z brings your change back.")

    def take_over(self, lead: Lead) -> bool:
        """Put a lead's mend into the text, as an ordinary change; or go to its line.

        Returns False where something else is in hand already.
        """
        search, draft = self.work.search, self.open_draft(lead.file, lead.lines[0])
        if draft is None or search is None:
            return False
        if draft.source.name != lead.file:
            self.notify(
                f"Keep or put back what you changed in {draft.source.name} first; lead "
                f"{lead.letter} is in {lead.file}.",
                severity="warning",
            )
            return False
        if lead.mend is None or search.level(lead) < 2 or search.stale:
            return True
        edits = tuple(e for e in lead.mend.edits if e.file == draft.source.name)
        self.set_draft(applied(draft.source, edits), taken=f"the mend of lead {lead.letter}")
        return True

    def use_own_editor(self, line: int) -> None:
        """Edit the text in the learner's own editor; what it leaves is in hand afterwards."""
        draft = self.work.draft
        if draft is None:
            return
        text = draft.text
        fault: OddSumError | None = None
        try:
            command = editor_command(self.editor_setting)
            with self.suspend():
                try:  # within: an error that leaves the block would leave the screen suspended
                    text = edited_with(command, draft.text, draft.source.name, line)
                except OddSumError as error:
                    fault = error
        except OddSumError as error:
            fault = error
        except SuspendNotSupported:
            self.notify("This terminal does not let another program take over the screen.")
            return
        if fault is not None:
            self.notify(str(fault), severity="warning", timeout=10)
        elif text != draft.text:
            self.set_draft(text.replace("\r\n", "\n"))

    # -- keeping -----------------------------------------------------------------------------

    def keep_draft(self, over: bool = False, without_record: bool = False) -> None:
        """Write the text into the file, with the version before it kept in the record."""
        from oddsum.tui.record_workers import keep_text

        draft = self.work.draft
        if draft is None or not draft.changed:
            self.notify("There is nothing to keep: the text here is as the file has it.")
            return
        history = None if without_record else self.history
        # Said ahead of the write: news of the save may come before the word that it was written.
        self.written[draft.path] = draft.text
        self._start("keep", partial(keep_text, self, history, draft.path, draft.source,
                                    draft.text, over))  # fmt: skip

    @on(messages.Kept)
    def kept(self, message: messages.Kept) -> None:
        """The file is written: the plan runs on it."""
        work, draft = self.work, self.work.draft
        if draft is None or draft.path != message.path:
            return
        draft.conflict = False
        work.kept_before = dict(work.results)
        work.kept_edits, work.kept_source = draft.edits, draft.source
        self.list_try(draft, kept=True)
        draft.source = message.source
        self.read_files()
        work.make_stale()
        if work.traced is not None:
            work.traced.stale = True
        self._drop_search(changed=True)
        self.notify(f"Kept: {edits_words(work.kept_edits)}.")
        if work.fault is None and work.cases:
            self.action_check()
        self.show()

    @on(messages.KeepRefused)
    def keep_refused(self, message: messages.KeepRefused) -> None:
        """Nothing was written: say why, and ask what to do where there is a choice."""
        from oddsum.tui.dialogs.choose import Choose

        draft = self.work.draft
        if draft is None:
            return
        if message.why == "changed":
            said: Sequence[str] = (
                str(message.fault),
                "Keeping yours would lose what was done there; it stays in the record (5).",
            )
            answers = [("leave", "Neither yet"), ("mine", "Keep mine over it"),
                       ("theirs", "Take the file's, drop mine")]  # fmt: skip
            self.push_screen(Choose("THE FILE HAS CHANGED", said, answers), self._after_conflict)
        elif message.why == "record":
            said = (str(message.fault), "The version before would be lost if you keep this now.")
            answers = [("leave", "Do not keep it yet"), ("anyway", "Keep it anyway")]
            self.push_screen(
                Choose("THE VERSION BEFORE", said, answers),
                lambda a: self.keep_draft(without_record=True) if a == "anyway" else None,
            )
        else:
            self.notify(str(message.fault), severity="error", timeout=15)

    def _after_conflict(self, answer: str | None) -> None:
        draft = self.work.draft
        if draft is None:
            return
        if answer == "mine":
            self.keep_draft(over=True)
        elif answer == "theirs":
            try:
                draft.source = read_source(draft.path, draft.source.name)
            except OddSumError as error:
                self.notify(str(error), severity="error", timeout=15)
                return
            draft.conflict = False
            self.set_draft(draft.source.text)

    def read_files(self) -> None:
        """Read program and plan; a text that nobody has changed here follows the file."""
        super().read_files()
        draft = self.work.draft
        if draft is None:
            return
        now = self.source_of(draft.source.name)
        if now is None or now.text == draft.source.text:
            draft.conflict = False
        elif not draft.changed or draft.text == now.text:
            draft.source, draft.text, draft.conflict = now, now.text, False
            draft.revision += 1
        else:
            draft.conflict = True
