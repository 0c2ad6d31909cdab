"""Terminals that show no more than ASCII: what is drawn is plain characters there, by itself."""

from __future__ import annotations

from rich.segment import Segment
from textual.color import Color
from textual.filter import LineFilter

from oddsum.source.plain import in_ascii


class AsciiOnly(LineFilter):
    """Lets nothing through that such a terminal cannot show; widths stay as they are."""

    def apply(self, segments: list[Segment], background: Color) -> list[Segment]:
        """The same segments in plain characters."""
        if all(s.text.isascii() for s in segments):
            return segments
        return [
            s if s.control or s.text.isascii() else Segment(in_ascii(s.text), s.style)
            for s in segments
        ]
