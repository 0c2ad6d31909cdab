"""Says in plain words how one text differs from another."""

from __future__ import annotations

import re

from oddsum.compare.align import Pair, align_lines, first_difference
from oddsum.compare.numbers import number_of, number_words, pairs_of_numbers
from oddsum.compare.rules import tidy_lines
from oddsum.model.outcome import Difference

_SHOWN = 40  # characters of a line that are quoted
_MARKS = re.compile(r"[^\w\s]|_")


def text_difference(expected: str, actual: str) -> Difference:
    """Say where two texts first depart, line and column counting from 1."""
    wanted, found = tidy_lines(expected), tidy_lines(actual)
    if wanted == found:
        return _blanks_only(expected, actual)
    if not found:
        return Difference(summary="nothing was printed", line=1, column=1)
    if not wanted:
        return _placed(f"nothing was expected, {quoted(found[0])} came out", wanted, found)
    whole = _same_but(wanted, found)
    if whole:
        return _placed(whole, wanted, found)
    return _aligned_words(wanted, found)


def first_departure(expected: str, actual: str) -> tuple[int, int] | None:
    """Line and column, both from 1, where two texts first depart; None where they do not."""
    wanted, found = tidy_lines(expected), tidy_lines(actual)
    return None if wanted == found else _place(wanted, found)


def _place(wanted: list[str], found: list[str]) -> tuple[int, int]:
    for number, (left, right) in enumerate(zip(wanted, found, strict=False), 1):
        if left != right:
            return number, first_difference(left, right) + 1
    return min(len(wanted), len(found)) + 1, 1


def _placed(summary: str, wanted: list[str], found: list[str]) -> Difference:
    line, column = _place(wanted, found)
    return Difference(summary=summary, line=line, column=column)


def _blanks_only(expected: str, actual: str) -> Difference:
    if expected == actual:
        return Difference(summary="the texts are the same")
    return Difference(summary="the same but for blanks at line ends or empty lines at the end")


def _same_but(wanted: list[str], found: list[str]) -> str:
    """What a text of several lines has all the same but for, blank where nothing is."""
    if len(wanted) < 2 and len(found) < 2:
        return ""
    left, right = "\n".join(wanted), "\n".join(found)
    if left.casefold() == right.casefold():
        return "the same but for capital letters"
    if left.split() == right.split():
        if len(wanted) != len(found):
            return "the same words, but broken into lines in another way"
        return "the same but for spaces"
    if sorted(wanted) == sorted(found):
        first = next(n for n, (a, b) in enumerate(zip(wanted, found, strict=True), 1) if a != b)
        back = " (backwards)" if wanted == found[::-1] else ""
        return f"the same lines in another order{back}; line {first} is the first out of place"
    return ""


def _aligned_words(wanted: list[str], found: list[str]) -> Difference:
    pairs = [p for p in align_lines(wanted, found) if not p.same]
    missing = [p.left for p in pairs if p.right is None and p.left is not None]
    extra = [p.right for p in pairs if p.left is None and p.right is not None]
    if len(missing) == len(pairs) and _in_a_row(missing):
        return _placed(_missing_words(wanted, missing), wanted, found)
    if len(extra) == len(pairs) and _in_a_row(extra):
        return _placed(_extra_words(found, extra, len(wanted)), wanted, found)
    numbered = [Pair(n, n, False) for n, p in enumerate(zip(wanted, found, strict=False))
                if p[0] != p[1]]  # fmt: skip
    if len(wanted) == len(found) and _all_off_alike(numbered, wanted, found):
        return _first_words(numbered, wanted, found)
    if _shifts(pairs, missing, extra):
        words = f"{_missing_words(wanted, missing).partition(';')[0]}; from there on all"
        return _placed(f"{words} stands too early", wanted, found)
    if _shifts(pairs, extra, missing):
        words = f"{_extra_words(found, extra, len(wanted)).partition(';')[0]}; from there on all"
        return _placed(f"{words} stands too late", wanted, found)
    return _first_words(pairs, wanted, found)


def _shifts(pairs: list[Pair], first: list[int], last: list[int]) -> bool:
    """Whether lines of one side come first and as many of the other at the end, no others."""
    return (
        bool(first)
        and len(first) == len(last)
        and len(first) + len(last) == len(pairs)
        and _in_a_row(first)
        and _in_a_row(last)
        and first[-1] < last[0]
    )


def _in_a_row(numbers: list[int]) -> bool:
    return numbers == list(range(numbers[0], numbers[0] + len(numbers)))


