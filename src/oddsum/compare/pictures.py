"""Drawings compared: the lines that should be on the sheet, and those that are.

It does not matter in which order lines were drawn, from which end, or in how many pieces; it
matters where they lie. Half a step apart counts as the same place: who writes expected lines by
hand rounds them. An ink counts where one is expected.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence

from oddsum.model.outcome import Difference
from oddsum.model.picture import Picture, Segment

NEAR = 0.5  # steps within which two places are one
_MOST = 2_000  # lines without an exact twin that are looked at one by one


def picture_difference(expected: Sequence[Segment], drawn: Picture | None) -> Difference | None:
    """How a drawing departs from the lines expected; None where it does not."""
    actual = _inked(drawn.lines) if drawn is not None else []
    wanted = _inked(expected)
    if not actual and wanted:
        return Difference(summary=f"nothing was drawn; {_lines(len(wanted))} should be")
    missing, extra = missing_lines(wanted, actual), extra_lines(wanted, actual)
    if not missing and not extra:
        return None
    at = actual.index(extra[0]) + 1 if extra else wanted.index(missing[0]) + 1
    line = at if at <= len(wanted) else None
    return Difference(summary=_words(wanted, actual, missing, extra), line=line)


def missing_lines(expected: Sequence[Segment], actual: Sequence[Segment]) -> list[Segment]:
    """The expected lines that are not drawn, or not all along."""
    return _uncovered(_inked(expected), _inked(actual), inks=True)


def extra_lines(expected: Sequence[Segment], actual: Sequence[Segment]) -> list[Segment]:
    """The lines drawn that no expected one covers."""
    return _uncovered(_inked(actual), _inked(expected), inks=False)


def picture_text(lines: Iterable[Segment]) -> str:
    """The lines of a drawing as text, one a line."""
    return "\n".join(line_words(s) for s in _inked(lines))


def line_words(one: Segment) -> str:
    """``from 0, 0 to 100, 0``, with its ink where it has one."""
    ink = f"  {one.ink}" if one.ink and one.ink != "black" else ""
    return f"from {_place(one.x1, one.y1)} to {_place(one.x2, one.y2)}{ink}"


def _place(x: float, y: float) -> str:
    return f"{round(x, 1) + 0.0:g}, {round(y, 1) + 0.0:g}"


def _inked(lines: Iterable[Segment]) -> list[Segment]:
    """Without those that are no longer than a place is wide."""
    return [s for s in lines if math.hypot(s.x2 - s.x1, s.y2 - s.y1) > NEAR / 10]


def _uncovered(lines: list[Segment], over: list[Segment], inks: bool) -> list[Segment]:
    """Those of some lines that others do not cover; an exact twin is the quick way to tell."""
    twins = {_key(s) for s in over}
    rest = [s for s in lines if _key(s) not in twins or (inks and s.ink)]
    if len(rest) > _MOST:
        return [s for s in rest if _key(s) not in twins]
    return [s for s in rest if not _covered(s, over, inks)]


def _key(one: Segment) -> tuple[tuple[float, float], ...]:
    """The same for the same line from either end."""
    ends = ((round(one.x1, 1) + 0.0, round(one.y1, 1) + 0.0),
            (round(one.x2, 1) + 0.0, round(one.y2, 1) + 0.0))  # fmt: skip
    return tuple(sorted(ends))


def _covered(one: Segment, over: list[Segment], inks: bool) -> bool:
    """Whether the lines along this one cover it from end to end."""
    length = math.hypot(one.x2 - one.x1, one.y2 - one.y1)
    spans = sorted(
        span for other in over
        if not (inks and one.ink and other.ink.lower() != one.ink.lower())
        for span in _along(one, other, length)
    )  # fmt: skip
    reached = 0.0
    for start, stop in spans:
        if start > reached + NEAR:
            return False
        reached = max(reached, stop)
    return reached >= length - NEAR


def _along(one: Segment, other: Segment, length: float) -> list[tuple[float, float]]:
    """The part of a line that another one lies on, in steps from its start; nothing where none."""
    ux, uy = (one.x2 - one.x1) / length, (one.y2 - one.y1) / length
    ends = []
    for x, y in ((other.x1, other.y1), (other.x2, other.y2)):
        dx, dy = x - one.x1, y - one.y1
        if abs(dx * uy - dy * ux) > NEAR:
            return []
        ends.append(dx * ux + dy * uy)
    start, stop = max(0.0, min(ends)), min(length, max(ends))
    return [(start, stop)] if stop > start else []


def _words(
    wanted: list[Segment], actual: list[Segment], missing: list[Segment], extra: list[Segment]
) -> str:
    if not extra:
        more = f" and {len(missing) - 1} more" if len(missing) > 1 else ""
        return f"a line is missing: {line_words(missing[0])}{more}"
    at = actual.index(extra[0])
    text = f"line {at + 1} of the drawing goes {line_words(extra[0])}"
    if at < len(wanted) and wanted[at] in missing:
        return f"{text}; expected {line_words(wanted[at])}"
    if not missing:
        return f"{text}, where none is expected"
    return f"{text}; {_lines(len(missing))} of {len(wanted)} expected are missing"


def _lines(count: int) -> str:
    return "1 line" if count == 1 else f"{count:,} lines"
