"""This recording beside the one before it: where do they part?"""

from __future__ import annotations

from oddsum.trace.diff import first_difference, lines_between, parting
from oddsum.tui import lists
from oddsum.tui.questions.asker import Asker
from oddsum.workspace.tracing import Traced

_AROUND = 6  # steps shown before two runs part, and
_AFTER = 40  # after it


def two_runs(asker: Asker, traced: Traced) -> None:
    """Two recordings side by side, around the step at which they part."""
    work = asker.workspace
    earlier = work.tracing.earlier
    if earlier is None or not len(earlier.story):
        asker.say("Trace another case first, or this one before and after a change.")
        return
    now, before = work.files.source_of(work.files.program.name), earlier.source
    lines = lines_between(before, now) if before and now and before != now else None
    found = parting(earlier.story, traced.story, lines)
    start = max(0, found.same - _AROUND)
    places = range(start, found.same + _AFTER)
    left = [s.steps[n] if n < len(s) else None for s in (earlier.story,) for n in places]
    right = [s.steps[n] if n < len(s) else None for s in (traced.story,) for n in places]
    pairs = [(a, b) for a, b in zip(left, right, strict=True) if a or b]
    rows = lists.two_rows([a for a, _ in pairs], [b for _, b in pairs])
    steps = [b.number if b is not None else 0 for _, b in pairs]
    hint = f"{found.words} {first_difference(earlier.story, traced.story, found)}"
    title = f"CASE {earlier.case.number or '-'} BESIDE CASE {traced.case.number or '-'}"
    columns = lists.two_columns(*(f"case {t.case.number}" for t in (earlier, traced)))
    asker.walk_through(title, columns, rows, steps, hint, start=min(_AROUND, found.same))
