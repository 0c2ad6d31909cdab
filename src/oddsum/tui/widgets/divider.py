"""The blank between two panels: held with the mouse, it makes one wider and the other narrower."""

from __future__ import annotations

from dataclasses import dataclass

from textual import events
from textual.message import Message
from textual.strip import Strip
from textual.widget import Widget

from oddsum.tui.glyphs import own
from oddsum.tui.writing import Line, Piece


class Divider(Widget):
    """Tells how far it was moved, in cells; where it then stands is for the station to say."""

    DEFAULT_CSS = "Divider { width: 2; height: 1fr; }"

    @dataclass
    class Moved(Message):
        """It was moved: to the right where ``by`` is above 0."""

        by: int

    def __init__(self) -> None:
        super().__init__(classes="gap")
        self._held_at: int | None = None  # column of the screen

    def on_mouse_down(self, event: events.MouseDown) -> None:
        """From here on the mouse moves it."""
        self._held_at = event.screen_x
        self.capture_mouse()
        self.refresh()

    def on_mouse_move(self, event: events.MouseMove) -> None:
        """Tell how far the mouse has gone."""
        if self._held_at is not None and event.screen_x != self._held_at:
            self.post_message(self.Moved(event.screen_x - self._held_at))
            self._held_at = event.screen_x

    def on_mouse_up(self) -> None:
        """Let go."""
        self._held_at = None
        self.release_mouse()
        self.refresh()

    def on_enter(self) -> None:
        """The mouse is over it: a rule shows that it can be held."""
        self.refresh()

    def on_leave(self) -> None:
        """The mouse has gone."""
        self.refresh()

    def render_line(self, y: int) -> Strip:
        """Blank; a rule while the mouse is there."""
        line = Line(self.app.theme)
        if self._held_at is not None or self.mouse_hover:
            line.put(Piece(own("│"), "blue"))
        return line.strip(self.size.width)
