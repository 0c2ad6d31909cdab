"""What was tried in this program: the change, what it settled and broke, kept or not."""

from __future__ import annotations

import time
from collections.abc import Sequence

from oddsum.mend.words import edits_words
from oddsum.model.history import Try
from oddsum.tui.glyphs import own
from oddsum.tui.widgets.prose import wrapped
from oddsum.tui.writing import Piece, clean, fitted

Lines = list[list[Piece]]


def tries_lines(tries: Sequence[Try], width: int) -> Lines:
    """The tries, the newest first: the change, whole, and under it what it did."""
    if not tries:
        said = "Nothing yet. What you try is listed here with what it did, kept or not."
        return [[], *wrapped(said, width, "quiet")]
    lines: Lines = []
    today = time.strftime("%d %b")
    for tried in reversed(tries):
        day = time.strftime("%d %b", time.localtime(tried.at))
        clock = time.strftime("%H:%M", time.localtime(tried.at))
        when = clock if day == today else day
        word = "kept" if tried.kept else "not kept"
        kept = Piece(word.rjust(8), "blue" if tried.kept else "quiet", tried.kept)
        words = clean(own(edits_words(tried.edits))).replace("`", "'")
        body = wrapped(words, max(12, width - 17), "strong")
        lines.append([Piece(f"{when:<7}", "quiet"), *fitted(tuple(body[0]), max(8, width - 16)),
                      Piece(" "), kept])  # fmt: skip
        lines += [[Piece(" " * 7), *more] for more in body[1:]]
        lines.append([Piece(" " * 7), *_did(tried)])
    return lines


def _did(tried: Try) -> list[Piece]:
    pieces = []
    if tried.settled:
        pieces.append(Piece(f"settled {len(tried.settled)}  ", "agree"))
    if tried.broke:
        pieces.append(Piece(f"broke {len(tried.broke)}  ", "odd"))
    if not pieces:
        pieces.append(Piece("settled none  ", "quiet"))
    pieces.append(Piece(f"{tried.agreeing} of {tried.cases} agree", "quiet"))
    if tried.times > 1:
        pieces.append(Piece(f"  tried {tried.times} times", "quiet"))
    if tried.words:
        pieces.append(Piece(f"  {tried.words}", "quiet"))
    return pieces
