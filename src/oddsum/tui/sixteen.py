"""Terminals with sixteen colours: each ink and ground is given one of them by its meaning.

Left to the nearest colour, what is in hand is grey on white there, and what is odd red on red.
"""

from __future__ import annotations

from functools import lru_cache

from rich.color import Color
from rich.segment import Segment
from rich.style import Style
from textual.color import Color as TextualColor
from textual.filter import LineFilter

from oddsum.tui.theme import COLOURS

# What each ink is, by theme, and each ground. Amber is the terminal's yellow (brown on many), which
# nothing else has; on paper that cannot be read: the darkest warm colour stands for it there.
INKS = {
    "lamp": {
        "ground": "black", "lifted": "bright_black", "band": "black", "ink": "white",
        "strong": "bright_white", "quiet": "white", "rule": "bright_black", "straw": "bright_white",
        "blue": "bright_cyan", "on-blue": "bright_white", "agree": "bright_green",
        "odd": "bright_yellow", "stopped": "bright_magenta", "endless": "bright_magenta",
        "open": "bright_white", "keyword": "bright_cyan", "text": "white", "number": "white",
    },
    "paper": {
        "ground": "bright_white", "lifted": "white", "band": "bright_white", "ink": "black",
        "strong": "black", "quiet": "bright_black", "rule": "bright_black", "straw": "black",
        "blue": "blue", "on-blue": "bright_white", "agree": "black", "odd": "red",
        "stopped": "magenta", "endless": "magenta", "open": "black", "keyword": "blue",
        "text": "black", "number": "black",
    },
}  # fmt: skip
GROUNDS = {
    "lamp": {"ground": "black", "lifted": "bright_black", "band": "black", "blue": "blue",
             "agree": "green", "odd": "yellow"},
    "paper": {"ground": "bright_white", "lifted": "white", "band": "bright_white", "blue": "blue",
              "agree": "green", "odd": "red"},
}  # fmt: skip
# What stands on a ground of its own, where its usual ink could not be read there.
ON = {
    "lamp": {"agree": "black", "odd": "black", "blue": "bright_white", "lifted": "bright_white"},
    "paper": {"agree": "black", "odd": "bright_white", "blue": "bright_white", "lifted": "black"},
}


class Sixteen(LineFilter):
    """Gives every segment colours that the terminal has; what is no colour of ours stays."""

    def __init__(self) -> None:
        super().__init__()
        self.theme = "lamp"

    def apply(self, segments: list[Segment], background: TextualColor) -> list[Segment]:
        """The same segments in the terminal's own colours."""
        return [
            Segment(s.text, recoloured(self.theme, s.style), s.control) if s.style else s
            for s in segments
        ]


@lru_cache(maxsize=1024)
def recoloured(theme: str, style: Style) -> Style:
    """A style in the sixteen colours."""
    names = _names(theme)
    ink, ground = names.get(_digits(style.color)), names.get(_digits(style.bgcolor))
    colour = Color.parse(INKS[theme][ink]) if ink is not None else None
    if ground in ON[theme] and not (ground == "lifted" and ink == "odd"):
        colour = Color.parse(ON[theme][ground])
    behind = Color.parse(GROUNDS[theme][ground]) if ground in GROUNDS[theme] else None
    made = Style.from_color(colour or style.color, behind or style.bgcolor)
    # Bold makes black a grey on many of these terminals.
    return style + made + (Style(bold=False) if colour and colour.name == "black" else Style())


@lru_cache(maxsize=4)
def _names(theme: str) -> dict[str, str]:
    return {digits: name for name, digits in reversed(list(COLOURS[theme].items()))}


def _digits(colour: Color | None) -> str:
    return colour.get_truecolor().hex if colour is not None and colour.triplet else ""
