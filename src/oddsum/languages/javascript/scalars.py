"""Values of JavaScript as a recording keeps them: each is written as the language writes it.

Numbers are numbers; where Python would write one otherwise, and for all else that is no list and no
object, there is a class here, whose ``repr`` is the language's own text. Their names are the types
that people are told.
"""

from __future__ import annotations

import json
from typing import Any

from oddsum.languages.javascript.literals import key_text, number_text, quoted_text


class string(str):
    """A text."""

    __slots__ = ()

    def __repr__(self) -> str:
        return quoted_text(str(self))


class key(str):
    """The name of something in an object: in quotes only where it has to be."""

    __slots__ = ()

    def __repr__(self) -> str:
        return key_text(str(self))


class number(float):
    """A number that Python would write in another way: ``1e-7``, ``NaN``, ``-0``."""

    __slots__ = ()

    def __repr__(self) -> str:
        return number_text(float(self))


class whole(int):
    """A whole number; people are told ``number``."""

    __slots__ = ()


whole.__name__ = "number"


class double(float):
    """A number with a part behind the point."""

    __slots__ = ()


double.__name__ = "number"


class boolean(int):
    """``true`` or ``false``."""

    __slots__ = ()

    def __repr__(self) -> str:
        return "true" if self else "false"


class null:
    """``null``."""

    __slots__ = ()

    def __repr__(self) -> str:
        return "null"

    def __bool__(self) -> bool:
        return False


class undefined:
    """``undefined``."""

    __slots__ = ()

    def __repr__(self) -> str:
        return "undefined"

    def __bool__(self) -> bool:
        return False


NULL, UNDEFINED = null(), undefined()
TRUE, FALSE = boolean(1), boolean(0)


def _of(told: dict[str, Any]) -> Any:
    (kind, value), *_ = told.items()
    return _KINDS[kind](value)


_KINDS: dict[str, Any] = {
    "t": string,
    "d": lambda value: whole(value) if isinstance(value, int) else double(value),
    "k": key,
    "f": number,
    "b": lambda value: TRUE if value else FALSE,
    "z": lambda _: NULL,
    "u": lambda _: UNDEFINED,
    "o": lambda value: (value,),
    "n": lambda value: ("itself",) if value == "itself" else tuple(value),
}


def unpack(data: bytes) -> list[Any]:
    """The events of a log, as the probe's ``record.js`` writes them; raises ValueError for none."""
    try:
        events = json.loads(data, object_hook=_of)
    except (KeyError, TypeError, RecursionError) as error:
        raise ValueError("no log") from error
    if not isinstance(events, list):
        raise ValueError("no log")
    return events
