"""The marks of the ledger: a glyph, plain characters of sure width, and a word."""

from __future__ import annotations

import msgspec


class Mark(msgspec.Struct, frozen=True):
    """A mark: its glyph, and the characters that stand for it where fonts lack it."""

    glyph: str
    plain: str
    word: str


MARKS = {
    "agrees": Mark("=", "=", "agrees"),
    "differs": Mark("≠", "#", "differs"),
    "stopped": Mark("!", "!", "stopped"),
    "endless": Mark("∞", "@", "endless"),
    "open": Mark("?", "?", "open"),
    "stale": Mark("~", "~", "stale"),
    "hold": Mark("‖", "||", "hold"),
    "claim": Mark("≟", "=?", "claim"),
    "change": Mark("→", "->", "becomes"),
}
