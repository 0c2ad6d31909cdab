"""Where the workspace meets Textual: calls from its jobs come in as messages, its wishes go out."""

from __future__ import annotations

from collections.abc import Callable

from textual.app import App
from textual.message import Message
from textual.timer import Timer

from oddsum.tui.dialogs.choose import Choose
from oddsum.workspace.interface import Choice, Part, StationName, Weight

_SHOW_EVERY = 0.1  # seconds between two pictures of something that is only counting


class Carried(Message):
    """A call from another thread has come; it is carried out as this is handled."""

    def __init__(self, call: Callable[[], None]) -> None:
        super().__init__()
        self.call = call


class Edge:
    """The interface that the workspace sees; what changed is gathered, and given to ``show``."""

    def __init__(self, app: App[None], show: Callable[[frozenset[Part]], None]) -> None:
        self._app, self._show_parts = app, show
        self._changed: set[Part] = set()
        self._showing = False
        self._later: Timer | None = None

    def post(self, call: Callable[[], None]) -> None:
        """Carry a call to the application's own thread, in order."""
        self._app.post_message(Carried(call))

    def later(self, seconds: float, call: Callable[[], None]) -> Callable[[], None]:
        """Carry out a call after a time; returns what takes that back."""
        return self._app.set_timer(seconds, call).stop

    def changed(self, *parts: Part) -> None:
        """Show these parts anew: what only counts now and then, all else at once."""
        self._changed.update(parts)
        if Part.COUNT not in parts:
            if not self._showing:
                self._showing = True
                self._app.call_later(self._show)
        elif self._later is None:
            self._later = self._app.set_timer(_SHOW_EVERY, self._show)

    def _show(self) -> None:
        if self._later is not None:
            self._later.stop()
        self._later, self._showing = None, False
        parts, self._changed = frozenset(self._changed), set()
        if parts:
            self._show_parts(parts)

    def say(self, text: str, weight: Weight = "information", seconds: float = 5.0) -> None:
        """A note at the edge of the screen."""
        self._app.notify(text, severity=weight, timeout=seconds)

    def choose(self, choice: Choice, then: Callable[[str], None]) -> None:
        """A question over whatever is on the screen."""

        def answered(answer: str | None) -> None:
            if answer is not None:
                then(answer)

        self._app.push_screen(Choose(choice), answered)

    def go(self, station: StationName) -> None:
        """Show a station."""
        self._app.switch_mode(station)
