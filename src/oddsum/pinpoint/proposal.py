"""An edit to try, in one place or two, and what its trials showed."""

from __future__ import annotations

from collections.abc import Mapping

import msgspec

from oddsum.model.lead import TrialEdit
from oddsum.run.trials import Splices
from oddsum.source.program import Source


def on_trial(edit: TrialEdit) -> dict[str, Splices]:
    """An edit as a process for trials takes it."""
    return {edit.file: ((edit.start, edit.stop, edit.new),)}


class Proposal(msgspec.Struct, frozen=True):
    """TrialEdits that are tried together, each in a place of its own of the program as it is."""

    edits: tuple[TrialEdit, ...]

    def texts(self, sources: Mapping[str, Source]) -> dict[str, str]:
        """The whole texts, edited, of the files that it changes."""
        texts: dict[str, str] = {}
        for edit in sorted(self.edits, key=lambda e: e.start, reverse=True):
            text = texts.get(edit.file, sources[edit.file].text)
            texts[edit.file] = text[: edit.start] + edit.new + text[edit.stop :]
        return texts

    @property
    def likely(self) -> float:
        """How common the edits are together, from 0 to 1."""
        product = 1.0
        for edit in self.edits:
            product *= edit.likely
        return product

    @property
    def size(self) -> int:
        """How much of the program they touch, in characters."""
        return sum(edit.size for edit in self.edits)


class Screening(msgspec.Struct, frozen=True):
    """What a proposal's trials showed: the numbers of the cases it settles and breaks.

    ``nearer`` is how much nearer to what is expected the odd cases come that it does not settle,
    from 0 to 1; -1 where it changes nothing.
    """

    proposal: Proposal
    settles: tuple[int, ...]
    breaks: tuple[int, ...]
    nearer: float = 0.0

    def whole(self, odd: int) -> bool:
        """Whether it settles every odd case and breaks none."""
        return len(self.settles) == odd and not self.breaks


class Confirmed(msgspec.Struct, frozen=True):
    """A proposal whose mend was confirmed by a full check in isolated processes.

    ``whole``: it settles every odd case and breaks none.
    """

    proposal: Proposal
    settles: tuple[int, ...]
    breaks: tuple[int, ...]
    whole: bool
    leaning_on: tuple[int, ...] | None = None  # odd cases without which another edit came first
