"""What came out so far, beside what is expected: text that was printed, or what a call gave."""

from __future__ import annotations

from oddsum.compare.align import Pair
from oddsum.model.outcome import CaseResult
from oddsum.trace.words import short
from oddsum.tui.glyphs import own
from oddsum.tui.widgets.side_by_side import (
    RULE,
    Sides,
    half_of,
    paired,
    side_by_side,
    sides,
    titles,
    window,
)
from oddsum.tui.writing import Piece, clean, fitted
from oddsum.workspace.tracing import Traced

_PRINTED = 60  # lines of output that can be scrolled through; D has them all


def came_out_words(traced: Traced) -> tuple[str, str]:
    """The heading of it, and what stands at its right."""
    if traced.case.returns is not None:
        return "GIVEN SO FAR", "beside what the call should give"
    beside = traced.case.stdout is not None
    return "PRINTED SO FAR", "beside what is expected" if beside else ""


def came_out(traced: Traced, width: int) -> list[list[Piece]]:
    """Both sides, with what departs set off from the moment on at which it does."""
    case, result = traced.case, traced.result
    if case.returns is not None:
        return _given(traced, result, width) + _printed_by_call(traced, width)
    printed = traced.printed_so_far()
    if case.stdout is None:
        return side_by_side(None, printed, width, _PRINTED, around=printed.count("\n") + 1)
    return _beside(case.stdout, traced, printed, width)


def _given(traced: Traced, result: CaseResult, width: int) -> list[list[Piece]]:
    returned = result.run.returned
    wanted = (returned.expected if returned is not None else None) or traced.case.returns or ""
    ended = traced.step >= (traced.departs or traced.story.last)
    actual = returned.actual if returned is not None and ended and traced.veil is None else ""
    odd = bool(actual) and returned is not None and not returned.equal
    half = half_of(width)
    left = Piece(clean(short(wanted, half)), "ground" if odd else "ink", odd, False,
                 "agree" if odd else "")  # fmt: skip
    right = Piece(clean(short(actual, half)), "ground" if odd else "ink", odd, False,
                  "odd" if odd else "")  # fmt: skip
    if not actual:
        right = Piece("nothing yet", "quiet", italic=True)
    return [*titles(width), [*fitted((left,), half), Piece(RULE, "rule"), right]]


def _printed_by_call(traced: Traced, width: int) -> list[list[Piece]]:
    printed = traced.story.output_until(traced.step)
    if not printed:
        return []
    lines = printed.rstrip("\n").split("\n")[-_PRINTED:]
    return [[], [Piece("printed on the way", "quiet")], *([Piece(clean(t))] for t in lines)]


def _beside(expected: str, traced: Traced, printed: str, width: int) -> list[list[Piece]]:
    """The lines of both as they belong together once the run is over, as far as they came."""
    ended = traced.step >= traced.story.last
    left, right, pairs = paired(expected, traced.result.actual)
    lines = printed.rstrip("\n").split("\n") if printed else []
    complete = len(right) if ended else printed.count("\n")
    departed = traced.departs is not None and traced.step >= traced.departs
    rows: list[Sides] = []
    current = 0
    for n, pair in enumerate(pairs):
        came = pair.right is not None and (pair.right < len(lines) or ended)
        if came:
            current = n
        rows.append(_sides(left, right, pairs, n, lines, complete, departed))
    half = half_of(width)
    first, last = window(len(rows), _PRINTED, current)
    made = titles(width)
    for number in range(first, last):
        one, other = rows[number]
        made.append([*fitted(one, half), Piece(RULE, "rule"), *other])
    if departed and traced.step == traced.departs:
        made.append([Piece(own("≠ here it departs"), "odd", True)])
    return made


def _sides(
    left: tuple[str, ...],
    right: tuple[str, ...],
    pairs: list[Pair],
    number: int,
    lines: list[str],
    complete: int,
    departed: bool,
) -> Sides:
    """A pair as far as it has come: plain before it departs, then with what differs set off."""
    pair = pairs[number]
    wanted = left[pair.left] if pair.left is not None else ""
    if pair.right is None:
        passed = next((p.right for p in pairs[number:] if p.right is not None), len(right))
        if departed and passed < complete:
            return sides(left, right, pair, differs=True)
        return (Piece(clean(wanted), "quiet"),), ()
    if pair.right < complete or (departed and pair.right < len(lines)):
        if not pair.same:
            so_far = (*right[: pair.right], *lines[pair.right : pair.right + 1])
            return sides(left, so_far if pair.right < len(lines) else right, pair, differs=True)
        return (Piece(clean(wanted), "ink"),), (Piece(clean(right[pair.right])),)
    came = lines[pair.right] if pair.right < len(lines) else ""
    return (Piece(clean(wanted), "quiet"),), (Piece(clean(came)),)
