"""A slip, which is an edit of characters, as edits of whole lines, as the contract wants it."""

from __future__ import annotations

from oddsum.model.lead import Edit, Slip
from oddsum.source.edits import edits_of
from oddsum.source.program import Source


def slip_edits(source: Source, slip: Slip) -> tuple[Edit, ...]:
    """The whole lines that one slip changes."""
    return edits_of(source, source.text[: slip.start] + slip.new + source.text[slip.stop :])
