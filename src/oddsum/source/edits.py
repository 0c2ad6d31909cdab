"""Edits of whole lines: found between two texts, applied, and the lines that they touch."""

from __future__ import annotations

from difflib import SequenceMatcher

from oddsum.model.lead import Edit
from oddsum.source.program import Source


def edits_of(source: Source, text: str) -> tuple[Edit, ...]:
    """The whole lines of a file that another text changes, each run of lines an Edit.

    Lines are those of ``source``. An empty ``before`` inserts ahead of ``line``.
    """
    before, after = source.text.split("\n"), text.split("\n")
    matcher = SequenceMatcher(None, before, after, autojunk=False)
    return tuple(
        Edit(source.name, a + 1, b, tuple(before[a:b]), tuple(after[c:d]))
        for tag, a, b, c, d in matcher.get_opcodes()
        if tag != "equal"
    )


def applied(source: Source, edits: tuple[Edit, ...]) -> str:
    """The text with these edits of its file made."""
    lines = source.text.split("\n")
    for edit in sorted(edits, key=lambda e: (e.line, e.end), reverse=True):
        if edit.file == source.name:
            lines[edit.line - 1 : edit.end] = edit.after
    return "\n".join(lines)


def lines_of(edits: tuple[Edit, ...]) -> tuple[int, ...]:
    """The lines that edits change; for an insertion, the two it comes between."""
    found: set[int] = set()
    for edit in edits:
        if edit.before:
            found |= set(range(edit.line, edit.end + 1))
        else:
            found |= {n for n in (edit.line - 1, edit.line) if n > 0}
    return tuple(sorted(found))
