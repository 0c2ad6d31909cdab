"""How a column of a trace is named: the one place that makes such a title, and takes one apart.

As the contract has it: ``total`` is the module's, ``fare.age`` a function's own (the last part is
the variable, for functions have dots in their names as well), ``[total - 1]`` an expression that
is watched.
"""

from __future__ import annotations

from functools import lru_cache
from typing import NamedTuple

_WATCHED = "["


class Column(NamedTuple):
    """A column: whose variable it is (blank for the module), its name, or what is watched."""

    function: str
    name: str
    watched: bool = False

    @property
    def title(self) -> str:
        """The column's title."""
        return f"{self.function}.{self.name}" if self.function else self.name


@lru_cache(maxsize=4096)
def column(title: str) -> Column:
    """Take a column's title apart."""
    if title.startswith(_WATCHED):
        return Column("", title, watched=True)
    function, _, name = title.rpartition(".")
    return Column(function, name)


def short_name(title: str) -> str:
    """The variable alone, without its function; a watched expression whole."""
    return column(title).name


def is_local(title: str) -> bool:
    """Whether it is a function's own variable."""
    return bool(column(title).function)


def is_watched(title: str) -> bool:
    """Whether it is an expression that is watched."""
    return column(title).watched
