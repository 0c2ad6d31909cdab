"""From values that would be right to edits: expressions that give them, put in the place of one."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence

from oddsum.languages.language import Language
from oddsum.languages.scene import Scene
from oddsum.model.lead import TrialEdit
from oddsum.pinpoint.trial_runner import TrialRunner
from oddsum.pinpoint.values import Right

MOST_PLACES = 14  # at which expressions are looked for
_SECONDS = 0.2  # at each of them
_MOST = 12  # conditions for a branch
_HIDING = 0.5  # how likely a value in the place of a computation is, beside another computation
LIKELIEST = 0.45  # of an expression that is small and near


def edits_for(
    runner: TrialRunner,
    rights: Sequence[Right],
    scenes: Sequence[Scene],
    language: Language,
    go_on: Callable[[], bool],
) -> Iterator[TrialEdit]:
    """Edits that put an expression where its value would be right, the best places first.

    No further place is looked at once ``go_on`` says so.
    """
    by_file = {scene.source.name: scene for scene in scenes}
    for right in rights[:MOST_PLACES]:
        if not go_on():
            return
        found = [*right.by_case.items()]
        # Where several values would do in a case, the one that was taken says little.
        rows = [(case, one.row) for case, one in found if case in (right.sure or right.by_case)]
        place = found[0][1].place
        for text, size in runner.express(place, rows, _SECONDS):
            likely = LIKELIEST / (1 + max(0.0, size - 2) / 4)
            if _is_literal(language, text) and not _is_literal(language, right.text):
                if len(rows) < 2:
                    continue  # the one value that is wanted, in the place of working it out
                likely *= _HIDING
            spot = right.spot
            edit = language.edits.instead(by_file[spot.file], spot.start, spot.stop, text, likely)
            if edit is not None:
                yield edit
        yield from _branches(runner, right, by_file[right.spot.file], language)


def _is_literal(language: Language, text: str) -> bool:
    try:
        language.asking.value_of(text)
    except (ValueError, SyntaxError, TypeError):
        return False
    return True


def _branches(
    runner: TrialRunner, right: Right, scene: Scene, language: Language
) -> Iterator[TrialEdit]:
    """A branch of its own where one other value is due in every odd case: it may be missing."""
    found = [*right.by_case.items()]
    results = {one.would for _, one in found}
    spot, result = right.spot, next(iter(results))
    if len(results) > 1:
        return
    if language.edits.guarded(scene, spot.start, spot.stop, "1", result, 0) is None:
        return  # it is not given back
    rows = [(case, one.row) for case, one in found]
    for condition, size in runner.express(found[0][1].place, rows, _SECONDS, when=True)[:_MOST]:
        likely = LIKELIEST / (1 + size / 4)
        edit = language.edits.guarded(scene, spot.start, spot.stop, condition, result, likely)
        if edit is not None:
            yield edit
