"""A variable over the steps, or a list's items, drawn on the screen."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Any, ClassVar

from textual.app import ComposeResult
from textual.binding import BindingType
from textual.containers import Vertical
from textual.widgets import Label
from textual_plotext import PlotextPlot

from oddsum.trace.series import Series
from oddsum.tui.actions import bindings_for
from oddsum.tui.dialogs.dialog import Dialog
from oddsum.tui.dialogs.keys_heading import KeysHeading
from oddsum.tui.theme import rgb

_MARKS = ("braille", "dot")


class PlotPage(Dialog[None]):
    """Shows series as lines, or one as bars; ``save`` writes it into a file and says where."""

    BINDINGS: ClassVar[list[BindingType]] = [*bindings_for("plot")]

    def __init__(
        self, title: str, drawn: Sequence[Series], over: str, bars: bool, save: Callable[[], str]
    ) -> None:
        super().__init__(classes="page")
        self._title, self._drawn, self._over = title, drawn, over
        self._bars, self._save = bars, save

    def compose(self) -> ComposeResult:
        """The plot, and what it shows."""
        with Vertical(id="card", classes="-wide -tall"):
            yield KeysHeading(self._title, "plot")
            yield PlotextPlot(id="plot")
            yield Label(self._hint(), classes="hint")

    def _hint(self) -> str:
        values = [v for one in self._drawn for v in one.values]
        spread = f"from {min(values):g} to {max(values):g}"
        names = " and ".join(one.name for one in self._drawn)
        return f"{names}: {len(self._drawn[0].values):,} values, {spread}."

    def on_mount(self) -> None:
        """Draw it in the theme's inks."""
        plot: Any = self.query_one(PlotextPlot).plt
        for n, one in enumerate(self._drawn):
            ink = rgb(self.app.theme, "blue" if n == 0 else "straw")
            if self._bars:
                plot.bar([str(w) for w in one.where], list(one.values), color=ink)
            else:
                plot.plot(list(one.where), list(one.values), marker=_MARKS[n % 2],
                          label=one.name if len(self._drawn) > 1 else None, color=ink)  # fmt: skip
        plot.xlabel(self._over)
        plot.canvas_color(rgb(self.app.theme, "ground"))
        plot.axes_color(rgb(self.app.theme, "ground"))
        plot.ticks_color(rgb(self.app.theme, "quiet"))

    def action_save(self) -> None:
        """Write it into a file."""
        self.notify(self._save())
