"""The history as a grid: a row a case, a column a run; and how many agreed, drawn under it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import ClassVar

from textual import events
from textual.binding import Binding, BindingType
from textual.containers import VerticalScroll
from textual.message import Message

from oddsum.model.history import PastRun
from oddsum.model.outcome import Outcome
from oddsum.record.changes import names_of
from oddsum.tui.glyphs import glyph, own
from oddsum.tui.inks import INK_OF
from oddsum.tui.widgets.prose import Prose
from oddsum.tui.writing import Piece, clean, fitted
from oddsum.workspace.recording import Record

Lines = list[list[Piece]]
_COLUMN = 4  # cells a run takes
_HEIGHT = 5  # lines of the drawing
_BLOCKS = " ▁▂▃▄▅▆▇█"


@dataclass(frozen=True)
class Window:
    """The runs that are in sight: places from ``first`` to before ``last``; the names' width."""

    first: int
    last: int
    names: int


def window_of(record: Record, width: int) -> Window:
    """As many runs as fit, with the one in hand among them; the newest at the right."""
    longest = max((len(n) for n in names_of(record.runs[-50:])), default=8)
    names = max(8, min(longest, width * 2 // 5))
    fit = max(1, (width - names - 5) // _COLUMN)
    last = len(record.runs)
    if record.cursor < last - fit:
        last = max(fit, record.cursor + fit // 2)
    return Window(max(0, last - fit), min(last, len(record.runs)), names)


def grid_lines(record: Record, width: int, tall: bool) -> Lines:
    """The grid, its totals under a double rule, and the drawing where it is tall."""
    view = window_of(record, width)
    runs = record.runs[view.first : view.last]
    earlier = record.runs[view.first - 1] if view.first else None
    lines: Lines = [_numbers(record, view), _rule(view, len(runs))]
    for name in names_of(runs):
        row = [*fitted((Piece(" " + clean(name), "strong"),), view.names + 1), Piece(" │", "rule")]
        for at, run in enumerate(runs):
            before = runs[at - 1] if at else earlier
            row.append(_cell(name, before, run, record, view.first + at))
        lines.append(row)
    lines.append([Piece("═" * width, "rule")])
    lines.append(_totals(record, view, runs))
    if tall:
        lines += [[], *_drawing(record, view, runs)]
    return lines


def _ground(record: Record, place: int) -> str:
    return "lifted" if place == record.cursor else "band" if place == record.marked else ""


def _centred(text: str) -> str:
    """A mark or a number in a run's column, one cell of ground at its right."""
    return text.rjust(_COLUMN - 1) + " "


def _numbers(record: Record, view: Window) -> list[Piece]:
    line = [*fitted((Piece(" case", "quiet"),), view.names + 1), Piece(" │", "rule")]
    for place in range(view.first, view.last):
        number = str(record.number_of(place))[1 - _COLUMN :]
        chosen, marked = place == record.cursor, place == record.marked
        ink = "blue" if chosen or marked else "quiet"
        line.append(Piece(_centred(number), ink, chosen, ground=_ground(record, place)))
    return line


def _rule(view: Window, count: int) -> list[Piece]:
    return [Piece("─" * (view.names + 2) + "┼" + "─" * (count * _COLUMN), "rule")]


def _cell(name: str, before: PastRun | None, run: PastRun, record: Record, place: int) -> Piece:
    """A mark; bold where the case was settled or broke in this run, quiet where it is as before."""
    outcome, ground = run.outcomes.get(name), _ground(record, place)
    if outcome is None:
        return Piece(" " * _COLUMN, ground=ground)
    was = before.outcomes.get(name) if before is not None else outcome
    turned = was is not None and was is not outcome
    agrees = outcome is Outcome.AGREES
    ink = "quiet" if agrees and not turned else INK_OF[outcome]
    return Piece(_centred(glyph(outcome.value)), ink, turned, ground=ground)


def _totals(record: Record, view: Window, runs: Sequence[PastRun]) -> list[Piece]:
    line = [*fitted((Piece(" agree", "ink", True),), view.names + 1), Piece("  ", "rule")]
    for place, run in enumerate(runs, view.first):
        text = _centred(str(run.agreeing))
        line.append(Piece(text, "ink", place == record.cursor, ground=_ground(record, place)))
    return line


def _drawing(record: Record, view: Window, runs: Sequence[PastRun]) -> Lines:
    """How many cases agreed, run by run, as columns; their full height is every case."""
    most = max((len(r.outcomes) for r in runs), default=1) or 1
    lines: Lines = []
    for level in range(_HEIGHT, 0, -1):
        label = f"{most} cases " if level == _HEIGHT else "0 " if level == 1 else ""
        line = [Piece(label.rjust(view.names + 1), "quiet"), Piece(" │", "rule")]
        for place, run in enumerate(runs, view.first):
            eighths = round(run.agreeing / most * _HEIGHT * 8) - (level - 1) * 8
            block = _BLOCKS[max(0, min(8, eighths))]
            line.append(Piece(f" {own(block * 2)} ", "agree", ground=_ground(record, place)))
        lines.append(line)
    return lines


class RunGrid(Prose, can_focus=True):
    """The grid; arrows and clicks choose a run."""

    BINDINGS: ClassVar[list[BindingType]] = [
        Binding("left", "move(-1)", "Run before", show=False),
        Binding("right", "move(1)", "Run after", show=False),
        Binding("up", "turn(-1)", "Page before", show=False),
        Binding("down", "turn(1)", "Page after", show=False),
        # Else what scrolls around it would take these two.
        Binding("home", "screen.to_end(-1)", "First run", show=False),
        Binding("end", "screen.to_end(1)", "Last run", show=False),
        Binding("pageup", "scroll(-8)", "Cases above", show=False),
        Binding("pagedown", "scroll(8)", "Cases below", show=False),
    ]

    class Moved(Message):
        """Another run is wanted: by so many, or the one that many columns from the left."""

        def __init__(self, by: int = 0, column: int | None = None) -> None:
            super().__init__()
            self.by, self.column = by, column

    class Turned(Message):
        """Another page of the notebook is wanted."""

        def __init__(self, by: int) -> None:
            super().__init__()
            self.by = by

    def action_move(self, by: int) -> None:
        """Another run."""
        self.post_message(self.Moved(by))

    def action_turn(self, by: int) -> None:
        """Another page."""
        self.post_message(self.Turned(by))

    def action_scroll(self, by: int) -> None:
        """Cases that are out of sight."""
        if isinstance(self.parent, VerticalScroll):
            self.parent.scroll_relative(y=by, animate=False)

    def on_click(self, event: events.Click) -> None:
        """A click chooses a run."""
        self.post_message(self.Moved(column=event.x))


def place_at(record: Record, width: int, x: int) -> int | None:
    """The run under a cell of the grid, None for none."""
    view = window_of(record, width)
    place = view.first + (x - view.names - 3) // _COLUMN
    return place if view.first <= place < view.last and x >= view.names + 3 else None
