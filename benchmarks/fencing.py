"""What the fence costs: a case's start behind it against one outside, as a fork and afresh."""

from __future__ import annotations

import sys
import tempfile
from pathlib import Path

from figures import Figure, in_turn, middle, ratio

from oddsum.languages.language import Interpreter
from oddsum.model.case import Case, Plan
from oddsum.run.begin import Fresh
from oddsum.run.case import run_case
from oddsum.run.host import Host
from oddsum.run.scratch import Scratch, bundle
from oddsum.run.terms import Terms

ROUNDS = 40
OWN = Interpreter(sys.executable, tuple(sys.version_info[:3]))
CASE = Case(number=1, name="a", stdout="5")


def measure() -> list[Figure]:
    with tempfile.TemporaryDirectory() as folder:
        program = Path(folder) / "ferry.py"
        program.write_text("print(5)\n")
        return [
            _figure(Plan(program=program), kind, what)
            for kind, what in ((Host, "a case, forked"), (Fresh, "a case, begun afresh"))
        ]


def _figure(plan: Plan, kind: type[Host] | type[Fresh], what: str) -> Figure:
    files = bundle(plan)
    with (
        kind(OWN, Terms(fenced=True)) as inside,
        kind(OWN, Terms()) as outside,
        Scratch(files, inside.room) as fenced,
        Scratch(files, outside.room) as free,
    ):
        run_case(plan, CASE, fenced, inside.start)  # what waits has begun
        run_case(plan, CASE, free, outside.start)
        behind, plain = in_turn(
            ROUNDS,
            lambda: run_case(plan, CASE, fenced, inside.start),
            lambda: run_case(plan, CASE, free, outside.start),
        )
    how = f"{1000 * middle(behind):.1f} ms behind the fence, {1000 * middle(plain):.1f} without"
    return Figure(f"fence: {what}", ratio(behind, plain), "x", "", how)
