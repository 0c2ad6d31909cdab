"""``oddsum trace``: the trace table to read, a row a step."""

from __future__ import annotations

from oddsum.formats.ruled import DOUBLE, SINGLE, WIDTH, fit, heading
from oddsum.model.trace import Step, Trace
from oddsum.trace.ask import Story
from oddsum.trace.filter import EVERYTHING, Shown
from oddsum.trace.inside import Inner
from oddsum.trace.words import change_words, condition_words, counted, place_words, short

_FIXED = (6, 5, 14)  # step, line, function


def write(trace: Trace, full: bool = False, shown: Shown = EVERYTHING, width: int = WIDTH) -> str:
    """The trace table: what ran, what changed, how conditions came out, what was printed."""
    title = f"TRACE OF {trace.program.upper()}"
    story = Story(trace)
    lines = [heading(title, f"{trace.case} · {counted(len(trace.steps), 'step')}", width)]
    lines += ["  step  line  function        what happened", SINGLE * width]
    names = frozenset(shown.names(story.columns))
    for step in filter(shown.keeps, trace.steps):
        lines += _rows(story, step, full, names, width)
    lines += [DOUBLE * width, "  " + (trace.left_out or f"{trace.outcome}, all steps are here")]
    return "\n".join(line.rstrip() for line in lines) + "\n"


def _rows(story: Story, step: Step, full: bool, names: frozenset[str], width: int) -> list[str]:
    step_width, line_width, function_width = _FIXED
    start = f"{step.number:>{step_width}} {step.line:>{line_width}}  "
    start += fit(step.function or "", function_width) + "  "
    told = [place_words(step), condition_words(step)]
    if full:
        told += [change_words(c, full) for c in step.changes if c.name in names]
    else:
        told += [_changed(c) for c in story.table.inner(step.number) if c.variable in names]
    if step.output:
        told += [f"prints {line!r}" for line in step.output.splitlines(keepends=True)]
    words = [t for t in told if t] or [""]
    room = 10_000 if full else width - len(start)
    return [
        (start if n == 0 else " " * len(start)) + fit(text, min(room, max(1, len(text))))
        for n, text in enumerate(words)
    ]


def _changed(change: Inner) -> str:
    """What changed, in the smallest part that tells it: the whole is there with --full."""
    before = None if change.before is None else short(change.before, 24)
    after = None if change.after is None else short(change.after)
    return change._replace(before=before, after=after).in_words()
