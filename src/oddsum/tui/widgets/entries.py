"""Names and lists as a ledger: what names hold, and the entries whose numbers they carry."""

from __future__ import annotations

import textwrap

from oddsum.trace.aliases import Ledger
from oddsum.tui.widgets.prose import wrapped
from oddsum.tui.writing import Piece, clean, fitted

Lines = list[list[Piece]]
_NAME, _KIND = 26, 18
_MOST_LINES = 40  # of one entry's content


def entries_lines(found: Ledger, width: int, word: str = "") -> Lines:
    """The names, what shares one entry, and the entries; ``word`` says how far this was looked."""
    if not found.names:
        return [[Piece("No variable has a value at this step.", "quiet")]]
    lines = _head(("name", _NAME), ("value, or the number of its entry", width), width)
    for name in found.names:
        value = (Piece(f"entry {name.entry}", "blue", True),) if name.entry else (
            Piece(clean(name.text)),)  # fmt: skip
        lines.append([*fitted((Piece(name.name, "strong"),), _NAME), Piece("│ ", "rule"),
                      *fitted(value, max(8, width - _NAME - 2))])  # fmt: skip
    lines.append([Piece("═" * width, "rule")])
    for sentence in found.shared():
        lines += wrapped(sentence, width, "strong")
    if word:
        lines += wrapped(word, width, "quiet")
    if not found.entries:
        return [*lines, [Piece("No list, dict or object yet.", "quiet")]]
    lines += [[], *_head(("entry", 7), ("what it is", _KIND), width, ("content", width))]
    for entry in found.entries:
        lines += _entry(entry.number, entry.type, entry.size, entry.text, width)
    lines.append([Piece("═" * width, "rule")])
    return lines


def _entry(number: int, kind: str, size: int | None, text: str, width: int) -> Lines:
    what = kind if size is None else f"{kind} of {size:,}"
    room = max(12, width - 7 - _KIND - 4)
    parts = textwrap.wrap(clean(text), room, drop_whitespace=False, break_on_hyphens=False) or [""]
    if len(parts) > _MOST_LINES:
        parts = [*parts[:_MOST_LINES], "… cut here. Enter shows it whole, among the values."]
    lines: Lines = []
    for n, part in enumerate(parts):
        head = [Piece(f"{number:>4}   ", "blue", True), *fitted((Piece(what, "quiet"),), _KIND)]
        blank = [Piece(" " * (7 + _KIND))]
        lines.append([*(head if n == 0 else blank), Piece("│ ", "rule"), Piece(part)])
    return lines


def _head(first: tuple[str, int], second: tuple[str, int], width: int,
          third: tuple[str, int] | None = None) -> Lines:  # fmt: skip
    line = [*fitted((Piece(first[0], "quiet"),), first[1])]
    if third is None:
        line += [Piece("│ ", "rule"), Piece(second[0], "quiet")]
    else:
        line += [*fitted((Piece(second[0], "quiet"),), second[1]), Piece("│ ", "rule"),
                 Piece(third[0], "quiet")]  # fmt: skip
    return [line, [Piece("─" * width, "rule")]]
