"""The small edits that Pinpoint tries on JavaScript programs."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from typing import cast

from oddsum.languages import scene as seen
from oddsum.languages.javascript.edits import EDIT_RULES, trial_edits
from oddsum.languages.javascript.edits.scene import Scene
from oddsum.languages.language import Invents
from oddsum.model.lead import Note, TrialEdit
from oddsum.source.program import Source


def scene(source: Source, types: seen.Types, wanted: frozenset[str]) -> seen.Scene:
    """A source with its tree."""
    return Scene(source, types, wanted)


def edits(scene: seen.Scene) -> Iterator[tuple[TrialEdit, str]]:
    """Every edit of every kind, with the text after it."""
    return trial_edits(cast(Scene, scene))


def instead(*_told: object) -> TrialEdit | None:
    """Values are not looked for in this language."""
    return None


guarded = instead


def notes(_scenes: Sequence[seen.Scene]) -> Iterable[Note]:
    """None yet."""
    return ()


def invents(kind: str) -> Invents:
    """Whether edits of a kind put in what is not there."""
    known = EDIT_RULES.get(kind)
    return known.invents if known is not None else ""


def kind_words(kind: str) -> tuple[str, str]:
    """What a kind of edit is called, and how such a fault comes about; blank where unknown."""
    known = EDIT_RULES.get(kind)
    return (known.title, known.explanation) if known is not None else ("", "")
