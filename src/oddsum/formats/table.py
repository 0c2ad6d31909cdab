"""The table of formats: each answer with those it can be written in, the usual one first.

A module is loaded when its format is asked for. Each has one function ``write`` that takes the
answer and returns the whole text.
"""

from __future__ import annotations

from importlib import import_module
from typing import Any

FORMATS: dict[str, tuple[str, ...]] = {
    "check": ("text", "json", "xml"),
    "trace": ("text", "csv", "json"),
    "ask": ("text", "json"),
    "pinpoint": ("text", "json"),
    "plan": ("md", "csv"),
    "advice": ("text", "json"),
    "report": ("html", "md"),
    "doctor": ("text", "json"),
}


def choices(answer: str) -> tuple[str, ...]:
    """The formats that an answer can be written in, the usual one first."""
    return FORMATS[answer]


def write(answer: str, how: str, *args: Any, **options: Any) -> str:
    """Return an answer as text in a format; the arguments are those of its ``write``."""
    module = import_module(f"oddsum.formats.{answer}_{how}")
    text: str = module.write(*args, **options)
    return text
