"""All that is read off a Python source, in one place."""

from __future__ import annotations

from oddsum.languages.python.grouping import grouped
from oddsum.languages.python.limits import forks, limits
from oddsum.languages.python.loops import loops
from oddsum.languages.python.mistakes import opened_at, plain_mistake
from oddsum.languages.python.outline import (
    asks_for_input,
    example_of,
    functions,
    own_files,
    prompts,
    statement_at,
    statements,
)
from oddsum.languages.python.reads import reads
from oddsum.languages.python.unsteady import unseeded_calls, unsteady_calls

__all__ = [
    "asks_for_input",
    "example_of",
    "forks",
    "functions",
    "grouped",
    "limits",
    "loops",
    "opened_at",
    "own_files",
    "plain_mistake",
    "prompts",
    "reads",
    "statement_at",
    "statements",
    "unseeded_calls",
    "unsteady_calls",
]
