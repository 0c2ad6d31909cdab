"""Checks of the small pieces of the language that a plan holds."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from oddsum.source.parsing import expression_of, module_of


def expression_fault(text: str) -> str | None:
    """Say what is wrong with an expression, None where it can be read."""
    return _fault(text.strip(), expression_of)


def statements_fault(text: str) -> str | None:
    """Say what is wrong with statements, None where they can be read."""
    return _fault(text, module_of)


def _fault(text: str, read: Callable[[str], Any]) -> str | None:
    try:
        read(text)
    except (SyntaxError, ValueError) as error:
        return getattr(error, "msg", None) or str(error)
    return None
