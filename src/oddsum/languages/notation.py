"""How plans write values, calls and checks: in the program's own language.

A program that is built and run by commands of its plan has none that we know: Python stands for it.
"""

from __future__ import annotations

from pathlib import Path

from oddsum.languages.language import Asking
from oddsum.languages.registry import LANGUAGES, language_of


def notation_of(program: Path) -> Asking:
    """In what language the plan of a program writes."""
    return language_of(program).asking


DEFAULT: Asking = LANGUAGES[0].asking  # where no program says another
