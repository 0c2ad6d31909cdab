"""Where in the program's output, as it was printed, it first departs from what is expected."""

from __future__ import annotations

from oddsum.compare.readings import reading_used
from oddsum.compare.words import first_departure
from oddsum.model.outcome import Run


def departure_offset(expected: str, actual: str, run: Run) -> int | None:
    """Offset in ``run.output`` (characters from 0) of the first character that departs.

    ``actual`` is the reading that was compared. The length of the output stands for a text that
    ends too early; None where nothing departs.
    """
    place = first_departure(expected, actual)
    if place is None:
        return None
    lines = actual.split("\n")
    line, column = place
    at = sum(len(text) + 1 for text in lines[: line - 1]) + column - 1
    if line > len(lines) or at >= len(actual):
        return len(run.output)
    return _in_output(run, actual, at)


def _in_output(run: Run, actual: str, at: int) -> int:
    """Turn an offset in a reading into one in the output."""
    how = reading_used(run, actual)
    if how == "piped":
        return at
    gone = 0  # characters of the reading passed so far
    cursor = 0
    for start, stop, answer in run.asked:
        kept = start - cursor if how == "without" else stop - cursor
        if at < gone + kept:
            return cursor + at - gone
        gone += kept
        if how == "terminal":
            if at < gone + len(answer) + 1:
                return stop
            gone += len(answer) + 1
        cursor = stop
    return cursor + at - gone
