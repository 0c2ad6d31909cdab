"""``oddsum trace``: the trace table to read, a row a step."""

from __future__ import annotations

from oddsum.formats.ruled import DOUBLE, SINGLE, WIDTH, fit, heading
from oddsum.model.trace import Step, Trace
from oddsum.trace.ask import Story
from oddsum.trace.filter import EVERYTHING, Shown
from oddsum.trace.words import change_words, condition_words, place_words

_FIXED = (6, 5, 14)  # step, line, function


def write(trace: Trace, full: bool = False, shown: Shown = EVERYTHING) -> str:
    """The trace table: what ran, what changed, how conditions came out, what was printed."""
    title = f"TRACE OF {trace.program.upper()}"
    lines = [heading(title, f"{trace.case} · {len(trace.steps)} steps")]
    lines += ["  step  line  function        what happened", SINGLE * WIDTH]
    names = frozenset(shown.names(Story(trace).columns))
    for step in filter(shown.keeps, trace.steps):
        lines += _rows(step, full, names)
    lines += [DOUBLE * WIDTH, "  " + (trace.left_out or f"{trace.outcome}, all steps are here")]
    return "\n".join(line.rstrip() for line in lines) + "\n"


def _rows(step: Step, full: bool, names: frozenset[str]) -> list[str]:
    step_width, line_width, function_width = _FIXED
    start = f"{step.number:>{step_width}} {step.line:>{line_width}}  "
    start += fit(step.function or "", function_width) + "  "
    told = [place_words(step), condition_words(step)]
    told += [change_words(c, full) for c in step.changes if c.name in names]
    if step.output:
        told += [f"prints {line!r}" for line in step.output.splitlines(keepends=True)]
    words = [t for t in told if t] or [""]
    room = 10_000 if full else WIDTH - len(start)
    return [
        (start if n == 0 else " " * len(start)) + fit(text, min(room, max(1, len(text))))
        for n, text in enumerate(words)
    ]
