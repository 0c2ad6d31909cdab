"""Runs a case once more, recorded, and turns what the probe says into a Trace."""

from __future__ import annotations

import threading
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from typing import Any, NamedTuple

from oddsum.languages import language_for
from oddsum.model.case import Case, Plan
from oddsum.model.errors import RunError, StartError
from oddsum.model.outcome import Run
from oddsum.model.trace import Trace
from oddsum.run.begin import Starter
from oddsum.run.case import base_request, facts, refuse_syntax
from oddsum.run.messages import Message
from oddsum.run.process import Limits, run_probe
from oddsum.run.scratch import Scratch
from oddsum.run.terms import MB
from oddsum.trace.decode import MOST_KEPT, Decoder
from oddsum.trace.nodes import Node

MOST_LINES = 30_000  # of a program that is recorded
MOST_STEPS = 10_000_000  # of one recording; longer ones are cut there, and say so
ENDLESS_STEPS = 20_000  # of a program that does not end: enough rounds to see what repeats
_STEPS_A_SECOND = 50_000_000  # more statements than any interpreter runs in a second
_SLOWER = 60  # a recorded run may take so many times the plain run's processor time
# Of a second, five times over: so long what never ends is followed where nobody looks.
_MOMENT = 0.06
_LEAST_SECONDS = 10.0
_LINES_A_SECOND = 1500.0  # that are made ready to be recorded, on a slow machine


@dataclass(frozen=True)
class Wanted:
    """What a recording is to note besides: watched expressions; the parts of a line at a visit.

    ``part`` is file, line and the how many-th visit of its statement, from 1. ``containment``: a
    step after which it is told what lies inside of what; the recording ends there. ``brief``: it is
    one of many that nobody looks at: time that the program sleeps away may be skipped, and what
    never ends is followed for a moment.
    """

    watches: tuple[str, ...] = ()
    part: tuple[str, int, int] | None = None
    containment: int | None = None
    brief: bool = False


class Recording(NamedTuple):
    """A trace, the run as the recording saw it, and the parts of a line that were asked for.

    ``part_rows`` as ``probe/parts.py`` gives them; ``parts``: step, number of the part, its value;
    ``containment`` as the probe's ``containment.py`` gives it, None where it was not asked for or
    could not be told.
    """

    trace: Trace
    run: Run
    part_rows: list[list[Any]]
    parts: list[tuple[int, int, Node]]
    containment: list[list[Any]] | None = None


def record(
    plan: Plan,
    case: Case,
    scratch: Scratch,
    start: Starter,
    plain: Run,
    stop: threading.Event | None = None,
    on_steps: Callable[[int], None] | None = None,
    most: int | None = None,
) -> tuple[Trace, Run]:
    """Record a case; returns its trace, and the run as the recording saw it.

    ``plain`` is the case's plain run: the limits are taken from it, in steps, for a recorded run is
    slower by a factor that says nothing of the program. ``most``: the recording ends after so many
    steps; without it, of a very long run the first and the last are kept. Raises StartError,
    RunError.
    """
    told = recording(plan, case, scratch, start, plain, Wanted(), stop, on_steps, most)
    return told.trace, told.run


