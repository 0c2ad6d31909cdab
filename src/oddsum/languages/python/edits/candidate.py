"""A line that could be missing."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class Candidate:
    """A line that could be missing, with how likely.

    ``at`` says where alone it could be: in a ``loop`` or straight ``after`` one, at the ``end`` or
    the ``start`` of a function, anywhere in a ``function``; blank for anywhere.
    """

    text: str
    likely: float
    at: str = ""
