"""A terminal on the screen: what a live program shows, and the keys that go to it."""

from __future__ import annotations

from dataclasses import dataclass

import pyte
from textual import events
from textual.message import Message
from textual.strip import Strip
from textual.widget import Widget

from oddsum.tui.writing import Line, Piece

_KEYS = {
    "enter": b"\r", "backspace": b"\x7f", "tab": b"\t", "delete": b"\x1b[3~", "up": b"\x1b[A",
    "down": b"\x1b[B", "right": b"\x1b[C", "left": b"\x1b[D", "home": b"\x1b[H", "end": b"\x1b[F",
    "ctrl+d": b"\x04", "ctrl+u": b"\x15", "ctrl+w": b"\x17",
}  # fmt: skip
_KEPT = 5000  # lines that have scrolled away and can be looked at again


class LiveTerminal(Widget, can_focus=True):
    """As many cells as there is room for; PageUp and PageDown look at what has scrolled away."""

    DEFAULT_CSS = "LiveTerminal { height: 1fr; }"

    @dataclass
    class Typed(Message):
        """Bytes for the program."""

        data: bytes

    @dataclass
    class Resized(Message):
        """The terminal has another size, in cells."""

        columns: int
        lines: int

    def __init__(self) -> None:
        super().__init__(id="live")
        self.terminal = pyte.HistoryScreen(80, 24, history=_KEPT, ratio=0.5)
        self._stream = pyte.ByteStream(self.terminal)
        self.asleep = False  # the program has ended: no key goes to it

    def feed(self, data: bytes) -> None:
        """Take what the program shows."""
        while self.terminal.history.position < self.terminal.history.size:
            self.terminal.next_page()
        self._stream.feed(data)
        self.refresh()

    def on_resize(self, event: events.Resize) -> None:
        """Be as large as there is room."""
        columns, lines = max(20, event.size.width), max(4, event.size.height)
        self._cut_below(lines)
        self.terminal.resize(lines, columns)
        self.post_message(self.Resized(columns, lines))

    def _cut_below(self, lines: int) -> None:
        """Give up empty lines below the cursor first: else lines would go at the top."""
        terminal = self.terminal
        kept = max(lines, terminal.cursor.y + 1)
        if kept < terminal.lines:
            for y in range(kept, terminal.lines):
                terminal.buffer.pop(y, None)
            terminal.lines = kept

    def on_key(self, event: events.Key) -> None:
        """Every key is the program's, but those that leave, look back or move on."""
        if event.key in ("pageup", "pagedown"):
            (self.terminal.prev_page if event.key == "pageup" else self.terminal.next_page)()
            self.refresh()
            event.stop()
            return
        if self.asleep:
            return
        data = _KEYS.get(event.key)
        if data is None and event.character is not None and event.is_printable:
            data = event.character.encode()
        if data is not None:
            event.stop()
            event.prevent_default()
            self.post_message(self.Typed(data))

    def on_paste(self, event: events.Paste) -> None:
        """Text that was pasted is typed."""
        if not self.asleep:
            event.stop()
            self.post_message(self.Typed(event.text.replace("\n", "\r").encode()))

    def text(self) -> str:
        """What can be seen, as text."""
        return "\n".join(line.rstrip() for line in self.terminal.display)

    def render_line(self, y: int) -> Strip:
        """Draw one line, the cursor as a lifted cell."""
        line = Line(self.app.theme)
        if y >= self.terminal.lines:
            return line.strip(self.size.width)
        cursor = self.terminal.cursor
        row = self.terminal.buffer[y]
        for x in range(self.terminal.columns):
            char = row[x]
            here = self.has_focus and not self.asleep and (cursor.x, cursor.y) == (x, y)
            if char.data:
                ground = "blue" if here else "lifted" if char.reverse else ""
                line.put(Piece(char.data, "ground" if here else "ink", char.bold, ground=ground))
        return line.strip(self.size.width)
