"""The notebook: for each fault where, what, how, and the learner's own words."""

from __future__ import annotations

import time
from collections.abc import Sequence

from oddsum.model.history import Entry
from oddsum.tui.widgets.prose import titled, wrapped
from oddsum.tui.writing import Piece

Lines = list[list[Piece]]
_LABEL = 10


def notebook_lines(entries: Sequence[Entry], page: int, width: int) -> Lines:
    """The page in hand, whole; the others as a line each."""
    if not entries:
        said = (
            "Nothing yet. When a change that you keep settles a case, a page about it begins here: "
            "where it was, what it was, how it was mended. A begins one by hand."
        )
        return [[], *wrapped(said, width, "quiet")]
    lines: Lines = []
    for n in range(len(entries) - 1, -1, -1):
        entry = entries[n]
        chosen = n == page
        when = time.strftime("%d %b %H:%M", time.localtime(entry.at))
        head = [Piece(f" {n + 1:>2}  ", "blue" if chosen else "quiet", chosen),
                Piece(entry.where or "where?", "strong", chosen)]  # fmt: skip
        lines += [[]] if chosen and lines else []
        lines.append(head)
        if chosen:
            lines += _page(entry, when, width)
    return lines


def _page(entry: Entry, when: str, width: int) -> Lines:
    lines: Lines = []
    for label, text in (("what", entry.what), ("how", entry.how)):
        lines += _labelled(label, text or "not said yet", width, "ink" if text else "quiet")
    for label, text in entry.known:
        lines += _labelled(label, text, width, "quiet")
    lines += _labelled("written", when, width, "quiet")
    lines += [[], titled("IN YOUR OWN WORDS", width)]
    if entry.own:
        for line in entry.own.split("\n"):
            lines += wrapped(line, width, "strong") if line.strip() else [[]]
    else:
        said = "Nothing yet. What was wrong, and how would you notice it next time? E writes it."
        lines += wrapped(said, width, "quiet")
    return [*lines, []]


def _labelled(label: str, text: str, width: int, ink: str) -> Lines:
    body = wrapped(text.replace("`", "'"), max(10, width - _LABEL - 5), ink)
    return [
        [Piece(" " * 5), Piece((label if n == 0 else "").ljust(_LABEL), "quiet"), *line]
        for n, line in enumerate(body)
    ]
