"""Plain data held against the type that it should have.

msgspec works out a type's fields when it first meets the type, and enters the type ahead of its
fields, so that it may contain itself: a second thread that comes by meanwhile finds fields that are
not there, and the interpreter dies of it (version 0.22; `tests/model/test_typed.py` makes it
happen). So each type is worked out here, whole, by one thread, before any data is held against it.
Nobody else asks msgspec to read.
"""

from __future__ import annotations

import threading
from typing import Any, TypeVar

import msgspec

T = TypeVar("T")

_ready: set[Any] = set()
_one_at_a_time = threading.Lock()


def convert(data: object, kind: type[T]) -> T:
    """Plain data (dicts, lists, texts, numbers) as a ``kind``.

    Raises msgspec.ValidationError where it does not fit.
    """
    _work_out(kind)
    return msgspec.convert(data, kind)


def from_json(text: str | bytes, kind: type[T]) -> T:
    """A text of json as a ``kind``.

    Raises msgspec.DecodeError where it is no json, msgspec.ValidationError where it does not fit.
    """
    _work_out(kind)
    return msgspec.json.decode(text, type=kind)


def _work_out(kind: Any) -> None:
    """Have msgspec know a type, and every type inside of it; it keeps what it knows with them."""
    if kind in _ready:
        return
    with _one_at_a_time:
        msgspec.json.Decoder(kind)
        _ready.add(kind)
