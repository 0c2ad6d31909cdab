"""Expected beside actual, line by line as they belong together, what differs set off."""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache

from oddsum.compare.align import Pair, align_lines, parts
from oddsum.tui.glyphs import own
from oddsum.tui.writing import Piece, clean, fitted

Sides = tuple[tuple[Piece, ...], tuple[Piece, ...]]
RULE = " │ "
_BLANKS = str.maketrans({" ": "·", "\t": "→"})


@lru_cache(maxsize=16)
def paired(expected: str, actual: str) -> tuple[tuple[str, ...], tuple[str, ...], list[Pair]]:
    """The lines of both texts, and how they belong together. Remembered: aligning takes time."""
    left, right = _lines(expected), _lines(actual)
    return left, right, align_lines(left, right)


def side_by_side(
    expected: str | None,
    actual: str,
    width: int,
    most: int = 0,
    differs: bool = True,
    around: int | None = None,
) -> list[list[Piece]]:
    """Two columns of lines under their titles; ``most`` lines at most (0: all of them).

    ``around`` is the line of the expected (from 1) to have in sight when not all are shown.
    """
    half = half_of(width)
    left, right, pairs = paired(expected or "", actual)
    lines = titles(width)
    if expected is None:
        pairs = [Pair(None, n, True) for n in range(len(right))]
    wanted = (around or 1) - 1
    first, last = window(
        len(pairs), most,
        next((n for n, p in enumerate(pairs) if p.left == wanted), min(wanted, len(pairs) - 1)),
    )  # fmt: skip
    if first:
        lines.append(_row(_more(first), _more(first), half))
    for number in range(first, last):
        lines.append(_row(*sides(left, right, pairs[number], differs), half))
    if expected is None:
        at = len(lines) - (last - first)
        lines[at : at + 1] = [_row((Piece("nothing said yet", "quiet", italic=True),),
                                   (Piece(right[0] if right else ""),), half)]  # fmt: skip
    if last < len(pairs):
        lines.append(_row(_more(len(pairs) - last), _more(len(pairs) - last), half))
    return lines


def half_of(width: int) -> int:
    """Cells of one side."""
    return max(8, (width - len(RULE)) // 2)


def titles(width: int) -> list[list[Piece]]:
    """The two titles and the rule under them."""
    half = half_of(width)
    return [
        _row((Piece("expected", "quiet"),), (Piece("actual", "quiet"),), half),
        [Piece("─" * (half + 1) + "┼" + "─" * (width - half - 2), "rule")],
    ]


def _lines(text: str) -> tuple[str, ...]:
    lines = [line.rstrip() for line in text.split("\n")]
    while len(lines) > 1 and not lines[-1]:
        lines.pop()
    return tuple(lines)


def window(count: int, most: int, at: int) -> tuple[int, int]:
    """Which of so many rows are shown where there is room for ``most`` (0: all), around one."""
    if not most or count <= most:
        return 0, count
    first = max(0, min(at - most // 2, count - most))
    return first, first + most


def _more(count: int) -> tuple[Piece, ...]:
    return (Piece(own(f"… {count} more line{'s' if count > 1 else ''}"), "quiet", italic=True),)


def _row(left: Sequence[Piece], right: Sequence[Piece], half: int) -> list[Piece]:
    return [*fitted(tuple(left), half), Piece(RULE, "rule"), *right]


def sides(
    left: Sequence[str], right: Sequence[str], pair: Pair, differs: bool, blanks: bool = False
) -> Sides:
    """Both lines of a pair as pieces, what only one of them has set off.

    ``blanks`` makes every blank visible.
    """
    expected = None if pair.left is None else left[pair.left]
    actual = None if pair.right is None else right[pair.right]

    def shown(text: str) -> str:
        return clean(text.translate(_BLANKS) if blanks else text)

    if not differs or pair.same:
        ink = "ink" if differs else "quiet"
        return (Piece(shown(expected or ""), ink),), (Piece(shown(actual or "")),)
    if expected is None:
        return (Piece("—", "quiet"),), (_set_off(shown(actual or "") or " ", "odd"),)
    if actual is None:
        return (_set_off(shown(expected) or " ", "agree"),), (Piece("—", "quiet"),)
    pieces: tuple[list[Piece], list[Piece]] = ([], [])
    for same, a, b in parts(expected, actual):
        pieces[0].append(Piece(shown(a)) if same else _set_off(shown(a), "agree"))
        pieces[1].append(Piece(shown(b)) if same else _set_off(shown(b), "odd"))
    return tuple(pieces[0]), tuple(pieces[1])


def _set_off(text: str, ground: str) -> Piece:
    return Piece(text, "ground", True, ground=ground)