def _missing_words(wanted: list[str], missing: list[int]) -> str:
    first, last, count = missing[0] + 1, missing[-1] + 1, len(missing)
    at_end = last == len(wanted)
    if count == 1:
        words = f"line {first} is missing: {quoted(wanted[first - 1])} was expected"
        return words if at_end else f"{words}; all else is the same"
    if at_end:
        return f"the last {count} lines are missing, from line {first} on"
    return f"lines {first} to {last} are missing; what follows is the same, {count} lines earlier"


def _extra_words(found: list[str], extra: list[int], wanted: int) -> str:
    first, count = extra[0] + 1, len(extra)
    quote = quoted(found[first - 1])
    at_end = first > wanted
    if count == 1 and first > 1 and found[first - 1] == found[first - 2]:
        return f"1 line too many: line {first} repeats the one before, {quote}"
    if count == 1 and at_end:
        return f"1 line too many, from line {first} on: {quote}"
    if count == 1:
        return f"1 line too many, line {first}: {quote}; all else is the same"
    text = f"{count} lines too many, from line {first} on: {quote}"
    return text if at_end else f"{text}; what follows is the same, {count} lines later"


def _first_words(pairs: list[Pair], wanted: list[str], found: list[str]) -> Difference:
    """The first line in words, and how many more there are."""
    first = pairs[0]
    if first.left is not None and first.right is not None:
        left, right = wanted[first.left], found[first.right]
        words = f"line {first.left + 1}: {line_words(left, right)}"
        line, column = first.left + 1, first_difference(left, right) + 1
    elif first.left is not None:
        words = f"line {first.left + 1} is missing: {quoted(wanted[first.left])} was expected"
        line, column = first.left + 1, 1
    else:
        right_number = first.right or 0
        words = f"a line too many, line {right_number + 1}: {quoted(found[right_number])}"
        line, column = right_number + 1, 1
    return Difference(summary=words + _more_words(pairs, wanted, found), line=line, column=column)


def _more_words(pairs: list[Pair], wanted: list[str], found: list[str]) -> str:
    more = len(pairs) - 1
    if not more:
        return ""
    if _all_off_alike(pairs, wanted, found):
        return f", and the same in {more} more line{'s' if more > 1 else ''}"
    return f"; {more} more line{'s differ' if more > 1 else ' differs'}"


def _all_off_alike(pairs: list[Pair], wanted: list[str], found: list[str]) -> bool:
    """Whether all these lines differ in one number, by the same amount."""
    first = _off(pairs[0], wanted, found) if pairs else None
    return first is not None and all(_off(p, wanted, found) == first for p in pairs[1:])


def _off(pair: Pair, wanted: list[str], found: list[str]) -> float | None:
    if pair.left is None or pair.right is None:
        return None
    numbers = pairs_of_numbers(wanted[pair.left], found[pair.right])
    if not numbers or len(numbers) != 1:
        return None
    left, right = number_of(numbers[0][0]), number_of(numbers[0][1])
    return None if left is None or right is None else right - left


def line_words(left: str, right: str) -> str:
    """Say how one line differs from another."""
    numbers = pairs_of_numbers(left, right)
    if numbers:
        return number_words(*numbers[0]) + _other_numbers(numbers)
    expected = f": {quoted(left)} was expected"
    if left.casefold() == right.casefold():
        return "the same but for capital letters" + expected
    if left.split() == right.split() or _joined(left) == _joined(right):
        return "the same but for spaces" + expected
    if _MARKS.sub("", left).split() == _MARKS.sub("", right).split():
        return "the same but for punctuation" + expected
    words = _words_moved(left.split(), right.split())
    pair = f"{quoted(left)} expected, {quoted(right)} came out"
    return f"{pair}: {words}" if words else pair


def _joined(text: str) -> str:
    return "".join(text.split())


def _other_numbers(numbers: list[tuple[str, str]]) -> str:
    if len(numbers) == 1:
        return ""
    more = len(numbers) - 1
    return f" (and {more} more number{'s' if more > 1 else ''} in that line)"


def _words_moved(left: list[str], right: list[str]) -> str:
    """The words of a line out of order, or one of them missing, repeated or too many."""
    if len(left) < 2 and len(right) < 2:
        return ""
    if sorted(left) == sorted(right):
        return "the same words in another order"
    for longer, shorter, word in ((left, right, "missing"), (right, left, "too many")):
        if len(longer) != len(shorter) + 1:
            continue
        for at in range(len(longer)):
            if longer[:at] + longer[at + 1 :] == shorter:
                return f"“{longer[at]}” is {word}"
    return ""


def quoted(text: str) -> str:
    """A line as it is quoted in a sentence."""
    if not text:
        return "an empty line"
    return f"“{text}”" if len(text) <= _SHOWN else f"“{text[: _SHOWN - 1]}…”"
