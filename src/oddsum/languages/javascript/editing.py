"""The small edits that Pinpoint tries on JavaScript programs."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from typing import cast

from oddsum.languages import scene as seen
from oddsum.languages.javascript.edits import EDIT_RULES, trial_edits
from oddsum.languages.javascript.edits.scene import Scene
from oddsum.languages.javascript.edits.unprinted import Unprinted
from oddsum.languages.javascript.edits.worked_out import Expression, Guard
from oddsum.languages.javascript.notes import notes_on
from oddsum.languages.language import Gap, Invents
from oddsum.model.lead import Note, TrialEdit
from oddsum.source.program import Source


def scene(
    source: Source,
    types: seen.Types,
    wanted: frozenset[str],
    numbers: seen.Numbers = seen.NOTHING_SEEN,
) -> seen.Scene:
    """A source with its tree."""
    return Scene(source, types, wanted, numbers)


def edits(scene: seen.Scene) -> Iterator[tuple[TrialEdit, str]]:
    """Every edit of every kind, with the text after it."""
    return trial_edits(cast(Scene, scene))


def instead(scene: seen.Scene, start: int, stop: int, text: str, likely: float) -> TrialEdit | None:
    """Another expression in the place of one."""
    return Expression().instead(cast(Scene, scene), start, stop, text, likely)


def guarded(
    scene: seen.Scene, start: int, stop: int, condition: str, result: str, likely: float
) -> TrialEdit | None:
    """A branch ahead of the statement that gives an expression back."""
    return Guard().ahead(cast(Scene, scene), start, stop, condition, result, likely)


def printed(
    scene: seen.Scene, start: int, gap: Gap, condition: str, text: str, likely: float
) -> TrialEdit | None:
    """Lines that nothing prints, put in before or behind a statement."""
    return Unprinted().printed(cast(Scene, scene), start, gap, condition, text, likely)


def notes(scenes: Sequence[seen.Scene]) -> Iterable[Note]:
    """What a reader would question, found without running the program."""
    return notes_on(cast(Sequence[Scene], scenes))


def invents(kind: str) -> Invents:
    """Whether edits of a kind put in what is not there."""
    known = EDIT_RULES.get(kind)
    return known.invents if known is not None else ""


def kind_words(kind: str) -> tuple[str, str]:
    """What a kind of edit is called, and how such a fault comes about; blank where unknown."""
    known = EDIT_RULES.get(kind)
    return (known.title, known.explanation) if known is not None else ("", "")