def recording(
    plan: Plan,
    case: Case,
    scratch: Scratch,
    start: Starter,
    plain: Run,
    wanted: Wanted,
    stop: threading.Event | None = None,
    on_steps: Callable[[int], None] | None = None,
    most: int | None = None,
) -> Recording:
    """The same, with all that is ``wanted`` besides."""
    if scratch.bundle.lines > MOST_LINES:
        raise RunError(
            f"Trace records programs of up to {MOST_LINES:,} lines; this one has "
            f"{scratch.bundle.lines:,}.",
            hint="Check compares what comes out all the same.",
        )
    settings = plan.settings_of(case)
    steps = min(_most_steps(plain), most or MOST_STEPS)
    request = base_request(plan, case, scratch, "record", settings, steps)
    request["watches"], request["skips"] = list(wanted.watches), wanted.brief
    if wanted.part is not None:
        request["parts"] = dict(zip(("file", "line", "visit"), wanted.part, strict=True))
    if wanted.containment is not None:
        request["containment"] = wanted.containment
    request.update(language_for(plan).running.made_ready(request, scratch.bundle.files))
    timeout = _MOMENT if wanted.brief else settings.timeout or 2.0
    seconds, wall = _most_seconds(plain, timeout, scratch.bundle.lines)
    request["limits"]["cpu"] = seconds
    limits = Limits(cpu=seconds, wall=wall, output=int((settings.output or 1.0) * MB))
    decoder = Decoder(most or MOST_KEPT, wanted.watches, language_for(plan).running.unpack)

    def take(message: Message) -> None:
        with unreadable(case):
            decoder.take(message)
        if on_steps is not None and message["k"] == "log":
            on_steps(decoder.count)

    scratch.lay(case)
    try:
        heard = run_probe(start, scratch.room, request, case.stdin or "", limits, stop, take)
        with _read_otherwise(language_for(plan).name):
            refuse_syntax(heard, scratch.bundle.files)
        run = facts(heard, case, scratch)
    finally:
        scratch.put_back()
    cut = heard.one("cut")
    trace = Trace(
        program=scratch.bundle.program,
        case=case.name,
        number=case.number or None,
        steps=decoder.finish(),
        outcome="",
        complete=cut is None and run.ending in ("ended", "raised"),
        left_out=_left_out(cut, run, decoder),
        missing=decoder.left_out,
        returned=run.returned.actual if run.returned is not None else None,
        remarks=_remarks(plain, run, cut is not None),
    )
    containment = heard.one("containment")
    return Recording(
        trace, run, decoder.part_rows, decoder.parts, containment["rows"] if containment else None
    )


@contextmanager
def _read_otherwise(language: str) -> Iterator[None]:
    """A program that ran, and cannot start with calls in it: we read some line of it otherwise."""
    try:
        yield
    except StartError as error:
        where = f"line {error.line} of {error.file}" if error.line else f"{error.file}"
        raise RunError(
            f"Trace cannot follow this program: Odd Sum's own reading of {language} takes {where} "
            "for something else than the interpreter does.",
            hint="Check runs it all the same. Written in another way, that line can be followed.",
            file=error.file,
            line=error.line,
        ) from error


@contextmanager
def unreadable(case: Case) -> Iterator[None]:
    """Reading what came of a recording: whatever a log holds that is none becomes a sentence."""
    try:
        yield
    except Exception as error:
        raise RunError(
            f"What came of the recording of case {case.number} cannot be read"
            f" ({type(error).__name__}).",
            hint="If the program writes to no file that it has not opened, please report it.",
        ) from error


def _most_steps(plain: Run) -> int:
    if plain.ending in ("time", "output"):
        return ENDLESS_STEPS
    return min(MOST_STEPS, int(100_000 + _STEPS_A_SECOND * plain.cpu))


def _most_seconds(plain: Run, timeout: float, lines: int) -> tuple[float, float]:
    """Seconds of the processor and of the clock that a recording may take.

    What ended by itself does so again, after as long a wait and with so much more to compute. What
    had to be ended is recorded for a few steps only: to wait for it longer would show nothing. A
    program of very many lines is long in being made ready.
    """
    ready = lines / _LINES_A_SECOND
    if plain.ending in ("time", "output"):
        spent = min(plain.cpu, timeout)
        wall = 2 * ready + 2.0 + 1.2 * plain.seconds
        return ready + min(2.0, 2 * timeout) + 3 * spent, wall
    seconds = ready + _LEAST_SECONDS + _SLOWER * plain.cpu
    return seconds, 2.0 + 1.5 * seconds + 1.25 * max(0.0, plain.seconds - plain.cpu)


def _left_out(cut: Message | None, run: Run, decoder: Decoder) -> str:
    count, told = decoder.count, []
    if decoder.left_out:
        told.append("Steps {:,} to {:,} are not kept.".format(*decoder.left_out))
    if cut and cut["why"] == "size":
        told.append(f"Recorded up to step {count:,}: its values take 1,000 MB already.")
    elif cut:
        told.append(f"Recorded up to step {count:,}; the program went on after it.")
    elif run.ending in ("time", "output", "crashed"):
        told.append(f"The program was ended after {count:,} steps.")
    return " ".join(told)


def _remarks(plain: Run, run: Run, cut: bool) -> tuple[str, ...]:
    differs = plain.output != run.output or plain.ending != run.ending
    if differs and not cut and run.ending == "time" and plain.ending != "time":
        return ("This recording was ended before the program was: it took too long.",)
    if differs and not cut and plain.ending in ("ended", "raised"):
        return (
            "This recording did not do what the plain run did: the program depends on something "
            "that changes, such as the clock.",
        )
    return ()
