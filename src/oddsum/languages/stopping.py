"""Errors put into plain words by a table: a language has its own."""

from __future__ import annotations

import re
from collections.abc import Iterable, Mapping

# Types of error, with ``|`` between them; what the message holds; the sentence.
Told = tuple[str, str, str]


def told(table: Iterable[Told], named: Mapping[str, str], kind: str, message: str) -> str:
    """The first sentence that fits, blank for none; ``named``: words for the names of types."""
    for types, pattern, words in table:
        match = re.search(pattern, message) if kind in types.split("|") else None
        if match is not None:
            return words.format(*(named.get(g, g) for g in match.groups() if g is not None))
    return ""
