"""The three readings of what a program with prompts printed."""

from __future__ import annotations

from oddsum.model.case import Prompts
from oddsum.model.outcome import Run

ORDER: tuple[Prompts, ...] = ("piped", "without", "terminal")


def reading(run: Run, how: Prompts) -> str:
    """The output as it would stand: *piped*, *without* the prompts, or as on a *terminal*.

    On a terminal each answer is echoed after its prompt, with the line end that was typed.
    """
    if how == "piped":
        return run.output
    pieces, at = [], 0
    for start, stop, answer in run.asked:
        if how == "without":
            pieces.append(run.output[at:start])
        else:
            pieces += [run.output[at:stop], answer, "\n"]
        at = stop
    return "".join([*pieces, run.output[at:]])


def readings(run: Run, fixed: Prompts | None) -> list[tuple[Prompts, str]]:
    """The readings that count: the one the plan fixes, else all that differ from each other."""
    if fixed is not None:
        return [(fixed, reading(run, fixed))]
    found: list[tuple[Prompts, str]] = []
    for how in ORDER:
        text = reading(run, how)
        if text not in [t for _, t in found]:
            found.append((how, text))
    return found


def reading_used(run: Run, actual: str) -> Prompts:
    """Which reading a text is; piped where it is none of them."""
    return next((how for how in ORDER if reading(run, how) == actual), "piped")
