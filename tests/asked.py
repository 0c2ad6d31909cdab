"""A program recorded for a test of what is asked of it."""

from __future__ import annotations

from pathlib import Path

from conftest import OWN
from oddsum.check.traced import trace_case
from oddsum.model.case import Case, Plan
from oddsum.source.program import Source, read_source
from oddsum.trace.ask import Story


def told(folder: Path, text: str, stdin: str = "", **options: object) -> tuple[Story, Source]:
    """The story of a program, and its source."""
    path = folder / "ferry.py"
    path.write_text(text)
    case = Case(number=1, name="one", stdin=stdin)
    plan = Plan(program=path, cases=(case,))
    trace, _ = trace_case(plan, case, OWN, **options)  # type: ignore[arg-type]
    return Story(trace), read_source(path, path.name)
