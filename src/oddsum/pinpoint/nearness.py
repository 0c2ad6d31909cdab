"""How near a wrong result comes to the right one: for faults in two places, half a mend counts."""

from __future__ import annotations

from typing import Any

from oddsum.languages import language_named
from oddsum.model.case import Case
from oddsum.model.outcome import Returned, Run

_LONGEST = 20_000  # characters: nearness of longer results is not worked out
_WORDS = 0.5  # a wrong line counts less than this, however many of its words are right


def nearness(case: Case, run: Run) -> float:
    """From 0 to 1: the share of lines or items that are right, each in its place. A line that is
    wrong counts a little by its words that are right, so that half a mend of it is seen."""
    if run.ending != "ended":
        return 0.0
    if case.stdout is not None and len(run.output) < _LONGEST:
        wanted, got = case.stdout.strip().split("\n"), run.output.strip().split("\n")
        return sum(map(_lines_alike, wanted, got)) / max(len(wanted), len(got))
    if run.returned is not None and run.returned.expected is not None:
        return _of_values(run.returned)
    return 0.0


def _lines_alike(one: str, other: str) -> float:
    if one == other:
        return 1.0
    words, others = one.split(), other.split()
    same = sum(map(str.__eq__, words, others))
    return _WORDS * same / max(len(words), len(others), 1)


def _of_values(returned: Returned) -> float:
    expected, actual = returned.expected or "", returned.actual
    read = language_named(returned.language).asking.value_of
    if len(actual) > _LONGEST:
        return 0.0
    try:
        return _alike(read(expected), read(actual))
    except (ValueError, SyntaxError, RecursionError, MemoryError):
        return float(expected == actual)


def _alike(one: Any, other: Any) -> float:
    if isinstance(one, (list, tuple)) and isinstance(other, type(one)):
        return _share(list(one), list(other))
    if isinstance(one, dict) and isinstance(other, dict):
        keys = one.keys() | other.keys()
        same = sum(_alike(one[k], other[k]) for k in one.keys() & other.keys())
        return same / len(keys) if keys else 1.0
    if isinstance(one, str) and isinstance(other, str):
        longest = max(len(one), len(other), 1)
        return 1.0 if one == other else sum(map(str.__eq__, one, other)) / longest
    return float(bool(one == other))


def _share(one: list[Any], other: list[Any]) -> float:
    longest = max(len(one), len(other))
    if not longest:
        return 1.0
    return sum(_alike(a, b) for a, b in zip(one, other, strict=False)) / longest
