"""What every line passes on its way to the terminal, whoever has drawn it."""

from __future__ import annotations

from rich.cells import get_character_cell_size
from rich.segment import Segment
from textual.color import Color
from textual.filter import LineFilter

from oddsum.source.visible import INSTEAD


class Printable(LineFilter):
    """Lets nothing through that a terminal would not simply print; widths stay as they are.

    Our panels make such letters visible themselves, where they measure a text; what comes here is
    what they have missed, and what widgets of others show: a field, an editor, a notice.
    """

    def apply(self, segments: list[Segment], background: Color) -> list[Segment]:
        """The same segments, with what is not printed taken out of their texts."""
        if all(s.text.isprintable() for s in segments):
            return segments
        return [
            s if s.control or s.text.isprintable() else Segment(_fit(s.text), s.style)
            for s in segments
        ]


def _fit(text: str) -> str:
    return "".join(
        c if c.isprintable() else INSTEAD * max(0, get_character_cell_size(c)) for c in text
    )
