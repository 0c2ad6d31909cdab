"""A drawing: the lines of a program that draws, and what else it put on its sheet."""

from __future__ import annotations

import msgspec


class Segment(msgspec.Struct, frozen=True, array_like=True):
    """A straight line, in steps to the right and up from the middle of the sheet.

    ``ink`` is a colour's name or ``#rrggbb``, blank for any; ``width`` is in steps.
    """

    x1: float
    y1: float
    x2: float
    y2: float
    ink: str = ""
    width: float = 1.0


class Picture(msgspec.Struct, frozen=True, kw_only=True):
    """What was drawn, in its order. ``cut``: more lines were drawn than are kept.

    ``fills`` are corners (x and y in turn) and an ink, ``dots`` a place, a size and an ink,
    ``texts`` a place, a text and an ink. ``waits``: the program asked for keys or clicks.
    """

    lines: tuple[Segment, ...] = ()
    fills: tuple[tuple[tuple[float, ...], str], ...] = ()
    dots: tuple[tuple[float, float, float, str], ...] = ()
    texts: tuple[tuple[float, float, str, str], ...] = ()
    ground: str = "white"
    cut: bool = False
    waits: bool = False


class Draws(msgspec.Struct, frozen=True):
    """The lines a case should draw; ``file`` names the picture they were read from, if any."""

    lines: tuple[Segment, ...]
    file: str = ""
