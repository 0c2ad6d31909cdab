"""All that is read off a JavaScript source, in one place."""

from __future__ import annotations

from oddsum.languages.javascript.grouping import grouped
from oddsum.languages.javascript.limits import forks, limits
from oddsum.languages.javascript.loops import loops
from oddsum.languages.javascript.mistakes import opened_at, plain_mistake
from oddsum.languages.javascript.outline import (
    asks_for_input,
    example_of,
    functions,
    own_files,
    prompts,
    statement_at,
    statements,
)
from oddsum.languages.javascript.reads import reads
from oddsum.languages.javascript.stops import plain_stop
from oddsum.languages.javascript.unsteady import unseeded_calls, unsteady_calls

__all__ = ["asks_for_input", "example_of", "forks", "functions", "grouped", "limits", "loops",
           "opened_at", "own_files", "plain_mistake", "plain_stop", "prompts", "reads",
           "statement_at", "statements", "unseeded_calls", "unsteady_calls"]  # fmt: skip
