"""Rows of the record as what they stand for; one that is damaged is passed over, and left there."""

from __future__ import annotations

import zlib
from collections.abc import Callable, Iterable, Iterator
from typing import Any, TypeVar

import msgspec

Made = TypeVar("Made")
# Whatever reading a row can raise where somebody else wrote into it, or a disk lost some of it.
_DAMAGE = (msgspec.MsgspecError, zlib.error, KeyError, TypeError, ValueError, OverflowError)


def whole(rows: Iterable[tuple[Any, ...]], read: Callable[..., Made]) -> Iterator[Made]:
    """What ``read`` makes of each row's columns, where it is one."""
    for row in rows:
        try:
            yield read(*row)
        except _DAMAGE:
            continue


def first_whole(row: tuple[Any, ...] | None, read: Callable[..., Made]) -> Made | None:
    """The same of a single row, None where there is none."""
    return next(whole([row] if row is not None else [], read), None)
