"""Charts for files: a variable over steps or rounds, a list's content as bars.

Drawn with matplotlib, which is loaded only here: it takes half a second. Text stays text in the
file, and lines differ in their dashes and marks, so that a chart reads in black and white.
"""

from __future__ import annotations

import os
import tempfile
from collections.abc import Callable, Sequence
from pathlib import Path
from typing import TYPE_CHECKING, Any

from oddsum.model.errors import OddSumError
from oddsum.trace.series import Series

if TYPE_CHECKING:
    from matplotlib.axes import Axes

SUFFIXES = (".svg", ".pdf")
_STYLES = (
    ("#1f5fa8", "-", "o"),
    ("#8a5a00", "--", "s"),
    ("#3f7f7a", "-.", "^"),
    ("#6d5a8d", ":", "D"),
)
_FEW = 60  # points, up to which each gets a mark
_INCHES = (8.0, 4.5)


class ChartError(OddSumError):
    """A chart that cannot be written."""


def lines(path: Path, title: str, over: str, drawn: Sequence[Series]) -> None:
    """Write a chart of variables over ``steps`` or ``rounds``. Raises ChartError."""

    def draw(axes: Axes) -> None:
        for one, (ink, dashes, mark) in zip(drawn, _cycled(len(drawn)), strict=True):
            marks = mark if len(one.where) <= _FEW else ""
            axes.step(one.where, one.values, where="post", color=ink, linestyle=dashes,
                      marker=marks, markersize=4, linewidth=1.4, label=one.name)  # fmt: skip
        axes.set_xlabel(over[:-1])
        axes.set_ylabel(drawn[0].name if len(drawn) == 1 else "value")
        if len(drawn) > 1:
            axes.legend(frameon=False)

    _write(path, title, draw)


def bars(path: Path, title: str, drawn: Series) -> None:
    """Write a chart of a list's items. Raises ChartError."""

    def draw(axes: Axes) -> None:
        axes.bar(drawn.where, drawn.values, color="#c9d8ea", edgecolor="#1f5fa8", linewidth=1.2)
        axes.set_xlabel("index")
        axes.set_ylabel(drawn.name)

    _write(path, title, draw)


def _cycled(count: int) -> list[tuple[str, str, str]]:
    return [_STYLES[n % len(_STYLES)] for n in range(count)]


def _write(path: Path, title: str, draw: Callable[[Axes], None]) -> None:
    if path.suffix.lower() not in SUFFIXES:
        ending = path.suffix or "a file without an ending"
        raise ChartError(
            f"A chart cannot be written as {ending}.", hint="Name the file .svg or .pdf."
        )
    with tempfile.TemporaryDirectory(prefix="oddsum-chart-") as folder:
        os.environ.setdefault("MPLCONFIGDIR", folder)  # its own settings are not for us to write
        from matplotlib import rc_context
        from matplotlib.figure import Figure
        from matplotlib.ticker import MaxNLocator

        look: Any = {
            "svg.fonttype": "none", "pdf.fonttype": 42,
            "font.family": ["DejaVu Sans", "sans-serif"], "svg.hashsalt": "odd-sum",
        }  # fmt: skip
        with rc_context(look):
            figure = Figure(figsize=_INCHES, layout="constrained")
            axes = figure.add_subplot()
            draw(axes)
            axes.set_title(title, loc="left", fontsize=11)
            axes.xaxis.set_major_locator(MaxNLocator(integer=True))
            axes.spines[["top", "right"]].set_visible(False)
            kind = path.suffix.lower()[1:]
            dated = {"Date": None} if kind == "svg" else {"CreationDate": None}
            try:
                figure.savefig(path, format=kind, metadata=dated)
            except OSError as error:
                raise ChartError(f"The chart cannot be written: {error.strerror}.",
                                 file=path.name) from None  # fmt: skip
