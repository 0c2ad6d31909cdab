"""Says in plain words how one number differs from another."""

from __future__ import annotations

import math

from oddsum.compare.rules import NUMBER, tidy_lines

Number = int | float
_PARTS = {
    2: "half", 3: "a third", 4: "a quarter", 5: "a fifth", 6: "a sixth", 7: "a seventh",
    8: "an eighth", 9: "a ninth", 10: "a tenth", 12: "a twelfth",
}  # fmt: skip
_PLAIN = (2, 3, 4, 5, 6, 7, 8, 9, 10, 12, 24, 60, 100, 1000)  # factors worth naming


def number_of(text: str) -> Number | None:
    """The number a text stands for, None where it is none."""
    for kind in (int, float):
        try:
            return kind(text)
        except (ValueError, OverflowError):
            continue
    return None


def finite_number(text: str) -> Number | None:
    """The number a text stands for; None where it is none, ``nan`` or ``inf``."""
    number = number_of(text)
    return None if isinstance(number, float) and not math.isfinite(number) else number


def plain_number(number: Number) -> str:
    """A number as one would type it: whole ones with all their digits."""
    return str(number) if isinstance(number, int) else f"{number:.10g}"


def number_words(expected: str, actual: str) -> str:
    """Say by how much a number is off, and by what factor where that is a plain one."""
    wanted, found = number_of(expected), number_of(actual)
    start = f"{expected} expected, {actual} came out"
    if wanted is None or found is None:
        return start
    if wanted == found:
        return f"{start}: the same number, written in another way"
    if found == -wanted:
        return f"{start}; the sign is the other way round"
    rounded = _rounding(expected, actual, wanted, found)
    if rounded:
        return f"{start}: {rounded}"
    return start + "; " + _amount(wanted, found) + _factor(wanted, found)


def _amount(wanted: Number, found: Number) -> str:
    off = found - wanted
    return f"{abs(off):.10g} too {'much' if off > 0 else 'little'}"


def _factor(wanted: Number, found: Number) -> str:
    if not wanted or not found:
        return ""
    for factor in _PLAIN:
        if found == wanted * factor:
            return f" ({factor} times as much)"
        if found * factor == wanted:
            part = _PARTS.get(factor)
            return f" ({part} of it)" if part else f" (it, divided by {factor:,})"
    return ""


def _decimals(text: str) -> int:
    return len(text.partition(".")[2]) if "e" not in text.casefold() else 0


def _rounding(expected: str, actual: str, wanted: Number, found: Number) -> str:
    """Whether one of the two is the other with fewer decimals."""
    few, many = _decimals(expected), _decimals(actual)
    if few < many and round(found, few) == wanted:
        places = f"{few} decimal{'s' if few != 1 else ''}" if few else "a whole number"
        return f"the same but for rounding to {places}"
    if many < few and round(wanted, many) == found:
        return "the same but rounded too far"
    cut = 10**few
    if few < many and int(found * cut) / cut == wanted:
        return "the same but for the decimals, which should be cut off"
    return ""


def pairs_of_numbers(left: str, right: str) -> list[tuple[str, str]] | None:
    """The numbers in which two lines differ, None where they differ in more than numbers."""
    if NUMBER.sub("#", left) != NUMBER.sub("#", right):
        return None
    both = zip(NUMBER.findall(left), NUMBER.findall(right), strict=True)
    return [(a, b) for a, b in both if a != b]


def off_by(expected: str, actual: str) -> str:
    """The signed amount a result is off by, blank where it is no matter of one number."""
    off = amount_off(expected, actual)
    return "" if off is None else f"{'+' if off > 0 else '−'}{abs(off):.6g}"


def amount_off(expected: str, actual: str) -> Number | None:
    """Actual less expected, where exactly one number in exactly one line differs."""
    pair = differing_numbers(expected, actual)
    return None if pair is None else pair[1] - pair[0]


def differing_numbers(expected: str, actual: str) -> tuple[Number, Number] | None:
    """Expected and actual, where exactly one number in exactly one line differs."""
    left, right = tidy_lines(expected), tidy_lines(actual)
    if len(left) != len(right):
        return None
    odd = [(a, b) for a, b in zip(left, right, strict=True) if a != b]
    pairs = pairs_of_numbers(*odd[0]) if len(odd) == 1 else None
    if not pairs or len(pairs) != 1:
        return None
    wanted, found = number_of(pairs[0][0]), number_of(pairs[0][1])
    return None if wanted is None or found is None or wanted == found else (wanted, found)
