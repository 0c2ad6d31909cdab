"""Whether a program can start at all, asked of its own interpreter, without any plan."""

from __future__ import annotations

from pathlib import Path

from oddsum.languages.language import Interpreter
from oddsum.model.case import Case, Plan
from oddsum.run.runner import runner_of
from oddsum.run.scratch import Scratch, bundle

_ANYTHING = "0"  # an expression that every program can be asked: none of its own is run for it


def look_whether_it_starts(program: Path, interpreter: Interpreter) -> None:
    """Raises StartError where it cannot. Its main part is not run, and it is fenced in."""
    case = Case(number=1, name="start", call=_ANYTHING)
    plan = Plan(program=program, cases=(case,))
    with (
        runner_of(plan, interpreter, fenced=True) as runner,
        Scratch(bundle(plan), runner.room) as scratch,
    ):
        runner.run(case, scratch)
