"""All that is read off a Python source, in one place; each part is loaded when it is asked for."""

from __future__ import annotations

from importlib import import_module
from typing import TYPE_CHECKING, Any

if TYPE_CHECKING:
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
    from oddsum.languages.python.stops import plain_stop
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
    "plain_stop",
    "prompts",
    "reads",
    "statement_at",
    "statements",
    "unseeded_calls",
    "unsteady_calls",
]

_WHERE = {
    "grouped": "grouping",
    "forks": "limits",
    "limits": "limits",
    "loops": "loops",
    "opened_at": "mistakes",
    "plain_mistake": "mistakes",
    "asks_for_input": "outline",
    "example_of": "outline",
    "functions": "outline",
    "own_files": "outline",
    "prompts": "outline",
    "statement_at": "outline",
    "statements": "outline",
    "reads": "reads",
    "plain_stop": "stops",
    "unseeded_calls": "unsteady",
    "unsteady_calls": "unsteady",
}


def __getattr__(name: str) -> Any:
    """A part that was not asked for before."""
    if name not in _WHERE:
        raise AttributeError(name)
    found = getattr(import_module(f"oddsum.languages.python.{_WHERE[name]}"), name)
    globals()[name] = found
    return found
