"""Pieces of a program in sentences."""

from __future__ import annotations


def quoted(text: str) -> str:
    """A piece of the program in a sentence: on one line."""
    return "`" + " ".join(text.split()) + "`"
