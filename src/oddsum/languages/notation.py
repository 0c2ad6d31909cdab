"""Values as plans and results write them, whatever language the program is in."""

from __future__ import annotations

from typing import Any

from oddsum.languages.language import Language
from oddsum.languages.python import PYTHON

PLANS: Language = PYTHON  # the language that plans write values, calls and checks in


def read_value(text: str) -> Any:
    """Plain data from the text of a value, in the notation of plans: Python's.

    Raises ValueError, SyntaxError or TypeError where the text is no plain data.
    """
    return PLANS.asking.value_of(text)


def write_value(value: Any) -> str:
    """The text of plain data, in the same notation."""
    return PLANS.asking.text_of(value)
