"""The changes that were tried on the program, as they are remembered."""

from __future__ import annotations

import time
from collections.abc import Callable

from msgspec.structs import replace

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

    def shown(self, draft: Draft) -> Try | None:
        """What a draft's last try showed; None where it is not over, or could not start."""
        effect = draft.effect(self._checking.results)
        if effect is None:
            return None
        names = {c.number: c.name for c in self._checking.cases}
        return Try(
            at=time.time(),
            key=key_of(draft.source.name, draft.text),
            edits=draft.edits,
            settled=tuple(names[n] for n in effect.settled if n in names),
            broke=tuple(names[n] for n in effect.broke if n in names),
            agreeing=effect.agreeing,
            cases=effect.cases,
            words=draft.taken,
        )

    def remember(self, draft: Draft) -> None:
        """Put what a draft's last try showed into the list, where it is not in it yet."""
        tried = self.shown(draft)
        if tried is None or draft.listed == draft.text:
            return
        draft.again, draft.listed = self.before(draft), draft.text
        self._write(lambda history: history.add_try(tried))

    def keep(self, draft: Draft, tried: Try, text: str) -> None:
        """Say of a try of a draft's text that it was kept; it is put into the list if need be."""
        first, kept = draft.listed != text, replace(tried, kept=True)
        draft.listed = text
        self._write(lambda history: (history.add_try if first else history.keep_try)(kept))

    def _write(self, put: Callable[[History], object]) -> None:
        def work(history: History, job: Job) -> tuple[Try, ...]:
            put(history)
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
