"""A second look at a run that stopped or did not end, where its probe says little at the first.

A probe that runs the program untouched knows neither the variables at the line where it stopped
nor the loop that it goes round in. The program runs once more then, with calls in it that keep
these; what the case comes to is what the first run did.
"""

from __future__ import annotations

import threading
from collections.abc import Callable

import msgspec

from oddsum.model.errors import StartError
from oddsum.model.outcome import ErrorInfo, Run

_WORTH = ("raised", "time", "output")
_BUSY = 0.5  # of its seconds of the processor: what took less until it was ended is waiting
_SHARE = 0.5  # of a case's seconds, after which it is asked where it is

Again = Callable[[float], Run]  # runs the case once more; told after how much of its time to ask


def looked_at_again(run: Run, again: Again, timeout: float, stop: threading.Event | None) -> Run:
    """The run, with what a second one says of the place where the first was stopped.

    ``timeout``: seconds of the processor that the case may take. Whether it waited is read off
    these alone: on a busy machine what computes gets a small share of the clock.
    """
    error = run.error
    if error is None or run.ending not in _WORTH or (stop is not None and stop.is_set()):
        return run
    if run.ending == "time" and run.cpu < _BUSY * timeout:
        return run  # it only waited: there is no loop to be named
    try:
        second = again(_SHARE).error
    except StartError:  # it ran once: only with calls in it is it no program of the language
        return run
    if second is None or not _is_the_same(error, second, run.ending):
        return run
    return msgspec.structs.replace(run, error=_together(error, second))


def _is_the_same(error: ErrorInfo, second: ErrorInfo, ending: str) -> bool:
    """Whether the second run came to the same end; one that depends on a clock may not."""
    if ending != "raised":
        return second.type == error.type
    place = error.line is None or (error.file, error.line) == (second.file, second.line)
    return (error.type, error.message) == (second.type, second.message) and place


def _together(error: ErrorInfo, second: ErrorInfo) -> ErrorInfo:
    if error.line is None or error.type == "endless":
        return msgspec.structs.replace(second, part=error.part)
    return msgspec.structs.replace(error, values=second.values)
