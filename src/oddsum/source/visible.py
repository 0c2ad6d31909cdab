"""The door to a terminal: text that is only shown, whatever is in it.

A program's output, names, plans, errors and file names can hold letters that make a terminal do
something (escape sequences, bells), turn the order of what stands beside them (bidirectional marks)
or are not seen at all. All text of a command goes through ``visible``, and each line of the screen.
"""

from __future__ import annotations

INSTEAD = "·"


def visible(text: str, kept: str = "\n\t") -> str:
    """The text with a dot for every letter that is not simply printed, but those in ``kept``."""
    if text.isprintable():
        return text
    return "".join(c if c.isprintable() or c in kept else INSTEAD for c in text)


def escaped(text: str) -> str:
    """Text of json, with such letters as ``\\u`` escapes: it reads back as it was."""
    if text.isprintable():
        return text
    return "".join(c if c.isprintable() or c == "\n" else _escape(c) for c in text)


def _escape(letter: str) -> str:
    units = letter.encode("utf-16-be", "surrogatepass")
    return "".join(f"\\u{units[at] << 8 | units[at + 1]:04x}" for at in range(0, len(units), 2))
