"""What a program drew: beside what it should draw, or alone as lines that a plan can expect."""

from __future__ import annotations

from collections.abc import Sequence
from typing import TYPE_CHECKING
from xml.sax.saxutils import quoteattr

from oddsum.draw.figure import AMBER, BLUE, INK, QUIET, ChartError, Drawing
from oddsum.model.picture import Picture, Segment

if TYPE_CHECKING:
    from matplotlib.axes import Axes
    from matplotlib.figure import Figure

_EDGE = 10.0  # steps of empty sheet around a drawing


def drawing(
    title: str,
    drawn: Picture,
    expected: Sequence[Segment] = (),
    odd: Sequence[Segment] = (),
    missing: Sequence[Segment] = (),
) -> Drawing:
    """The drawing, at the right of the expected one where there is one.

    ``odd`` lines are set off by a broken stroke, ``missing`` ones by dots.
    """
    if not drawn.lines and not drawn.dots and not drawn.fills and not expected:
        raise ChartError("Nothing was drawn in this case.")

    def draw(figure: Figure) -> None:
        left, low, right, high = _bounds([*drawn.lines, *expected])
        sides = 2 if expected else 1
        axes = figure.subplots(1, sides, squeeze=False)[0]
        if expected:
            _lines(axes[0], expected)
            axes[0].set_title("expected", loc="left", fontsize=10, color=QUIET)
        _all_of(axes[-1], drawn, odd, missing)
        axes[-1].set_title("actual" if expected else "", loc="left", fontsize=10, color=QUIET)
        for one in axes:
            one.set_aspect("equal")
            one.set_xlim(left, right)
            one.set_ylim(low, high)
            one.tick_params(labelsize=7, colors=QUIET)
            for spine in one.spines.values():
                spine.set_color(QUIET)
        figure.suptitle(title, x=0.01, ha="left", fontsize=11)

    return Drawing(9.0 if expected else 5.5, 5.0, draw)


def _all_of(axes: Axes, drawn: Picture, odd: Sequence[Segment], missing: Sequence[Segment]) -> None:
    for corners, ink in drawn.fills:
        axes.fill(corners[::2], corners[1::2], color=_known(ink), alpha=0.35, linewidth=0)
    apart = set(odd)
    _lines(axes, [s for s in drawn.lines if s not in apart])
    _lines(axes, odd, AMBER, (0, (5, 2)), 2.2)
    _lines(axes, missing, QUIET, (0, (1, 2)), 1.2)
    for x, y, size, ink in drawn.dots:
        axes.plot([x], [y], "o", color=_known(ink), markersize=max(2.0, size / 2))
    for x, y, text, ink in drawn.texts:
        axes.text(x, y, text, color=_known(ink), fontsize=8)
    if drawn.lines:
        start = drawn.lines[0]
        axes.plot([start.x1], [start.y1], "s", color=BLUE, markersize=4, fillstyle="none")


def _lines(
    axes: Axes, lines: Sequence[Segment], ink: str = "", dashes: object = "-", width: float = 1.6
) -> None:
    from matplotlib.collections import LineCollection

    if lines:
        ends = [[(s.x1, s.y1), (s.x2, s.y2)] for s in lines]
        inks = [ink or _known(s.ink) for s in lines]
        axes.add_collection(LineCollection(ends, colors=inks, linestyles=dashes, linewidths=width))


def _known(ink: str) -> str:
    """A colour that can be drawn; white would not be seen on the sheet."""
    from matplotlib.colors import is_color_like

    return ink if ink.lower() != "white" and is_color_like(ink) else INK


def _bounds(lines: Sequence[Segment]) -> tuple[float, float, float, float]:
    xs = [x for s in lines for x in (s.x1, s.x2)] or [0.0]
    ys = [y for s in lines for y in (s.y1, s.y2)] or [0.0]
    edge = max(_EDGE, 0.06 * max(max(xs) - min(xs), max(ys) - min(ys)))
    return min(xs) - edge, min(ys) - edge, max(xs) + edge, max(ys) + edge


def _n(number: float) -> str:
    return f"{round(number, 3) + 0.0:g}"


def lines_svg(lines: Sequence[Segment]) -> str:
    """The lines alone, as an SVG that ``draws`` in a plan can name."""
    left, low, right, high = _bounds(lines)
    rows = [
        f'  <line x1="{_n(s.x1)}" y1="{_n(-s.y1)}" x2="{_n(s.x2)}" y2="{_n(-s.y2)}"'
        f' stroke={quoteattr(s.ink or "black")} stroke-width="{s.width:g}"/>'
        for s in lines
    ]
    box = f"{left:.6g} {-high:.6g} {right - left:.6g} {high - low:.6g}"
    head = f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="{box}" stroke-linecap="round">'
    return "\n".join([head, *rows, "</svg>"]) + "\n"
