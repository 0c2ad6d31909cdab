"""Says where a program gives other values each time, whatever the plan's seed is."""

from __future__ import annotations

import os

from oddsum.languages import language_of
from oddsum.model.case import Plan
from oddsum.model.errors import OddSumError
from oddsum.source.program import read_source

_MOST = 2  # places that are named


def unrepeatable(plan: Plan) -> str:
    """A sentence, blank where nothing of the kind stands in the program's own files."""
    program = plan.program.resolve()
    reading = language_of(program).reading
    found: list[str] = []
    for path in () if plan.run else reading.own_files(program):
        name = os.path.relpath(path, program.parent)
        try:
            calls = reading.unseeded_calls(read_source(path, name))
        except OddSumError:
            continue
        where = "" if path == program else f" of {name}"
        found += [f"`{call}` on line {line}{where}" for line, call in calls]
    if not found:
        return ""
    more = " and others" if len(found) > _MOST else ""
    return (
        f"What comes out can be another thing each time: {', '.join(found[:_MOST])}{more} "
        f"{'does' if len(found) == 1 else 'do'} not follow the plan's seed."
    )
