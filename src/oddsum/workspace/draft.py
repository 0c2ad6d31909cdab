"""The change in hand at Mend: a file's text as it is being edited, and what its last try showed."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from pathlib import Path

from oddsum.mend.effect import Effect, effect_of
from oddsum.model.errors import OddSumError
from oddsum.model.history import Try
from oddsum.model.lead import Edit
from oddsum.model.outcome import CaseResult
from oddsum.source.edits import edits_of
from oddsum.source.program import Source

Place = tuple[int, int]  # row and column in the text, from 0


@dataclass
class Draft:
    """One file while it is changed. ``source`` is what was read from disk, and is there still.

    ``tried`` is the text that ``results`` and ``fault`` belong to, ``done`` counts
    the cases of a try under way.
    """

    path: Path
    source: Source
    text: str
    cursor: Place = (0, 0)
    revision: int = 0  # counts the texts put here by other than typing: the editor follows those
    tried: str = ""
    done: int | None = None  # cases of the try under way that are done; None when none is
    results: dict[int, CaseResult] = field(default_factory=dict)
    fault: OddSumError | None = None
    seconds: float = 0.0
    taken: str = ""  # what the text was taken over from, blank where it is the learner's own
    conflict: bool = False  # whether the file on disk has become another meanwhile
    listed: str = ""  # the text that stands in the list of tries already
    again: Try | None = None  # the same text in that list, from before it was listed now
    _edits: tuple[Source, str, tuple[Edit, ...]] | None = None

    @property
    def changed(self) -> bool:
        """Whether the text is another than the file's."""
        return self.text != self.source.text

    @property
    def edits(self) -> tuple[Edit, ...]:
        """The places that are changed. Remembered: they are asked for at every key."""
        known = self._edits
        if known is None or known[0] is not self.source or known[1] != self.text:
            self._edits = known = (self.source, self.text, edits_of(self.source, self.text))
        return known[2]

    @property
    def shown(self) -> bool:
        """Whether there are results of the text as it stands, every case's."""
        return self.changed and self.tried == self.text and self.done is None

    def effect(self, before: Mapping[int, CaseResult]) -> Effect | None:
        """What the last try did to the cases; None where it is not over, or could not start."""
        if not self.shown or self.fault is not None or not self.results:
            return None
        return effect_of(before, self.results)

    def unchanged_lines(self) -> dict[int, int]:
        """Where each line of the file stands in the text now, from 1; changed ones are left out."""
        found: dict[int, int] = {}
        line, shift = 1, 0
        for edit in (*self.edits, None):
            stop = edit.line if edit is not None else len(self.source.lines) + 1
            found |= {n: n + shift for n in range(line, stop)}
            if edit is not None:
                line = edit.line + len(edit.before)
                shift += len(edit.after) - len(edit.before)
        return found

    def changed_lines(self) -> tuple[int, ...]:
        """The lines of the text, from 1, that are not as in the file."""
        found: list[int] = []
        shift = 0
        for edit in self.edits:
            start = edit.line + shift
            found += range(start, start + max(1, len(edit.after)))
            shift += len(edit.after) - len(edit.before)
        return tuple(found)
