"""A trial edit, which is one of characters, as edits of whole lines, as the contract wants it."""

from __future__ import annotations

from oddsum.model.lead import Edit, TrialEdit
from oddsum.source.edits import edits_of
from oddsum.source.program import Source


def line_edits(source: Source, edit: TrialEdit) -> tuple[Edit, ...]:
    """The whole lines that one edit changes."""
    return edits_of(source, source.text[: edit.start] + edit.new + source.text[edit.stop :])
