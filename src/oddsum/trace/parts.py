"""One line taken apart: the order in which it was worked out, each part with its value."""

from __future__ import annotations

import threading
from dataclasses import dataclass

from oddsum.languages import language_for
from oddsum.model.case import Case, Plan
from oddsum.model.outcome import Run
from oddsum.model.trace import Value
from oddsum.run.begin import Starter
from oddsum.run.scratch import Scratch
from oddsum.source.program import Source
from oddsum.trace.nodes import value_of
from oddsum.trace.record import Wanted, recording
from oddsum.trace.words import short

_TEXTS = 24  # characters of a value that stands for a part
_MOST_TIMES = 8  # values shown of a part that was worked out many times: in a comprehension
_LEAVES = ("Name",)


@dataclass(frozen=True)
class Part:
    """A part of a line: where it stands (columns from 0), as written, and what it came to.

    ``inside``: the same with the values of its own parts put in; ``values`` are several in a
    comprehension, and none where the part was never looked at.
    """

    line: int
    column: int
    end_line: int
    end_column: int
    written: str
    inside: str
    values: tuple[Value, ...]
    parent: int | None
    kind: str

    @property
    def is_name(self) -> bool:
        """Whether it is a bare name: it is put into others and gets no row of its own."""
        return self.kind in _LEAVES


@dataclass(frozen=True)
class Apart:
    """A line taken apart: its parts in the order they were worked out, then those never looked at.

    ``grouped`` is the line's expression with every pair of parentheses that Python put there in
    its mind, blank where it has none.
    """

    parts: tuple[Part, ...]
    unseen: tuple[Part, ...]
    grouped: str


def take_apart(
    plan: Plan,
    case: Case,
    scratch: Scratch,
    start: Starter,
    plain: Run,
    source: Source,
    line: int,
    visit: int,
    stop: threading.Event | None = None,
) -> Apart:
    """Record the case once more, with the parts of one line at one of its visits."""
    wanted = Wanted(part=(source.name, line, visit))
    told = recording(plan, case, scratch, start, plain, wanted, stop)
    written = [_segment(source, row) for row in told.part_rows]
    values: dict[int, list[Value]] = {}
    for _, number, node in told.parts:
        values.setdefault(number, []).append(value_of(node))
    made = [_part(source, n, told.part_rows, written, values) for n in range(len(told.part_rows))]
    order = list(dict.fromkeys(number for _, number, _ in _last_of_each(told.parts)))
    unseen = [p for n, p in enumerate(made) if n not in values and _outer_seen(made, n, values)]
    return Apart(
        tuple(made[n] for n in order),
        tuple(unseen),
        language_for(plan).reading.grouped(source.lines[line - 1])
        if 1 <= line <= len(source.lines)
        else "",
    )


def _last_of_each(
    parts: list[tuple[int, int, object]] | list[tuple[int, int, None]],
) -> list[tuple[int, int, object]]:
    """The parts in the order in which each was worked out for the last time."""
    last = {number: at for at, (_, number, _) in enumerate(parts)}
    return [parts[at] for at in sorted(last.values())]


def _outer_seen(made: list[Part], number: int, values: dict[int, list[Value]]) -> bool:
    """Whether what a part stands in was worked out: of what was not, the outermost is told."""
    parent = made[number].parent
    return parent is not None and parent in values


def _part(
    source: Source,
    number: int,
    rows: list[list[object]],
    written: list[str],
    values: dict[int, list[Value]],
) -> Part:
    kind, line, column, end_line, end_column, parent = rows[number]
    assert isinstance(line, int) and isinstance(column, int) and isinstance(parent, int)
    assert isinstance(end_line, int) and isinstance(end_column, int)
    return Part(
        line,
        _characters(source, line, column),
        end_line,
        _characters(source, end_line, end_column),
        written[number],
        _with_values(source, number, rows, written[number], values),
        tuple(values.get(number, ())[:_MOST_TIMES]),
        parent if parent >= 0 else None,
        str(kind),
    )


def _characters(source: Source, line: int, column: int) -> int:
    """A column in bytes as one in characters."""
    return len(source.lines[line - 1].encode()[:column].decode(errors="replace"))


def _segment(source: Source, row: list[object]) -> str:
    start, stop = _offsets(source, row)
    return " ".join(source.text[start:stop].split())


def _offsets(source: Source, row: list[object]) -> tuple[int, int]:
    _, line, column, end_line, end_column, _ = row
    assert isinstance(line, int) and isinstance(column, int)
    assert isinstance(end_line, int) and isinstance(end_column, int)
    starts = source.line_starts
    return (
        starts[line - 1] + _characters(source, line, column),
        starts[end_line - 1] + _characters(source, end_line, end_column),
    )


def _with_values(
    source: Source,
    number: int,
    rows: list[list[object]],
    written: str,
    values: dict[int, list[Value]],
) -> str:
    """A part as written, with the value of each part directly inside it in that one's place."""
    start, stop = _offsets(source, rows[number])
    text, at = [], start
    inner = sorted((_offsets(source, r), n) for n, r in enumerate(rows) if r[5] == number)
    if not inner:
        return written
    for (first, last), n in inner:
        told = values.get(n, [])
        if first < at or last > stop or len(told) != 1:
            continue
        text += [source.text[at:first], short(told[0].text, _TEXTS)]
        at = last
    return " ".join("".join([*text, source.text[at:stop]]).split())
