"""A program's output as text, with the places of its prompts."""

from __future__ import annotations

from itertools import pairwise

from oddsum.run import wire

Asked = tuple[tuple[int, int, str], ...]
NOT_UTF8 = "It printed bytes that are not UTF-8; they are shown as �."


def read_marks(data: bytes, own_mark: str, answers: list[str]) -> tuple[bytes, Asked]:
    """Take the marks out of the output; returns the bytes and (start, end, answer) of each prompt.

    Positions count bytes. A prompt whose answer never came (there was no input left) is no prompt
    that was answered: it is plain output.
    """
    clean, opened = bytearray(), 0
    asked: list[tuple[int, int, str]] = []
    left = list(answers)
    mark = b"\0" + own_mark.encode()
    first, *marked = data.split(mark)
    clean += first
    for piece in marked:
        sign = piece[:1]
        if sign not in (wire.FRESH, wire.OPEN, wire.CLOSE):
            clean += mark + piece  # printed by the program, and no mark of ours
            continue
        if sign == wire.FRESH:
            clean.clear()
            asked.clear()
        elif sign == wire.OPEN:
            opened = len(clean)
        elif left:
            asked.append((opened, len(clean), left.pop(0)))
        clean += piece[1:]
    return bytes(clean), tuple(asked)


def as_text(data: bytes, asked: Asked) -> tuple[str, Asked, bool]:
    """Decode output and move the places along; says whether every byte was UTF-8.

    Line ends are made ``\\n``, as Python's own text streams read them.
    """
    cuts = sorted({0, len(data), *(a for a, _, _ in asked), *(b for _, b, _ in asked)})
    places, text = {0: 0}, ""
    for start, stop in pairwise(cuts):
        text += data[start:stop].decode("utf-8", "replace").replace("\r\n", "\n")
        places[stop] = len(text)
    moved = tuple((places[a], places[b], t) for a, b, t in asked)
    return text, moved, _is_utf8(data)


def _is_utf8(data: bytes) -> bool:
    try:
        data.decode("utf-8")
    except UnicodeDecodeError:
        return False
    return True
