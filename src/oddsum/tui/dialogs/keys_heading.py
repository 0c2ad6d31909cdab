"""The heading of a dialog: its title, and at the right the keys that work in it."""

from __future__ import annotations

from rich.cells import cell_len

from oddsum.tui.actions import keys_words
from oddsum.tui.widgets.heading import Heading


class KeysHeading(Heading):
    """Where not all keys have room, the last ones stay: the way out is named on every terminal."""

    def __init__(self, title: str, dialog: str, *, id: str | None = None) -> None:
        super().__init__(title, keys_words(dialog), id=id)

    def shown(self, room: int) -> str:
        """As many keys, from the last, as fit."""
        words = self.right
        while words and cell_len(words) > room:
            words = words.partition(" · ")[2]
        return words
