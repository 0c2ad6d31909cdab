"""Charts: a variable over steps or rounds, a list's items, rounds of loops, outcomes by run."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import TYPE_CHECKING

from oddsum.draw.figure import AMBER, BLUE, INK, ChartError, Drawing
from oddsum.model.history import PastRun
from oddsum.model.outcome import Outcome
from oddsum.trace.rounds import Pass
from oddsum.trace.series import Series

if TYPE_CHECKING:
    from matplotlib.axes import Axes
    from matplotlib.figure import Figure

_STYLES = (
    (BLUE, "-", "o"),
    ("#8a5a00", "--", "s"),
    ("#3f7f7a", "-.", "^"),
    ("#6d5a8d", ":", "D"),
)
# Ink, ground and hatching of each outcome: told apart without colour.
_OUTCOMES = {
    Outcome.AGREES: ("#2f6f66", "#dcebe8", ""),
    Outcome.DIFFERS: (AMBER, "#f4dfc4", "///"),
    Outcome.STOPPED: ("#6a2f5e", "#ecd9e8", "xxx"),
    Outcome.ENDLESS: ("#4b3a87", "#dfdaf0", "..."),
    Outcome.OPEN: ("#5c5c5c", "#f2f2f2", "---"),
}
_FEW = 60  # points, up to which each gets a mark
_WIDTH, _HEIGHT = 8.0, 4.5  # inches
_MOST_LOOPS = 24  # times a loop was gone through that one chart shows


def lines(title: str, over: str, drawn: Sequence[Series]) -> Drawing:
    """A chart of variables over ``steps`` or ``rounds``."""

    def draw(axes: Axes) -> None:
        for one, (ink, dashes, mark) in zip(drawn, _cycled(len(drawn)), strict=True):
            marks = mark if len(one.where) <= _FEW else ""
            axes.step(one.where, one.values, where="post", color=ink, linestyle=dashes,
                      marker=marks, markersize=4, linewidth=1.4, label=one.name)  # fmt: skip
        axes.set_xlabel(over[:-1])
        axes.set_ylabel(drawn[0].name if len(drawn) == 1 else "value")
        if len(drawn) > 1:
            axes.legend(frameon=False)

    return _chart(title, draw)


def bars(title: str, drawn: Series) -> Drawing:
    """A chart of a list's items."""

    def draw(axes: Axes) -> None:
        axes.bar(drawn.where, drawn.values, color="#c9d8ea", edgecolor=BLUE, linewidth=1.2)
        axes.set_xlabel("index")
        axes.set_ylabel(drawn.name)

    return _chart(title, draw)


def rounds(title: str, passes: Sequence[Pass]) -> Drawing:
    """How many rounds each loop made, each time it was gone through. Raises ChartError."""
    shown = passes[:_MOST_LOOPS]
    if not shown:
        raise ChartError("No loop was gone through in this case: there is nothing to draw.")

    def draw(axes: Axes) -> None:
        names = [f"line {p.header.line}, from step {p.enters:,}" for p in shown]
        places = range(len(shown))
        made = axes.barh(places, [p.rounds for p in shown], color="#c9d8ea", edgecolor=BLUE)
        axes.bar_label(made, [f"{p.rounds:,}" for p in shown], padding=3, color=INK)
        axes.set_yticks(places, names)
        axes.invert_yaxis()
        axes.set_xlabel("rounds")
        left_out = len(passes) - len(shown)
        if left_out:
            axes.set_ylabel(f"{left_out:,} more are not shown")

    return _chart(title, draw, height=max(2.0, 1.2 + 0.34 * len(shown)))


def outcomes(title: str, runs: Sequence[PastRun], first: int = 1) -> Drawing:
    """How the cases came out, run by run; ``first`` is the first run's number."""
    if not runs:
        raise ChartError("No run of this program is recorded.",
                         hint="The application records each run.")  # fmt: skip

    def draw(axes: Axes) -> None:
        places = range(first, first + len(runs))
        below = [0] * len(runs)
        for outcome, (ink, ground, hatch) in _OUTCOMES.items():
            counts = [sum(o is outcome for o in run.outcomes.values()) for run in runs]
            if any(counts):
                axes.bar(places, counts, bottom=below, color=ground, edgecolor=ink, hatch=hatch,
                         label=str(outcome.value), width=0.8)  # fmt: skip
                below = [a + b for a, b in zip(below, counts, strict=True)]
        axes.set_xlabel("run")
        axes.set_ylabel("cases")
        axes.legend(frameon=False, loc="upper left", bbox_to_anchor=(1, 1))

    return _chart(title, draw)


def _cycled(count: int) -> list[tuple[str, str, str]]:
    return [_STYLES[n % len(_STYLES)] for n in range(count)]


def _chart(title: str, draw: Callable[[Axes], None], height: float = _HEIGHT) -> Drawing:
    def on(figure: Figure) -> None:
        from matplotlib.ticker import MaxNLocator

        axes = figure.add_subplot()
        draw(axes)
        axes.set_title(title, loc="left", fontsize=11)
        axes.xaxis.set_major_locator(MaxNLocator(integer=True))
        axes.spines[["top", "right"]].set_visible(False)

    return Drawing(_WIDTH, height, on)
