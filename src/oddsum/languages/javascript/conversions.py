"""JavaScript's conversions between kinds of values (ECMA-262, chapter 7), on recorded values."""

from __future__ import annotations

import math
import re
from decimal import ROUND_HALF_UP, Context, Decimal
from typing import Any

from oddsum.languages.javascript.literals import number_text
from oddsum.languages.javascript.scalars import (
    FALSE,
    NULL,
    TRUE,
    UNDEFINED,
    boolean,
    null,
    number,
    string,
    undefined,
)
from oddsum.languages.questions import Unanswered

_DECIMAL = re.compile(r"[+-]?(\d+\.?\d*([eE][+-]?\d+)?|\.\d+([eE][+-]?\d+)?|Infinity)\Z")
_LEADING_FLOAT = re.compile(
    r"\s*([+-]?(?:\d+\.?\d*(?:[eE][+-]?\d+)?|\.\d+(?:[eE][+-]?\d+)?|Infinity))"
)
_LARGEST_WHOLE = 1e21


def truth(answer: bool) -> boolean:
    """A yes or no as the language's own."""
    return TRUE if answer else FALSE


def is_number(value: Any) -> bool:
    """Whether a value is of the type number."""
    return isinstance(value, (int, float)) and not isinstance(value, (boolean, bool))


def is_true(value: Any) -> bool:
    """Whether a value counts as true: all but ``0``, ``NaN``, ``''``, ``null``, ``undefined``."""
    if isinstance(value, (null, undefined)):
        return False
    if isinstance(value, (boolean, bool)):
        return bool(int(value))
    if is_number(value):
        return not (value == 0 or math.isnan(value))
    return bool(str(value)) if isinstance(value, str) else True


def as_number(value: float) -> Any:
    """A number as a recording keeps it: whole ones as int, what Python writes otherwise apart."""
    if isinstance(value, int):
        return value if abs(value) < _LARGEST_WHOLE else number(value)
    if (
        value.is_integer()
        and abs(value) < _LARGEST_WHOLE
        and not (value == 0 and math.copysign(1, value) < 0)
    ):
        return int(value)
    return value if repr(value) == number_text(value) else number(value)


def to_number(value: Any) -> float:
    """What ``Number(value)`` gives."""
    if isinstance(value, (boolean, bool)):
        return int(value)
    if is_number(value):
        return value  # type: ignore[no-any-return]
    if isinstance(value, null):
        return 0
    if isinstance(value, undefined):
        return math.nan
    if isinstance(value, str):
        return number_in(str(value))
    if isinstance(value, list):
        return number_in(to_text(value))
    raise Unanswered("What number this object is, is for its own methods to say.")


def number_in(text: str) -> float:
    """The number that a whole text is; NaN where it is none, 0 where it is blank."""
    bare = text.strip()
    if not bare:
        return 0
    if bare[:2].lower() in ("0x", "0o", "0b"):
        try:
            return int(bare, 0)
        except ValueError:
            return math.nan
    if not _DECIMAL.match(bare):
        return math.nan
    found = float(bare.replace("Infinity", "inf"))
    whole = int(found) if found.is_integer() and abs(found) < _LARGEST_WHOLE else found
    return signed(whole, found)


def signed(found: float, by: float) -> float:
    """A number with the sign of another where it is 0: here, a 0 has one."""
    return -0.0 if found == 0 and math.copysign(1, by) < 0 else found


def leading_number(text: str) -> float:
    """What ``parseFloat`` gives."""
    found = _LEADING_FLOAT.match(text)
    return float(found[1].replace("Infinity", "inf")) if found else math.nan


def leading_whole(text: str, base: int) -> float:
    """What ``parseInt`` gives."""
    digits = "0123456789abcdefghijklmnopqrstuvwxyz"[:base]
    found = re.match(rf"\s*([+-]?[{digits}]+)", text, re.IGNORECASE)
    if found is None:
        return math.nan
    return signed(int(found[1], base), -1 if found[1].startswith("-") else 1)


def joined(items: list[Any], by: str) -> str:
    """What ``items.join(by)`` gives: what is not there is no text in it."""
    return by.join("" if isinstance(v, (null, undefined)) else to_text(v) for v in items)


def fixed(value: float, places: int) -> str:
    """What ``value.toFixed(places)`` gives: of two that are as near, the one farther from 0."""
    if not math.isfinite(value) or abs(value) >= 1e21:
        return number_text(value)
    exact = Decimal(value).quantize(Decimal(1).scaleb(-places), ROUND_HALF_UP, Context(prec=400))
    return f"{exact.copy_abs() if value == 0 else exact:f}"  # of -0, the sign is lost


def to_text(value: Any) -> str:
    """What ``String(value)`` gives."""
    if isinstance(value, str):
        return str(value)
    if isinstance(value, (null, undefined, boolean)):
        return repr(value)
    if is_number(value):
        return number_text(value) if value else "0"  # of -0, the sign is lost
    if isinstance(value, list):
        return joined(value, ",")
    if isinstance(value, dict):
        return "[object Object]"
    raise Unanswered("What text this object is, is for its own methods to say.")


def to_primitive(value: Any) -> Any:
    """An object as a text, where an operator needs no object."""
    return string(to_text(value)) if isinstance(value, (list, dict)) else value


def strictly_equal(one: Any, other: Any) -> bool:
    """What ``===`` gives."""
    if is_number(one) and is_number(other):
        return bool(one == other)
    if isinstance(one, str) and isinstance(other, str):
        return str(one) == str(other)
    if isinstance(one, boolean) and isinstance(other, boolean):
        return int(one) == int(other)
    if isinstance(one, (null, undefined)) or isinstance(other, (null, undefined)):
        return type(one) is type(other)
    if type(one) is not type(other) or isinstance(one, (str, boolean, int, float)):
        return False
    if one is other:
        return True
    raise Unanswered("Whether two objects are one and the same is told by the ledger.")


def loosely_equal(one: Any, other: Any) -> bool:
    """What ``==`` gives (ECMA-262, IsLooselyEqual)."""
    nothing = (null, undefined)
    if isinstance(one, nothing) or isinstance(other, nothing):
        return isinstance(one, nothing) and isinstance(other, nothing)
    if isinstance(one, boolean) and not isinstance(other, boolean):
        return loosely_equal(int(one), other)
    if isinstance(other, boolean) and not isinstance(one, boolean):
        return loosely_equal(one, int(other))
    objects = isinstance(one, (list, dict)), isinstance(other, (list, dict))
    if objects[0] != objects[1]:
        return loosely_equal(to_primitive(one), to_primitive(other))
    if is_number(one) != is_number(other) and not any(objects):
        return bool(to_number(one) == to_number(other))
    return strictly_equal(one, other)


def type_of(value: Any) -> string:
    """What ``typeof`` gives."""
    if isinstance(value, undefined):
        return string("undefined")
    if isinstance(value, boolean):
        return string("boolean")
    if is_number(value):
        return string("number")
    return string("string" if isinstance(value, str) else "object")


__all__ = [
    "NULL", "UNDEFINED", "as_number", "is_number", "is_true", "leading_number", "leading_whole",
    "loosely_equal", "number_in", "strictly_equal", "to_number", "to_primitive", "to_text", "truth",
    "type_of",
]  # fmt: skip
