"""The rules for comparing text, a function each; a new rule is a function and a line in RULES."""

from __future__ import annotations

import math
import re
from collections.abc import Callable

from oddsum.model.case import Rule, Settings

MATCHING = 1.0  # seconds that a text is matched with a pattern
NUMBER = re.compile(r"[-+]?(?:\d+(?:\.\d+)?|\.\d+)(?:[eE][-+]?\d+)?")


def tidy_lines(text: str) -> list[str]:
    """Lines without trailing blanks, without empty lines at the end."""
    lines = [line.rstrip() for line in text.split("\n")]
    while lines and not lines[-1]:
        lines.pop()
    return lines


def numbers_in(text: str) -> list[float]:
    """The numbers of a text, in order."""
    return [float(n) for n in NUMBER.findall(text)]


def same_number(expected: float, actual: float, tolerance: float) -> bool:
    """Equal within a relative tolerance."""
    return expected == actual or math.isclose(expected, actual, rel_tol=tolerance)


def _exact(expected: str, actual: str, _settings: Settings) -> bool:
    return expected == actual


def _lines(expected: str, actual: str, _settings: Settings) -> bool:
    return tidy_lines(expected) == tidy_lines(actual)


def _words(expected: str, actual: str, _settings: Settings) -> bool:
    return expected.split() == actual.split()


def _numbers(expected: str, actual: str, settings: Settings) -> bool:
    wanted, found = numbers_in(expected), numbers_in(actual)
    tolerance = settings.tolerance or 0.0
    return len(wanted) == len(found) and all(
        same_number(e, a, tolerance) for e, a in zip(wanted, found, strict=True)
    )


def _contains(expected: str, actual: str, _settings: Settings) -> bool:
    return "\n".join(tidy_lines(expected)) in "\n".join(tidy_lines(actual))


def _pattern(expected: str, actual: str, settings: Settings) -> bool:
    """Some patterns take longer than a lifetime on some texts: then the text does not match."""
    import regex  # only here: loading it takes some 10 ms

    flags = regex.IGNORECASE if settings.ignore_case else 0
    pattern, text = expected.rstrip("\n"), "\n".join(tidy_lines(actual))
    try:
        found = regex.fullmatch(pattern, text, flags, timeout=MATCHING)
    except (TimeoutError, regex.error):
        return False
    return found is not None


def _unordered(expected: str, actual: str, _settings: Settings) -> bool:
    return sorted(tidy_lines(expected)) == sorted(tidy_lines(actual))


RULES: dict[Rule, Callable[[str, str, Settings], bool]] = {
    "exact": _exact,
    "lines": _lines,
    "words": _words,
    "numbers": _numbers,
    "contains": _contains,
    "pattern": _pattern,
    "unordered": _unordered,
}


def text_agrees(expected: str, actual: str, settings: Settings) -> bool:
    """Whether two texts are the same by the rule the settings name."""
    rule = settings.compare or "lines"
    if settings.ignore_case and rule != "pattern":
        expected, actual = expected.casefold(), actual.casefold()
    return RULES[rule](expected, actual, settings)
