"""The lines of an expected drawing: written as a list, or read from an SVG file.

Read are ``line``, ``polyline``, ``polygon``, ``rect`` and a ``path`` of straight pieces, without
transforms. In SVG y counts downwards: it is turned round, so that the middle of the sheet is 0, 0
and up is more, as a program that draws has it.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Iterable, Iterator
from itertools import pairwise
from pathlib import Path
from typing import TYPE_CHECKING, Any

from oddsum.model.errors import PlanError
from oddsum.model.picture import Draws, Segment

MOST_LINES = 200  # of a drawing that stands in a plan itself
_MOST_BYTES = 4 * 1024 * 1024
_NUMBER = re.compile(r"[-+]?(?:\d+\.?\d*|\.\d+)(?:[eE][-+]?\d+)?")
Point = tuple[float, float]

if TYPE_CHECKING:
    from xml.etree import ElementTree

    Reader = Callable[[ElementTree.Element], Iterator[tuple[Point, Point]]]


def draws_fault(value: Any) -> str | None:
    """What ``draws`` should have been, None where it is right."""
    wanted = (
        "the name of an SVG file beside the plan, or lines: [[0, 0, 100, 0], [100, 0, 100, 50]]"
    )
    if isinstance(value, str):
        inside = value.lower().endswith(".svg") and not Path(value).is_absolute()
        return None if inside and ".." not in Path(value).parts else wanted
    if not isinstance(value, list) or not value:
        return wanted
    return None if all(_is_line(row) for row in value) else wanted


def rounded(lines: Iterable[Segment]) -> tuple[Segment, ...]:
    """Lines as they stand in a plan: to a hundredth of a step, an ink where it is not black."""
    return tuple(
        Segment(_near(s.x1), _near(s.y1), _near(s.x2), _near(s.y2), _named(s.ink)) for s in lines
    )


def _near(number: float) -> float:
    return round(number, 2) + 0.0


def _named(ink: str) -> str:
    return "" if ink == "black" else ink


def _is_line(row: Any) -> bool:
    if not isinstance(row, list) or len(row) not in (4, 5):
        return False
    numbers = all(isinstance(n, (int, float)) and not isinstance(n, bool) for n in row[:4])
    return numbers and (len(row) == 4 or isinstance(row[4], str))


def read_draws(value: Any, folder: Path) -> Draws:
    """The lines expected; raises PlanError where the file cannot be read as a drawing."""
    if not isinstance(value, str):
        return Draws(tuple(_segment(row) for row in value))
    path = folder / value
    try:
        if path.stat().st_size > _MOST_BYTES:
            raise PlanError(f"{value} is larger than 4 MB; a drawing of lines is smaller.")
        text = path.read_text(encoding="utf-8")
    except (OSError, UnicodeDecodeError) as error:
        why = getattr(error, "strerror", None) or "it is not UTF-8"
        raise PlanError(f"The drawing {value} cannot be read: {why}.", file=value) from error
    return Draws(tuple(_lines_of(text, value)), value)


def _segment(row: list[Any]) -> Segment:
    x1, y1, x2, y2 = (float(n) for n in row[:4])
    return Segment(x1, y1, x2, y2, str(row[4]) if len(row) > 4 else "")


def _lines_of(text: str, name: str) -> Iterator[Segment]:
    from xml.etree import ElementTree  # 5 ms, for a plan that names a drawing

    if "<!ENTITY" in text:
        raise PlanError(f"{name} defines entities of its own; such a file is not read.", file=name)
    try:
        root = ElementTree.fromstring(text)
    except ElementTree.ParseError as error:
        raise PlanError(f"{name} is no SVG: {error}.", file=name) from error
    found = False
    for element in root.iter():
        kind = element.tag.rpartition("}")[2]
        if kind in _READERS:
            _refuse_transform(element, name)
            found = True
            points = _READERS[kind](element)
            ink = element.get("stroke") or ""
            for (x1, y1), (x2, y2) in points:
                yield Segment(x1, -y1 + 0.0, x2, -y2 + 0.0, "" if ink == "none" else ink)
        elif kind == "g":
            _refuse_transform(element, name)
    if not found:
        raise PlanError(f"{name} has no lines in it.", file=name)


def _refuse_transform(element: ElementTree.Element, name: str) -> None:
    if element.get("transform"):
        raise PlanError(
            f"{name} moves or turns its lines by `transform`, which is not read.",
            hint="Save the drawing with its lines where they are: `oddsum chart --what lines`.",
            file=name,
        )


def _line(element: ElementTree.Element) -> Iterator[tuple[Point, Point]]:
    x1, y1, x2, y2 = (float(element.get(k) or 0) for k in ("x1", "y1", "x2", "y2"))
    yield (x1, y1), (x2, y2)


def _polyline(element: ElementTree.Element) -> Iterator[tuple[Point, Point]]:
    yield from _joined(_points(element.get("points") or ""))


def _polygon(element: ElementTree.Element) -> Iterator[tuple[Point, Point]]:
    points = _points(element.get("points") or "")
    yield from _joined([*points, *points[:1]])


def _rect(element: ElementTree.Element) -> Iterator[tuple[Point, Point]]:
    x, y, wide, high = (float(element.get(k) or 0) for k in ("x", "y", "width", "height"))
    if element.get("stroke"):  # a sheet's ground has none
        yield from _joined([(x, y), (x + wide, y), (x + wide, y + high), (x, y + high), (x, y)])


def _path(element: ElementTree.Element) -> Iterator[tuple[Point, Point]]:
    from svgelements import Close, Line, Move
    from svgelements import Path as Drawn

    try:
        pieces = list(Drawn(element.get("d") or ""))
    except (ValueError, IndexError, TypeError) as error:
        raise PlanError(f"A path cannot be read: {element.get('d')}.") from error
    for piece in pieces:
        if isinstance(piece, Move):
            continue
        if not isinstance(piece, (Line, Close)):
            kind = type(piece).__name__
            raise PlanError(f"A path with curves ({kind}) is not read as a drawing of lines.")
        if piece.start is not None and piece.end is not None:
            yield (piece.start.x, piece.start.y), (piece.end.x, piece.end.y)


def _points(text: str) -> list[Point]:
    numbers = [float(n) for n in _NUMBER.findall(text)]
    return list(zip(numbers[::2], numbers[1::2], strict=False))


def _joined(points: list[Point]) -> Iterator[tuple[Point, Point]]:
    yield from pairwise(points)


_READERS: dict[str, Reader] = {
    "line": _line, "polyline": _polyline, "polygon": _polygon, "rect": _rect, "path": _path,
}  # fmt: skip
