"""``oddsum chart``: a variable, or a list, drawn into a file."""

from __future__ import annotations

import sys
from pathlib import Path
from typing import TYPE_CHECKING

import click

from oddsum.cli_common import PLAN, PROGRAM, case_to_trace, say, tell
from oddsum.model.errors import OddSumError

if TYPE_CHECKING:
    from oddsum.trace.ask import Story
    from oddsum.trace.loops import Pass


@click.command()
@PROGRAM
@PLAN
@click.option("--case", "chosen", help="A case's number or name.")
@click.option("--variable", "names", multiple=True, help="What is drawn; may be given twice.")
@click.option("--over", type=click.Choice(["steps", "rounds"]), default="steps")
@click.option("--line", type=int, help="The loop whose rounds are counted; else the longest.")
@click.option("--bars", "at_step", type=int, help="A list's items as bars, after this step.")
@click.option("-o", "--out", type=click.Path(path_type=Path), help="The file: .svg or .pdf.")
@click.option("--python", help="The interpreter that runs the program.")
@click.option("--force", is_flag=True, help="Write over a file that is there.")
def chart(
    program: Path,
    plan_file: Path | None,
    chosen: str | None,
    names: tuple[str, ...],
    over: str,
    line: int | None,
    at_step: int | None,
    out: Path | None,
    python: str | None,
    force: bool,
) -> None:
    """Draw a variable over the steps or rounds of a case, or a list's items."""
    try:
        path = out or Path(program.stem + ".svg")
        if path.exists() and not force:
            raise OddSumError(f"{path} is there already.", hint="--force writes over it.")
        _draw(program, plan_file, chosen, names, over, line, at_step, path, python)
    except OddSumError as error:
        sys.exit(tell(error, "text"))
    say(f"{path} is written.")


def _draw(
    program: Path,
    plan_file: Path | None,
    chosen: str | None,
    names: tuple[str, ...],
    over: str,
    line: int | None,
    at_step: int | None,
    path: Path,
    python: str | None,
) -> None:
    from oddsum.check.traced import trace_case
    from oddsum.draw import chart as drawn
    from oddsum.trace.ask import Story
    from oddsum.trace.series import SeriesError, bars, numeric, series

    plan, interpreter, case = case_to_trace(program, plan_file, chosen, python)
    trace, _ = trace_case(plan, case, interpreter)
    story = Story(trace)
    if not names:
        names = tuple(numeric(story)[:1])
    if not names:
        raise SeriesError("No variable of this program holds a number.")
    title = f"{program.name}, case {case.number}: {case.name}" if case.number else program.name
    if at_step is not None:
        if not 1 <= at_step <= story.last:
            raise SeriesError(f"There is no step {at_step}; there are {story.last:,}.")
        drawn.bars(path, f"{title}, step {at_step}", bars(story, names[0], at_step))
        return
    loop = _loop(story, program, line, names[0]) if over == "rounds" else None
    drawn.lines(path, title, over, [series(story, n, loop) for n in names])


def _loop(story: Story, program: Path, line: int | None, name: str) -> Pass:
    """The loop whose rounds are counted: on the line named, else the one with the most rounds of
    those that change the variable."""
    from oddsum.source.program import read_source
    from oddsum.source.walks import walks
    from oddsum.trace.loops import passes
    from oddsum.trace.series import SeriesError, series

    loops = [w for w in walks(read_source(program, program.name)) if line in (None, w.line)]
    found = sorted((p for w in loops for p in passes(story, w)), key=lambda p: -p.rounds)
    if not found:
        where = f" on line {line}" if line else ""
        raise SeriesError(f"No loop{where} was gone through in this case.")
    for one in found:
        try:
            series(story, name, one)
        except SeriesError:
            continue
        return one
    return found[0]
