"""The change in hand outlives its window: written down as typing pauses, and offered again."""

from __future__ import annotations

import contextlib
import time
from collections.abc import Sequence
from functools import partial

from textual import on

from oddsum.mend.words import edit_words
from oddsum.model.history import Unkept
from oddsum.model.lead import Edit
from oddsum.record.store import StoreError
from oddsum.run.running import own_process
from oddsum.source.edits import edits_of
from oddsum.source.program import Source
from oddsum.tui import messages
from oddsum.tui.mending import MendingApp

_MOST_PLACES = 5  # that are told, each in a line


def _places(edits: Sequence[Edit]) -> list[str]:
    told = [edit_words(e) for e in edits[:_MOST_PLACES]]
    more = len(edits) - len(told)
    return [*told, f"and {more} more"] if more else told


class HoldingApp(MendingApp):
    """Holds what is in no file yet, and lets it go once it is kept, put back or dropped."""

    def typing_paused(self) -> None:
        """Write the change in hand down, then try it."""
        self.hold_change()
        super().typing_paused()

    def change_in_hand(self) -> Unkept | None:
        """The change as it stands now; None where the text is the file's."""
        draft = self.work.draft
        if draft is None or not draft.changed:
            return None
        return Unkept(at=time.time(), window=own_process(), file=draft.source.name,
                      before=draft.source.text, text=draft.text, cursor=draft.cursor)  # fmt: skip

    def hold_change(self, instead_of: int = 0) -> None:
        """Have the record hold what is in hand; ``instead_of`` a window that left it behind."""
        from oddsum.tui.record_workers import hold_change

        start = partial(hold_change, self, self.history, self.change_in_hand, instead_of)
        self.run_worker(start, thread=True, group="hold")

    @on(messages.Kept)
    def kept_is_held_no_more(self) -> None:
        """It is in the file now; asked about once whoever else hears of it has put it down."""
        self.call_later(self.hold_change)

    def drop_change(self) -> None:
        """Leave without the change in hand; at once, for the window goes with it."""
        from oddsum.record.unkept import let_go

        with contextlib.suppress(StoreError):  # then it is offered once more, which loses nothing
            let_go(self.history, own_process())
        self.exit()

    # -- what another window left behind -----------------------------------------------------

    def look_for_unkept(self) -> None:
        """See whether a window that is gone had a change in hand."""
        from oddsum.tui.record_workers import read_unkept

        self._start("unkept", partial(read_unkept, self, self.history))

    @on(messages.UnkeptFound)
    def unkept_found(self, message: messages.UnkeptFound) -> None:
        """Offer the newest one that still changes something."""
        draft = self.work.draft
        if draft is not None and draft.changed:
            return
        for change in message.changes:
            source = self.source_of(change.file)
            if source is not None and source.text != change.text:
                self._offer(change, source)
                return

    def _offer(self, change: Unkept, source: Source) -> None:
        from oddsum.tui.dialogs.choose import Choose

        when = time.strftime("%d %b, %H:%M", time.localtime(change.at))
        edits = edits_of(Source(change.file, change.before), change.text)
        said = [
            f"A window was closed on {when}, and what was changed in {change.file} was not kept:",
            *_places(edits),
            "The file is as it was then."
            if source.text == change.before
            else "The file was changed since. Taken up, the change would take that back as well: "
            "look at each place before you keep it.",
        ]
        answers = [("later", "Not now"), ("take", "Take it up again"), ("drop", "Let it go")]
        self.push_screen(Choose("A CHANGE FROM BEFORE", said, answers), partial(self._with, change))

    def _with(self, change: Unkept, answer: str | None) -> None:
        if answer == "drop":
            self.hold_change(instead_of=change.window)
        elif answer == "take":
            draft = self.open_draft(change.file)
            if draft is None or draft.changed:
                self.notify("Keep or put back the change in hand at Mend first.")
                return
            self.set_draft(change.text, taken="the change from before")
            draft.cursor = change.cursor
            self.hold_change(instead_of=change.window)
            self.action_go("mend")
