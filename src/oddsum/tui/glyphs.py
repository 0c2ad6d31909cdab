"""The interface's own marks, or plain characters of sure width in their place.

Some terminals draw ``≠`` or ``‖`` two cells wide, some fonts lack them. The setting changes what
the interface writes of its own; what the learner's program says is never touched.
"""

from __future__ import annotations

from oddsum.model.marks import MARKS
from oddsum.source.plain import PLAIN

_PLAIN = str.maketrans(dict(PLAIN))


class _Choice:
    """Which set is in use; one for the whole application."""

    plain = False


def use_plain_marks(plain: bool) -> None:
    """Choose the set of marks from now on."""
    _Choice.plain = plain


def own(text: str) -> str:
    """A text of the interface's own, in the set of marks that is in use."""
    return text.translate(_PLAIN) if _Choice.plain else text


def glyph(outcome: str) -> str:
    """The mark of an outcome (or ``stale``, ``hold``) in the set that is in use."""
    mark = MARKS[outcome]
    return mark.plain if _Choice.plain else mark.glyph
