"""Arrays and data frames of numpy and pandas: shape, type, range and a corner.

The packages are not loaded here: where a program has a value of theirs, they are there already.
"""

from __future__ import annotations

TYPE_CHECKING = False  # importing typing would cost every run some milliseconds
if TYPE_CHECKING:
    from typing import Any

_CORNER = 3  # rows and columns that are shown
_MOST = 1_000_000  # items whose least and greatest are looked for


def array_text(value: Any, kind: Any) -> str | None:
    """What there is to say of an array, a data frame or a column of one; None for all else."""
    place = kind.__module__.partition(".")[0], kind.__name__
    writer = _WRITERS.get(place)
    if writer is None:
        return None
    try:
        return str(writer(value))
    except Exception:
        return f"<{kind.__name__}, unreadable>"


def _array(value: Any) -> str:
    shape = " by ".join(str(n) for n in value.shape) or "no dimension"
    told = f"array {shape} of {value.dtype}"
    if value.size and value.size <= _MOST and value.dtype.kind in "iuf":
        told += f", {value.min().item()!r} to {value.max().item()!r}"
    corner = value[tuple(slice(0, _CORNER) for _ in value.shape)].tolist()
    more = any(n > _CORNER for n in value.shape)
    return f"{told}: {corner!r}{' …' if more else ''}"


def _frame(value: Any) -> str:
    rows, columns = value.shape
    kinds = ", ".join(f"{name} ({kind})" for name, kind in list(value.dtypes.items())[:8])
    corner = value.iloc[:_CORNER, :_CORNER].values.tolist()
    more = " …" if rows > _CORNER or columns > _CORNER else ""
    return f"data frame of {rows} rows, {columns} columns: {kinds}: {corner!r}{more}"


def _series(value: Any) -> str:
    told = f"column {value.name!r}, {len(value)} rows of {value.dtype}"
    more = " …" if len(value) > _CORNER else ""
    return f"{told}: {value.iloc[:_CORNER].tolist()!r}{more}"


_WRITERS: dict[tuple[str, str], Any] = {
    ("numpy", "ndarray"): _array,
    ("pandas", "DataFrame"): _frame,
    ("pandas", "Series"): _series,
}
