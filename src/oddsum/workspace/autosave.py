"""The change in hand outlives its window: written down as typing pauses, and offered again."""

from __future__ import annotations

import contextlib
import time
from collections.abc import Sequence

from oddsum.mend.words import edit_words
from oddsum.model.history import Autosaved
from oddsum.model.lead import Edit
from oddsum.record.autosave import forget, keep_change, left_behind
from oddsum.record.history import History
from oddsum.record.store import StoreError
from oddsum.run.running import own_process
from oddsum.source.edits import edits_of
from oddsum.source.program import Source
from oddsum.workspace.archive import Archive
from oddsum.workspace.files import Files
from oddsum.workspace.interface import Choice, Interface
from oddsum.workspace.jobs import Job
from oddsum.workspace.mending import Mending

_MOST_PLACES = 5  # that are told, each in a line


class Autosave:
    """Keeps what is in no file yet, and forgets it once it is kept, put back or dropped."""

    def __init__(
        self, files: Files, mending: Mending, archive: Archive, interface: Interface
    ) -> None:
        self._files, self._mending = files, mending
        self._archive, self._interface = archive, interface

    def save(self, instead_of: int = 0) -> None:
        """Have the record keep what is in hand, or that there is nothing.

        ``instead_of`` is a window (the number of its process) whose change was taken up or let go.
        """
        change = self._change_in_hand()

        def work(history: History, job: Job) -> None:
            if change is not None:
                keep_change(history, change)
            else:
                forget(history, own_process())
            if instead_of not in (0, own_process()):
                forget(history, instead_of)

        self._archive.write(work)

    def _change_in_hand(self) -> Autosaved | None:
        draft = self._mending.draft
        if draft is None or not draft.changed:
            return None
        return Autosaved(at=time.time(), window=own_process(), file=draft.source.name,
                      before=draft.source.text, text=draft.text, cursor=draft.cursor)  # fmt: skip

    def drop(self) -> None:
        """Forget the change in hand at once: the window is closed without it."""
        with contextlib.suppress(StoreError):  # then it is offered once more, which loses nothing
            forget(self._archive.history, own_process())

    def look(self) -> None:
        """See whether a window that is gone had a change in hand, and offer it."""
        self._archive.read("unkept", left_behind, self._found)

    def _found(self, changes: tuple[Autosaved, ...]) -> None:
        """Offer the newest one that still changes something."""
        draft = self._mending.draft
        if draft is not None and draft.changed:
            return
        for change in changes:
            source = self._files.source_of(change.file)
            if source is not None and source.text != change.text:
                self._offer(change, source)
                return

    def _offer(self, change: Autosaved, source: Source) -> None:
        when = time.strftime("%d %b, %H:%M", time.localtime(change.at))
        edits = edits_of(Source(change.file, change.before), change.text)
        said = (
            f"A window was closed on {when}, and what was changed in {change.file} was not kept:",
            *_places(edits),
            "The file is as it was then."
            if source.text == change.before
            else "The file was changed since. Taken up, the change would take that back as well: "
            "look at each place before you keep it.",
        )
        answers = (("later", "Not now"), ("take", "Take it up again"), ("drop", "Let it go"))
        choice = Choice("A CHANGE FROM BEFORE", said, answers)
        self._interface.choose(choice, lambda answer: self._answered(change, answer))

    def _answered(self, change: Autosaved, answer: str) -> None:
        if answer == "drop":
            self.save(instead_of=change.window)
        elif answer == "take":
            if not self._mending.take_version(change.file, change.text, "the change from before"):
                return
            assert self._mending.draft is not None
            self._mending.draft.cursor = change.cursor
            self.save(instead_of=change.window)
            self._interface.go("mend")


def _places(edits: Sequence[Edit]) -> list[str]:
    told = [edit_words(e) for e in edits[:_MOST_PLACES]]
    more = len(edits) - len(told)
    return [*told, f"and {more} more"] if more else told
