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
    """The readings that count: the one the plan fixes, else all that differ from each other.

    What was typed is never output by itself: the terminal's reading counts only where each answer
    follows a prompt on its line.
    """
    if fixed is not None:
        return [(fixed, reading(run, fixed))]
    found: list[tuple[Prompts, str]] = []
    for how in ORDER if _each_is_prompted(run) else ORDER[:2]:
        text = reading(run, how)
        if text not in [t for _, t in found]:
            found.append((how, text))
    return found


def _each_is_prompted(run: Run) -> bool:
    """Whether something was printed ahead of each answer, on the line where it was typed."""
    before = 0  # where the answer before was typed: on a terminal, a new line begins there
    for _, stop, _ in run.asked:
        if not run.output[before:stop].rpartition("\n")[2].strip():
            return False
        before = stop
    return True


def reading_used(run: Run, actual: str) -> Prompts:
    """Which reading a text is; piped where it is none of them."""
    return next((how for how in ORDER if reading(run, how) == actual), "piped")
