"""From values that would be right to edits: expressions that give them, put in the place of one."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Sequence

import msgspec

from oddsum.languages.language import Language
from oddsum.languages.scene import Scene
from oddsum.model.lead import TrialEdit
from oddsum.pinpoint.trial_runner import Judged
from oddsum.pinpoint.value_trials import Asked, ValueTrials
from oddsum.pinpoint.values import Right

MOST_PLACES = 14  # at which expressions are looked for
_AT_ONCE = 6  # of them, of which the edits are given together
MOST_GAPS = 8  # at which it is asked when a line is due
_SECONDS = 0.2  # at each of them
_MOST = 12  # conditions for a branch
_HIDING = 0.5  # how likely a value in the place of a computation is, beside another computation
_ONE_CASE = 0.7  # what is left of that where one case alone wants it
LIKELIEST = 0.45  # of an expression that is small and near


class Fitted(msgspec.Struct, frozen=True):
    """An edit, and the number of the first case in which what it gives would be right."""

    edit: TrialEdit
    case: int


def edits_for(
    trials: ValueTrials[Judged],
    rights: Sequence[Right],
    scenes: Sequence[Scene],
    language: Language,
    go_on: Callable[[], bool],
) -> Iterator[list[Fitted]]:
    """Edits that put an expression where its value would be right: those of the best places, then
    those of some more.

    No further place is looked at once ``go_on`` says so.
    """
    by_file = {scene.source.name: scene for scene in scenes}
    asked = []
    for right in [r for r in rights if r.spot.gap][:MOST_GAPS]:
        asked.append((right, by_file[right.spot.file], _due(right)))
    for right in [r for r in rights if not r.spot.gap][:MOST_PLACES]:
        scene = by_file[right.spot.file]
        asked.append((right, scene, _computed(right)))
        if _fits(right, scene, language):
            asked.append((right, scene, _due(right)))
    for number in range(0, len(asked), _AT_ONCE):
        some = asked[number : number + _AT_ONCE]
        found = trials.expressions([one for _, _, one in some], _SECONDS, go_on)
        yield [
            Fitted(edit, one.rows[0][0])
            for (right, scene, one), texts in zip(some, found, strict=True)
            for edit in _edits_of(right, scene, one, texts, language)
        ]


def _edits_of(
    right: Right,
    scene: Scene,
    one: Asked,
    texts: Sequence[tuple[str, float]],
    language: Language,
) -> Iterator[TrialEdit]:
    if right.spot.gap:
        return _printed(right, scene, language, texts[:_MOST])
    if one.when:
        return _branches(right, scene, language, texts[:_MOST])
    return _instead(right, scene, language, texts, len(one.rows))


def _computed(right: Right) -> Asked:
    """What gives the values that would be right."""
    # Where several values would do in a case, the one that was taken says little.
    rows = [(n, f.row) for n, f in right.by_case.items() if n in (right.sure or right.by_case)]
    return Asked(right.place, tuple(rows))


def _due(right: Right) -> Asked:
    """What holds where another value is due."""
    return Asked(right.place, tuple((n, f.row) for n, f in right.by_case.items()), when=True)


def _instead(
    right: Right,
    scene: Scene,
    language: Language,
    texts: Iterable[tuple[str, float]],
    rows: int,
) -> Iterator[TrialEdit]:
    fixed, results = _is_literal(language, right.text), {f.would for f in right.by_case.values()}
    if fixed and len(results) == 1:
        texts = [(results.pop(), 1.0), *texts]  # a text or number that may have been mistyped
    for text, size in dict.fromkeys(texts):
        likely = LIKELIEST / (1 + max(0.0, size - 2) / 4)
        if rows < 2:
            likely *= _ONE_CASE
        if _is_literal(language, text):
            if rows < 2 and not fixed:
                continue  # the one value that is wanted, in the place of working it out
            if rows < 2 or not fixed:
                likely *= _HIDING
        spot = right.spot
        edit = language.edits.instead(scene, spot.start, spot.stop, text, likely)
        if edit is not None:
            yield edit


def _is_literal(language: Language, text: str) -> bool:
    try:
        language.asking.value_of(text)
    except (ValueError, SyntaxError, TypeError):
        return False
    return True


def _fits(right: Right, scene: Scene, language: Language) -> bool:
    """Whether a branch of its own may be missing: one other value is due in every odd case, and
    it is given back there."""
    spot, results = right.spot, {one.would for one in right.by_case.values()}
    if len(results) > 1:
        return False
    edit = language.edits.guarded(scene, spot.start, spot.stop, "1", results.pop(), 0)
    return edit is not None


def _branches(
    right: Right, scene: Scene, language: Language, conditions: Iterable[tuple[str, float]]
) -> Iterator[TrialEdit]:
    """A branch of its own, ahead of what gives another value back."""
    spot, result = right.spot, next(iter(right.by_case.values())).would
    for condition, size in conditions:
        if _is_literal(language, condition):
            continue  # it holds always
        likely = LIKELIEST / (1 + size / 4)
        edit = language.edits.guarded(scene, spot.start, spot.stop, condition, result, likely)
        if edit is not None:
            yield edit


def _printed(
    right: Right, scene: Scene, language: Language, conditions: Sequence[tuple[str, float]]
) -> Iterator[TrialEdit]:
    """A line of its own where it is due: in any case, or where a condition holds."""
    spot, text = right.spot, right.printed
    if text is None or not spot.gap:
        return
    holding = [(c, size) for c, size in conditions if not _is_literal(language, c)]
    for condition, size in [("", 0.0), *holding]:
        likely = LIKELIEST / (1 + size / 4)
        edit = language.edits.printed(scene, spot.start, spot.gap, condition, text, likely)
        if edit is not None:
            yield edit
