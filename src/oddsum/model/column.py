"""How a column of a trace is named.

As the contract has it: ``total`` is the module's, ``fare.age`` a function's own (the last part is
the variable, for functions have dots in their names as well), ``Ferry.seats`` an attribute of a
class, ``[total - 1]`` an expression that is watched.
"""

from __future__ import annotations

from functools import lru_cache
from typing import NamedTuple

_WATCHED = "["


class Column(NamedTuple):
    """A column: whose variable it is, its name, and whether there is one of it for all calls.

    ``function`` is blank for the program's own module; where ``shared``, it is a module, a class or
    a function that has an attribute of this name.
    """

    function: str
    name: str
    watched: bool = False
    shared: bool = False

    @property
    def title(self) -> str:
        """The column's title."""
        return f"{self.function}.{self.name}" if self.function else self.name

    def owner(self, frame: int) -> int:
        """The call that a variable of this column belongs to, seen from a call: 0 for no call."""
        return 0 if self.shared or self.watched or not self.function else frame


@lru_cache(maxsize=4096)
def _apart(title: str) -> tuple[str, str]:
    if title.startswith(_WATCHED):
        return "", title
    function, _, name = title.rpartition(".")
    return function, name


def short_name(title: str) -> str:
    """The variable alone, without its function; a watched expression whole."""
    return _apart(title)[1]


def is_watched(title: str) -> bool:
    """Whether it is an expression that is watched."""
    return title.startswith(_WATCHED)
