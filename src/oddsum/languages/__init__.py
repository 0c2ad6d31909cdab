"""The languages that programs can be in: a folder each, behind one protocol.

Nothing outside a language's folder knows that language. ``language_of`` gives the one that a file
is of, ``language_for`` the one of a plan.
"""

from __future__ import annotations

from oddsum.languages.registry import (
    cannot,
    is_source,
    language_for,
    language_named,
    language_of,
    of_the_network,
    runs_on,
)

__all__ = [
    "cannot",
    "is_source",
    "language_for",
    "language_named",
    "language_of",
    "of_the_network",
    "runs_on",
]
