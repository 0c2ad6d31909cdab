"""``oddsum report``: one file with it all, to hand in or to ask for help with."""

from __future__ import annotations

import sys
from pathlib import Path

import click

from oddsum.cli_common import CASES, PLAN, PROGRAM, answer, common, ready, refuse_there, say, tell
from oddsum.formats.table import choices
from oddsum.model.errors import OddSumError

# As `model.case.LEVELS`, which would have every command load what reads and writes its structs.
LEVELS = ("where", "what", "how")


@click.command()
@PROGRAM
@PLAN
@CASES
@click.option("--reveal", type=click.Choice(["none", *LEVELS]), help="How far leads are uncovered.")
@click.option(
    "--format", "how", type=click.Choice(choices("report")), help="Else by the file's name."
)
@common
def report(
    program: Path,
    plan_file: Path | None,
    chosen: tuple[str, ...],
    reveal: str | None,
    how: str | None,
    out: Path | None,
    python: str | None,
    force: bool,
) -> None:
    """Write the plan with its results, trace tables, leads, charts, notebook and program.

    One file that needs nothing beside it: HTML or Markdown. Leads are uncovered as far as you have
    uncovered them in the application, or as --reveal says.
    """
    from oddsum.formats.table import write
    from oddsum.plan.choose import choose_case
    from oddsum.record.assemble import assemble, format_of
    from oddsum.record.history import History

    try:
        kind = how or (format_of(out) if out is not None else "md")
        if out is not None:
            refuse_there(out, force)  # before the work, not after it
        plan, interpreter = ready(program, plan_file, python)
        cases = [choose_case(plan, name) for name in chosen]
        level = LEVELS.index(reveal) if reveal in LEVELS else -1 if reveal else None
        found, remarks = assemble(plan, interpreter, History(program), chosen=cases, level=level)
        answer(write("report", kind, found), kind, out, force)
    except OddSumError as error:
        sys.exit(tell(error, "text"))
    for remark in remarks:
        say(remark)
    say(f"{out} is written." if out is not None else "")
