"""Which line of one text stands for which line of the other, and which parts of them differ."""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from difflib import SequenceMatcher
from typing import NamedTuple

MOST_ALIGNED = 300  # characters of a line that are aligned; longer ones are marked from the first
MOST_WORK = 2_000_000  # pairs of equal lines that are looked through; beyond, lines pair by number
_TOKENS = re.compile(r"[-+]?\d+(?:\.\d+)?|[^\W\d]+|\s+|.", re.DOTALL)
_ALIKE = 0.6  # how alike two words must be to be marked letter by letter
_SAME_LINE = 0.5  # how alike two lines must be to count as one line that changed


class Pair(NamedTuple):
    """A line of each side by its number from 0; None where the other side's stands alone."""

    left: int | None
    right: int | None
    same: bool


def align_lines(expected: Sequence[str], actual: Sequence[str]) -> list[Pair]:
    """Pair the lines of two texts, in order: the same, changed, missing (right None) or extra.

    What is equal at both ends is paired at once; only the rest is aligned, by the longest runs of
    equal lines (Ratcliff and Obershelp's method, as in difflib).
    """
    start = 0
    while start < min(len(expected), len(actual)) and expected[start] == actual[start]:
        start += 1
    end = 0
    while (
        end < min(len(expected), len(actual)) - start
        and expected[len(expected) - 1 - end] == actual[len(actual) - 1 - end]
    ):
        end += 1
    pairs = [Pair(n, n, True) for n in range(start)]
    left, right = expected[start : len(expected) - end], actual[start : len(actual) - end]
    pairs += _shifted(_middle(left, right), start)
    first_left, first_right = len(expected) - end, len(actual) - end
    return pairs + [Pair(first_left + n, first_right + n, True) for n in range(end)]


def _shifted(pairs: list[Pair], by: int) -> list[Pair]:
    return [
        Pair(
            None if p.left is None else p.left + by,
            None if p.right is None else p.right + by,
            p.same,
        )
        for p in pairs
    ]


def _middle(left: Sequence[str], right: Sequence[str]) -> list[Pair]:
    work = _work(left, right)
    if (not work and len(left) == len(right)) or work > MOST_WORK:
        return _by_number(left, right)
    codes = SequenceMatcher(None, left, right, autojunk=False).get_opcodes()
    pairs: list[Pair] = []
    for tag, a, b, c, d in codes:
        if tag == "equal":
            pairs += [Pair(a + n, c + n, True) for n in range(b - a)]
        else:
            pairs += _changed(left, right, range(a, b), range(c, d))
    return pairs


def _work(left: Sequence[str], right: Sequence[str]) -> int:
    counts: dict[str, int] = {}
    for line in right:
        counts[line] = counts.get(line, 0) + 1
    return sum(counts.get(line, 0) for line in left)


def _by_number(left: Sequence[str], right: Sequence[str]) -> list[Pair]:
    both = min(len(left), len(right))
    pairs = [Pair(n, n, left[n] == right[n]) for n in range(both)]
    pairs += [Pair(n, None, False) for n in range(both, len(left))]
    return pairs + [Pair(None, n, False) for n in range(both, len(right))]


def _changed(left: Sequence[str], right: Sequence[str], a: range, c: range) -> list[Pair]:
    """Pair lines that differ; where their numbers differ too, those that are alike."""
    if len(a) == len(c) or len(a) * len(c) > 400:
        return [
            Pair(
                a[n] if n < len(a) else None,
                c[n] if n < len(c) else None,
                False,
            )
            for n in range(max(len(a), len(c)))
        ]
    pairs: list[Pair] = []
    at = c.start
    for number in a:
        match = next((m for m in range(at, c.stop) if _alike(left[number], right[m])), None)
        if match is None:
            pairs.append(Pair(number, None, False))
            continue
        pairs += [Pair(None, m, False) for m in range(at, match)]
        pairs.append(Pair(number, match, False))
        at = match + 1
    return pairs + [Pair(None, m, False) for m in range(at, c.stop)]


def _alike(left: str, right: str) -> bool:
    matcher = SequenceMatcher(None, left, right, autojunk=False)
    return matcher.real_quick_ratio() >= _SAME_LINE and matcher.ratio() >= _SAME_LINE


def parts(expected: str, actual: str) -> Iterator[tuple[bool, str, str]]:
    """Cut two lines into parts: (whether it is the same, of the expected, of the actual).

    Numbers are kept whole, words that are much alike are cut letter by letter.
    """
    if max(len(expected), len(actual)) > MOST_ALIGNED:
        at = first_difference(expected, actual)
        yield True, expected[:at], actual[:at]
        yield False, expected[at:], actual[at:]
        return
    left, right = _TOKENS.findall(expected), _TOKENS.findall(actual)
    for tag, a, b, c, d in SequenceMatcher(None, left, right, autojunk=False).get_opcodes():
        yield from _refined(tag == "equal", "".join(left[a:b]), "".join(right[c:d]))


def _refined(same: bool, expected: str, actual: str) -> Iterator[tuple[bool, str, str]]:
    if same or not (expected.isalpha() and actual.isalpha()):
        yield same, expected, actual
        return
    matcher = SequenceMatcher(None, expected, actual, autojunk=False)
    if matcher.ratio() < _ALIKE:
        yield False, expected, actual
        return
    for tag, a, b, c, d in matcher.get_opcodes():
        yield tag == "equal", expected[a:b], actual[c:d]


def first_difference(expected: str, actual: str) -> int:
    """How many characters two texts begin with that are the same."""
    pairs = enumerate(zip(expected, actual, strict=False))
    return next((i for i, (a, b) in pairs if a != b), min(len(expected), len(actual)))
