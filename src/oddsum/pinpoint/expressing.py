"""From values that would be right to edits: expressions that give them, put in the place of one."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from oddsum.languages.language import Language
from oddsum.languages.scene import Scene
from oddsum.model.lead import TrialEdit
from oddsum.pinpoint.trial_runner import TrialRunner
from oddsum.pinpoint.values import Right

MOST_PLACES = 14  # at which expressions are looked for
_SECONDS = 0.2  # at each of them
LIKELIEST = 0.45  # of an expression that is small and near


def edits_for(
    runner: TrialRunner, rights: Sequence[Right], scenes: Sequence[Scene], language: Language
) -> Iterator[TrialEdit]:
    """Edits that put an expression where its value would be right, the best places first."""
    by_file = {scene.source.name: scene for scene in scenes}
    for right in rights[:MOST_PLACES]:
        found = [*right.by_case.items()]
        # Where several values would do in a case, the one that was taken says little.
        rows = [(case, one.row) for case, one in found if case in (right.sure or right.by_case)]
        place = found[0][1].place
        for text, size in runner.express(place, rows, _SECONDS):
            likely = LIKELIEST / (1 + max(0.0, size - 2) / 4)
            spot = right.spot
            edit = language.edits.instead(by_file[spot.file], spot.start, spot.stop, text, likely)
            if edit is not None:
                yield edit
