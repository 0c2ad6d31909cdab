"""The two themes, Lamp and Paper, and the inks that widgets write with.

Every pair of ink and ground meets WCAG AA (4.5 to 1); a test works it out. Amber means odd and
nothing else; blue is where you are and what you can do; straw is for headings.
"""

from __future__ import annotations

from functools import lru_cache
from types import MappingProxyType

from rich.style import Style
from textual.theme import Theme

LAMP_COLOURS = MappingProxyType(
    {
        "ground": "#101318",
        "lifted": "#232b36",
        "band": "#1a2029",
        "ink": "#e8e2d4",
        "strong": "#fbf6ea",
        "quiet": "#949ba6",
        "rule": "#3c444f",
        "straw": "#d9c07c",
        "blue": "#93b4ff",
        "on-blue": "#0d1118",
        "agree": "#62cdb7",
        "odd": "#f2a65a",
        "stopped": "#d89be8",
        "endless": "#ab9df5",
        "open": "#d9c07c",
        "keyword": "#a9bce6",
        "text": "#8fd0bd",
        "number": "#dcc58a",
    }
)
PAPER_COLOURS = MappingProxyType(
    {
        "ground": "#f7f1e4",
        "lifted": "#e7dcc2",
        "band": "#ece3cf",
        "ink": "#2a261f",
        "strong": "#100e0a",
        "quiet": "#655e50",
        "rule": "#bdb29b",
        "straw": "#6b5000",
        "blue": "#1749b0",
        "on-blue": "#fbf7ee",
        "agree": "#0b5f51",
        "odd": "#924300",
        "stopped": "#832a73",
        "endless": "#54399f",
        "open": "#6b5000",
        "keyword": "#2a4a8c",
        "text": "#14604f",
        "number": "#6b4b00",
    }
)
COLOURS = {"lamp": LAMP_COLOURS, "paper": PAPER_COLOURS}


def _theme(name: str, dark: bool) -> Theme:
    c = COLOURS[name]
    return Theme(
        name=name,
        dark=dark,
        primary=c["blue"],
        secondary=c["straw"],
        accent=c["blue"],
        foreground=c["ink"],
        background=c["ground"],
        surface=c["ground"],
        panel=c["band"],
        success=c["agree"],
        warning=c["odd"],
        error=c["stopped"],
        variables={
            **{f"o-{key}": value for key, value in c.items()},
            "block-cursor-background": c["blue"],
            "block-cursor-foreground": c["on-blue"],
            "input-selection-background": c["lifted"],
            "scrollbar": c["rule"],
            "scrollbar-hover": c["quiet"],
            "scrollbar-active": c["blue"],
            "scrollbar-background": c["ground"],
            "scrollbar-background-hover": c["ground"],
            "scrollbar-background-active": c["ground"],
            "scrollbar-corner-color": c["ground"],
        },
    )


THEMES = (_theme("lamp", dark=True), _theme("paper", dark=False))


def rgb(theme: str, name: str) -> tuple[int, int, int]:
    """A colour of a theme as red, green and blue, 0 to 255 each."""
    digits = COLOURS.get(theme, LAMP_COLOURS)[name].lstrip("#")
    return int(digits[:2], 16), int(digits[2:4], 16), int(digits[4:6], 16)


@lru_cache(maxsize=256)
def ink(theme: str, name: str, ground: str = "", bold: bool = False, italic: bool = False) -> Style:
    """A style of a theme: an ink by name, on a ground by name where one is given."""
    colours = COLOURS.get(theme, LAMP_COLOURS)
    return Style(
        color=colours[name],
        bgcolor=colours[ground] if ground else None,
        bold=bold or None,
        italic=italic or None,
    )
