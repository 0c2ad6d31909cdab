"""Which columns stand in a trace table: they fit, they are told apart, and what changes is there."""

from __future__ import annotations

from pathlib import Path

import pytest
from judge import story_of

from oddsum.tui.widgets.trace_columns import (
    BEFORE_VALUES,
    InSight,
    columns_in_sight,
    next_columns,
    room_of,
    trace_columns,
)
from oddsum.tui.widgets.trace_rows import TraceRows

PROGRAMS = sorted((Path(__file__).parent / "programs").glob("*.py"))


@pytest.mark.parametrize("width", [77, 84, 150])
@pytest.mark.parametrize("path", PROGRAMS, ids=lambda p: p.stem)
def test_columns_fit_are_told_apart_and_have_what_the_step_changes(path, width):
    story = story_of(path.read_text(encoding="utf-8"))
    sight, changed = InSight(), 0
    for number in range(1, story.last + 1, max(1, story.last // 60)):
        room = room_of(story, width, ["expected Total: 12"])
        before, sight = sight, columns_in_sight(story, number, room, sight)
        changed += before.titles != sight.titles
        columns = trace_columns(story, sight, room)
        assert sum(c.width + (3 if c.ruled else 1) for c in columns) <= width
        titles = [c.title for c in columns]
        assert len(set(titles)) == len(titles)
        inked = {c.column for c in story.table.inner(number)}
        if len(inked) == 1:
            assert inked <= set(sight.titles), number
        row = TraceRows(story, sight.titles, columns, number)[story.place(number)]
        told = {t for t, cell in zip(sight.titles, row[BEFORE_VALUES:-1], strict=True) if cell}
        assert told == inked & set(sight.titles)
    assert changed <= 60


def test_all_columns_come_by_turns():
    story = story_of("".join(f"number_{n} = {n}\n" for n in range(40)))
    room, sight = room_of(story, 80, []), InSight()
    seen: set[str] = set()
    for _ in range(40):
        sight = next_columns(story, sight, room, 1, 1)
        seen |= set(sight.titles)
    assert len(seen) == 40
