"""Two panels beside each other that share the width; under each other where it is narrow."""

from __future__ import annotations

from typing import Any

from textual import on
from textual.containers import Horizontal
from textual.message import Message

from oddsum.tui.widgets.divider import Divider

_LEAST_SHARE = 25  # percent of the width that a panel keeps
_NARROW = "-narrow"  # the class of a screen on which they stand under each other


class Panels(Horizontal):
    """Holds ``#left`` and ``#right``, a Divider between them. ``share``: percent of the left."""

    class Widened(Message):
        """The panels have other widths: what they show is to be drawn anew."""

    def __init__(self, share: int, **named: Any) -> None:
        super().__init__(**named)
        self.share = share

    def widen(self, by: int) -> None:
        """Give the left panel more of the width, or less; in percent."""
        self.share = min(max(self.share + by, _LEAST_SHARE), 100 - _LEAST_SHARE)
        self.share_width(narrow=self.screen.has_class(_NARROW))
        self.post_message(self.Widened())

    def share_width(self, narrow: bool) -> None:
        """Give the panels their widths: the whole of it to each, where it is narrow."""
        for panel, share in (("#left", self.share), ("#right", 100 - self.share)):
            self.query_one(panel).styles.width = "1fr" if narrow else f"{share}fr"

    @on(Divider.Moved)
    def moved_divider(self, message: Divider.Moved) -> None:
        """The blank between the panels was moved with the mouse."""
        by = message.by * 100 / max(1, self.size.width)
        self.widen(round(by) or (1 if by > 0 else -1))
