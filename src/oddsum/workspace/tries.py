"""The changes that were tried on the program, as they are remembered."""

from __future__ import annotations

import time

from oddsum.mend.effect import key_of
from oddsum.model.history import Try
from oddsum.record.history import History
from oddsum.workspace.archive import Archive
from oddsum.workspace.checking import Checking
from oddsum.workspace.draft import Draft
from oddsum.workspace.interface import Interface, Part
from oddsum.workspace.jobs import Job


class Tries:
    """The list of tries; ``all`` stands as it is recorded, the newest last."""

    def __init__(self, checking: Checking, archive: Archive, interface: Interface) -> None:
        self._checking, self._archive, self._interface = checking, archive, interface
        self.all: tuple[Try, ...] = ()

    def remember(self, draft: Draft, kept: bool = False) -> None:
        """Put what a draft's last try showed into the list, or say of it that it was kept."""
        effect = draft.effect(self._checking.results)
        if effect is None or (draft.listed == draft.text and not kept):
            return
        first = draft.listed != draft.text
        draft.again, draft.listed = self.before(draft), draft.text
        names = {c.number: c.name for c in self._checking.cases}
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

        def work(history: History, job: Job) -> tuple[Try, ...]:
            if first:
                history.add_try(tried)
            else:
                history.keep_try(tried)
            return history.tries()

        self._archive.write(work, self.take)

    def before(self, draft: Draft) -> Try | None:
        """The same text in the list, from before; None where it was never tried."""
        if draft.listed == draft.text:
            return draft.again  # the one in the list now may be this one itself
        key = key_of(draft.source.name, draft.text)
        return next((t for t in self.all if t.key == key), None)

    def take(self, tries: tuple[Try, ...]) -> None:
        """The list, as it is recorded now."""
        self.all = tries
        self._interface.changed(Part.TRIES)
