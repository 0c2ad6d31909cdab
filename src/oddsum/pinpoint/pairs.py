"""Faults in two places: from half a mend, search again for the other half."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

import msgspec

from oddsum.languages.language import Language
from oddsum.languages.scene import Scene
from oddsum.model.lead import TrialEdit
from oddsum.pinpoint.proposal import Proposal, Screening

MOST_HALVES = 8  # half mends that are searched on from
_PER_PLACE = 2  # of one line, so that other lines have their turn


def halves(found: Sequence[Screening]) -> list[Screening]:
    """The best half mends: they settle something or come nearer, and break nothing."""
    good = [s for s in found if not s.breaks and (s.settles or s.nearer > 0)]
    good.sort(key=lambda s: (-len(s.settles), -s.proposal.likely, -s.nearer))
    chosen: list[Screening] = []
    lines: dict[tuple[str, int], int] = {}
    for one in good:
        edit = one.proposal.edits[0]
        place = (edit.file, edit.line)
        if lines.get(place, 0) < _PER_PLACE:
            lines[place] = lines.get(place, 0) + 1
            chosen.append(one)
        if len(chosen) == MOST_HALVES:
            break
    return chosen


def second_halves(
    half: Screening, scenes: Sequence[Scene], language: Language
) -> Iterator[Proposal]:
    """Each edit of the program as the half mend leaves it, together with that mend."""
    first = half.proposal.edits[0]
    for scene in scenes:
        text = half.proposal.texts.get(scene.source.name)
        source = scene.source if text is None else scene.source.edited(text)
        edited = language.edits.scene(source, scene.types, scene.wanted)
        for edit, new in language.edits.edits(edited):
            if not _touches(first, edit, same_file=text is not None):
                yield Proposal(
                    (first, _placed_before(first, edit) if text is not None else edit),
                    {**half.proposal.texts, source.name: new},
                )


def _touches(first: TrialEdit, second: TrialEdit, *, same_file: bool) -> bool:
    """Whether the second edit lies where the first one was made: it would be a mend of the mend."""
    if not same_file:
        return False
    stop = first.start + len(first.new)
    return second.start <= stop and first.start <= second.stop


def _placed_before(first: TrialEdit, second: TrialEdit) -> TrialEdit:
    """The second edit with its place told in the program as it was before the first edit."""
    if second.start < first.start:
        return second
    by = len(first.old) - len(first.new)
    lines = first.old.count("\n") - first.new.count("\n")
    line = second.line + lines
    return msgspec.structs.replace(
        second,
        start=second.start + by,
        stop=second.stop + by,
        line=line,
        where=second.where.replace(f"line {second.line}", f"line {line}"),
    )
