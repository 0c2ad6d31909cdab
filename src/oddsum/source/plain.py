"""Plain characters in the place of those that a font, or a terminal without UTF-8, lacks."""

from __future__ import annotations

import os
import sys
import unicodedata
from collections.abc import Mapping

from rich.cells import get_character_cell_size

from oddsum.model.marks import MARKS

PLAIN: Mapping[str, str] = (
    {m.glyph: m.plain for m in MARKS.values() if len(m.glyph) == 1}
    | {"⟨": "<", "⟩": ">", "×": "x", "▪": "#", "▰": "#", "▱": ".", "╷": "|", "┃": "|", "━": "="}
    | {"…": "~", "−": "-", "↑": "Up", "↓": "Down", "←": "Left", "→": "->", "⏎": "|"}
    | {"─": "-", "│": "|", "┼": "+", "═": "=", "┌": "+", "┐": "+", "└": "+", "┘": "+"}
)
# What is drawn by others: bars that scroll and their ends, an arrow of a list, dots.
_DRAWN = str.maketrans(
    dict.fromkeys("▁▂▃▄▅▆▇█▌▐▊▎▉▋▍▏", "#") | {"▼": "v", "▲": "^", "•": "*", "·": "-"}
)


def shows_ascii_only(environment: Mapping[str, str], utf8_mode: bool) -> bool:
    """Whether the terminal's locale has no UTF-8.

    ``utf8_mode``: the interpreter took up UTF-8 because the locale it found has none; it then sets
    LC_CTYPE itself, which says nothing of the terminal.
    """
    coerced = utf8_mode and environment.get("LC_CTYPE") == "C.UTF-8"
    names = ("LC_ALL", "LANG") if coerced else ("LC_ALL", "LC_CTYPE", "LANG")
    locale = next((environment[n] for n in names if environment.get(n)), "")
    return "utf" not in locale.casefold()


def this_terminal_shows_ascii_only() -> bool:
    """The same, of the terminal that we are in."""
    forced = os.environ.get("PYTHONUTF8") == "1"
    return shows_ascii_only(os.environ, bool(sys.flags.utf8_mode) and not forced)


def in_ascii(text: str) -> str:
    """A text in ASCII, as many cells wide: letters without their marks, else a ``?`` a cell."""
    return "".join(c if c.isascii() else _plain(c) for c in text.translate(_DRAWN))


def _plain(char: str) -> str:
    width = get_character_cell_size(char)
    for text in (PLAIN.get(char, ""), unicodedata.normalize("NFKD", char)[:1]):
        if text and text.isascii():
            return text[:width].ljust(width)
    return "?" * width
