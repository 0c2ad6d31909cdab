"""A variable drawn over the steps, or a list's items as bars; on the screen, and in a file."""

from __future__ import annotations

from pathlib import Path

from oddsum.model.errors import OddSumError
from oddsum.trace.series import Series, SeriesError, bars, numeric, series
from oddsum.tui.questions.asker import Asker
from oddsum.workspace.tracing import Traced


def plot(asker: Asker, traced: Traced) -> None:
    """The variable in hand; the first that holds numbers, where none is."""
    name = asker.variable_in_hand() or next(iter(numeric(traced.story)), "")
    if not name:
        asker.say("No variable of this run holds a number.")
        return
    try:
        drawn, as_bars = _drawn(traced, name)
    except SeriesError as fault:
        asker.say(str(fault))
        return
    seen = asker.workspace.walking.column_of(traced, name).name
    if len(drawn.values) < 2:
        asker.say(f"{seen} has one value only, {drawn.values[0]:g}: no line to draw.")
        return
    from oddsum.tui.dialogs.plot import PlotPage

    title = f"{seen} {'AT STEP ' + str(traced.step) if as_bars else 'OVER THE STEPS'}"
    others = [] if as_bars else _pinned_beside(asker, traced, name)
    over = "index" if as_bars else "step"
    asker.show(PlotPage(title, [drawn, *others], over, as_bars,
                        lambda: _saved(asker, traced, name, as_bars)))  # fmt: skip


def _drawn(traced: Traced, name: str) -> tuple[Series, bool]:
    """The items of a list as bars, where it is one; else the variable over the steps."""
    try:
        return bars(traced.story, name, traced.step), True
    except SeriesError:
        return series(traced.story, name), False


def _pinned_beside(asker: Asker, traced: Traced, name: str) -> list[Series]:
    """The first pinned column that holds numbers is drawn together with the one in hand."""
    for other in asker.workspace.tracing.view.order:
        if other != name and other in numeric(traced.story):
            return [series(traced.story, other)]
    return []


def _saved(asker: Asker, traced: Traced, name: str, as_bars: bool) -> str:
    from oddsum.draw import chart
    from oddsum.draw.figure import save

    program = asker.workspace.files.program
    short = asker.workspace.walking.column_of(traced, name).name
    path = Path.cwd() / f"{program.stem}-{short.strip('[]')}.svg"
    title = f"{program.name}, {traced.case.name}"
    try:
        if as_bars:
            save(path, chart.bars(title, bars(traced.story, name, traced.step)))
        else:
            drawn = [series(traced.story, name), *_pinned_beside(asker, traced, name)]
            save(path, chart.lines(title, "steps", drawn))
    except OddSumError as fault:
        return str(fault)
    return f"Saved as {path.name} in {path.parent}."
