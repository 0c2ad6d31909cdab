"""The lines at the top and the foot of every station: masthead, trail, what is next, keys."""

from __future__ import annotations

from collections.abc import Sequence

from textual import events
from textual.message import Message
from textual.strip import Strip
from textual.widget import Widget

from oddsum.tui.actions import Action
from oddsum.tui.glyphs import own
from oddsum.tui.writing import Line, Piece, fitted, width_of
from oddsum.workspace.interface import StationName


class Band(Widget):
    """One line of pieces; some of them can be clicked. ``right`` stands at the right end."""

    def __init__(self, ground: str = "ground", *, id: str | None = None) -> None:
        super().__init__(id=id)
        self._ground = ground
        self._pieces: Sequence[Piece] = ()
        self._right: Sequence[Piece] = ()

    def write(self, pieces: Sequence[Piece], right: Sequence[Piece] = ()) -> None:
        """Show other pieces."""
        if (pieces, right) != (self._pieces, self._right):
            self._pieces, self._right = pieces, right
            self.refresh()

    def render_line(self, y: int) -> Strip:
        """Draw the line; what stands at the right gives way first."""
        width = self.size.width
        taken = width_of(self._pieces)
        right = self._right if taken + width_of(self._right) + 2 <= width else ()
        line = Line(self.app.theme, self._ground)
        line.put(*fitted(tuple(self._pieces), width - width_of(right)), *right)
        return line.strip(width)


class Masthead(Band):
    """``≠ Odd Sum``, the program, its plan, the interpreter; right: when it was checked."""

    def __init__(self) -> None:
        super().__init__("band", id="masthead")


Tally = tuple[StationName, Sequence[Piece]]


class Trail(Band):
    """The stations in working order with their tallies; a click goes to one."""

    class Chosen(Message):
        """A station was clicked."""

        def __init__(self, station: StationName) -> None:
            super().__init__()
            self.station = station

    def __init__(self) -> None:
        super().__init__(id="trail")
        self._stops: list[tuple[int, StationName]] = []

    def show(self, here: StationName, tallies: Sequence[Tally], narrow: bool) -> None:
        """Show the stations, each with its tally."""
        room = self.size.width or self.app.size.width
        every: frozenset[StationName] = frozenset({station for station, _ in tallies})
        some: frozenset[StationName] = frozenset({here, "check"})
        for shown, rule in ((every, " ────── "), (every, " ── "), (some, " ─── "), (some, " ─ "),
                            (some - {here}, " ─ "), (some - some, " ")):  # fmt: skip
            if narrow and len(rule) > 4:
                continue
            pieces = self._pieces_for(here, tallies, shown, rule)
            if width_of(pieces) <= room:
                break
        self.write(pieces)

    def _pieces_for(
        self, here: StationName, tallies: Sequence[Tally], shown: frozenset[StationName], rule: str
    ) -> list[Piece]:
        """The line, with the tallies of some stations: where there is no room for all of them,
        Check's and this station's remain."""
        pieces: list[Piece] = [Piece(" ")]
        self._stops = []
        for number, (station, tally) in enumerate(tallies, 1):
            if number > 1:
                pieces.append(Piece(rule[1:] if pieces[-1].text.endswith(" ") else rule, "rule"))
            self._stops.append((width_of(pieces), station))
            title = f" {number} {station.capitalize()} "
            if station == here:
                pieces.append(Piece(title, "on-blue", True, ground="blue"))
            else:
                pieces.append(Piece(title, "ink"))
            if station in shown:
                pieces += [Piece(" "), *tally]
        return pieces

    def on_click(self, event: events.Click) -> None:
        """Go to the station under the click."""
        for start, station in reversed(self._stops):
            if event.x >= start:
                self.post_message(self.Chosen(station))
                return


class NextLine(Band):
    """What to do next, quietly."""

    def __init__(self) -> None:
        super().__init__(id="next")

    def show(self, words: str) -> None:
        """Show a sentence."""
        self.write([Piece("Next: ", "blue", bold=True), Piece(words, "ink")])


class KeyLine(Band):
    """The keys of this station; a click does what the key does."""

    class Pressed(Message):
        """An action was clicked."""

        def __init__(self, action: Action) -> None:
            super().__init__()
            self.chosen = action

    def __init__(self) -> None:
        super().__init__("band", id="keys")
        self.actions: list[Action] = []
        self._spans: list[tuple[int, int, Action]] = []

    def show(self, actions: Sequence[Action]) -> None:
        """Show the keys that hold now."""
        shown = [a for a in actions if a.shown]
        if shown != self.actions:
            self.actions = shown
            self.refresh()

    def render_line(self, y: int) -> Strip:
        """Draw as many keys as there is room for; ``?`` always, for it shows the others."""
        width, last = self.size.width, self.actions[-1] if self.actions else None
        line, self._spans = Line(self.app.theme, "band"), []
        at = line_start = 1
        line.put(Piece(" " * line_start))
        reserve = _width(last) + 1 if last is not None else 0
        for action in self.actions:
            size = _width(action)
            if action is not last and at + size + reserve > width:
                continue
            line.put(Piece(own(action.label), "blue", True))
            line.put(Piece(f" {own(action.words)}   ", "quiet"))
            self._spans.append((at, at + size, action))
            at += size
        return line.strip(width)

    def on_click(self, event: events.Click) -> None:
        """Do what the key under the click does."""
        for start, stop, action in self._spans:
            if start <= event.x < stop:
                self.post_message(self.Pressed(action))


def _width(action: Action) -> int:
    return width_of([Piece(own(f"{action.label} {action.words}   "))])
