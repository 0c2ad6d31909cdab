"""``oddsum chart``: what can be drawn of a program's runs, into a file."""

from __future__ import annotations

import sys
from collections.abc import Callable
from dataclasses import dataclass
from functools import cached_property
from pathlib import Path
from typing import TYPE_CHECKING, Any

import click

from oddsum.cli_common import CASE, PLAN, PROGRAM, case_to_trace, common, refuse_there, say, tell
from oddsum.model.errors import OddSumError

if TYPE_CHECKING:
    from oddsum.draw.figure import Drawing
    from oddsum.languages.language import Interpreter
    from oddsum.model.case import Case, Plan
    from oddsum.model.picture import Picture
    from oddsum.trace.ask import Story
    from oddsum.trace.containment import Containment
    from oddsum.trace.rounds import Pass


@dataclass(frozen=True)
class _Asked:
    """What a drawing is wanted of."""

    program: Path
    plan_file: Path | None
    chosen: str | None
    python: str | None
    names: tuple[str, ...]
    over: str
    line: int | None
    step: int | None

    @cached_property
    def _case(self) -> tuple[Plan, Case, Interpreter]:
        plan, interpreter, case = case_to_trace(
            self.program, self.plan_file, self.chosen, self.python
        )
        return plan, case, interpreter

    def traced(self) -> tuple[Story, str]:
        """The case as recorded, and what it is called."""
        from oddsum.check.traced import trace_case
        from oddsum.trace.ask import Story

        plan, case, interpreter = self._case
        trace, _ = trace_case(plan, case, interpreter)
        name = self.program.name
        title = f"{name}, case {case.number}: {case.name}" if case.number else name
        return Story(trace), title

    def inside(self, step: int) -> Containment:
        """What lies inside of what after a step."""
        from oddsum.check.containment import containment_at

        return containment_at(*self._case, step)

    def step_of(self, story: Story) -> int:
        """The step that was asked for, else the last."""
        from oddsum.trace.series import SeriesError

        step = self.step or story.last
        if not 1 <= step <= story.last:
            raise SeriesError(f"There is no step {step:,}; there are {story.last:,}.")
        return step

    def variables(self, story: Story) -> tuple[str, ...]:
        """The variables that were named, else the number that changes most."""
        from oddsum.trace.series import SeriesError, numeric

        names = self.names or tuple(numeric(story)[:1])
        if not names:
            raise SeriesError("No variable of this program holds a number.")
        return names


def _variable(asked: _Asked) -> Drawing:
    from oddsum.draw.chart import lines
    from oddsum.trace.series import series

    story, title = asked.traced()
    names = asked.variables(story)
    loop = _loop(story, asked, names[0]) if asked.over == "rounds" else None
    return lines(title, asked.over, [series(story, n, loop) for n in names])


def _list(asked: _Asked) -> Drawing:
    from oddsum.draw.chart import bars
    from oddsum.trace.series import bars as items

    story, title = asked.traced()
    step = asked.step_of(story)
    return bars(f"{title}, step {step:,}", items(story, asked.variables(story)[0], step))


def _rounds(asked: _Asked) -> Drawing:
    from oddsum.draw.chart import rounds

    story, title = asked.traced()
    return rounds(f"{title}: rounds of its loops", _passes(story, asked))


def _outcomes(asked: _Asked) -> Drawing:
    from oddsum.draw.chart import outcomes
    from oddsum.record.history import History
    from oddsum.source.program import find_program

    history = History(find_program(asked.program))
    runs = history.runs()
    first = history.count() - len(runs) + 1
    return outcomes(f"{asked.program.name}: how the cases came out, run by run", runs, first)


def _source(asked: _Asked) -> Drawing:
    from oddsum.draw.listing import listing
    from oddsum.source.program import read_source

    story, title = asked.traced()
    source = read_source(asked.program)
    times = {n: story.times_run(source.name, n) for n in range(1, len(source.lines) + 1)}
    return listing(title, source, {n: t for n, t in times.items() if t}, _leads(asked))


def _leads(asked: _Asked) -> Any:
    """The places that Pinpoint names; none where no case is odd, or there is no plan."""
    from oddsum.cli_common import ready
    from oddsum.model.errors import PlanError
    from oddsum.pinpoint.search import pinpoint

    try:
        plan, interpreter = ready(asked.program, asked.plan_file, asked.python)
    except PlanError:
        return ()
    return pinpoint(plan, interpreter).leads


def _calls(asked: _Asked) -> Drawing:
    from oddsum.draw.trees import call_tree
    from oddsum.trace.calls import calls

    story, title = asked.traced()
    return call_tree(f"{title}: who called whom", calls(story))


def _lineage(asked: _Asked) -> Drawing:
    from oddsum.draw.trees import lineage_tree
    from oddsum.languages import language_of
    from oddsum.languages.outline import Reads
    from oddsum.source.program import read_source
    from oddsum.trace.lineage import Lineage, in_tree
    from oddsum.trace.series import column_of

    def reads_of(file: str) -> dict[int, Reads]:
        source = read_source(asked.program.resolve().parent / file, file)
        return language_of(file).reading.reads(source)

    story, title = asked.traced()
    step = asked.step_of(story)
    lineage = Lineage(story, reads_of)
    if asked.names:
        name = column_of(story, asked.names[0])
        title = f"{title}: where {asked.names[0]} comes from, step {step:,}"
        return lineage_tree(title, in_tree(lineage.of_variable(name, step)))
    return lineage_tree(f"{title}: where step {step:,} comes from",
                        in_tree(lineage.of_step(step)))  # fmt: skip


def _ledger(asked: _Asked) -> Drawing:
    from oddsum.draw.ledger import ledger_sheet
    from oddsum.trace.aliases import may_share

    story, title = asked.traced()
    step = asked.step_of(story)
    title = f"{title}: names and lists after step {step:,}"
    return ledger_sheet(title, story, step, asked.inside(step) if may_share(story, step) else None)


def _drawing(asked: _Asked) -> Drawing:
    from oddsum.draw.figure import ChartError
    from oddsum.record.report import beside

    case, title, drawn = _drawn(asked)
    if drawn is None:
        raise ChartError("This program draws nothing.")
    return beside(title, drawn, case.draws.lines if case.draws is not None else ())


def _drawn(asked: _Asked) -> tuple[Case, str, Picture | None]:
    """A case, its title, and what it draws."""
    from oddsum.check.plan import check_all

    plan, interpreter, case = case_to_trace(
        asked.program, asked.plan_file, asked.chosen, asked.python
    )
    (result,) = check_all(plan, interpreter, cases=(case,))
    return case, f"{asked.program.name}: {case.name or 'what it draws'}", result.run.drawn


KINDS: dict[str, Callable[[_Asked], Drawing]] = {
    "variable": _variable,
    "list": _list,
    "rounds": _rounds,
    "outcomes": _outcomes,
    "source": _source,
    "calls": _calls,
    "lineage": _lineage,
    "ledger": _ledger,
    "drawing": _drawing,
}


@click.command()
@PROGRAM
@PLAN
@CASE
@click.option(
    "--what", type=click.Choice([*KINDS, "lines"]), help="What is drawn; else a variable."
)
@click.option("--variable", "names", multiple=True, help="Of which variable; may be given twice.")
@click.option("--over", type=click.Choice(["steps", "rounds"]), default="steps")
@click.option("--line", type=int, help="The loop whose rounds are counted; else the longest.")
@click.option("--step", type=int, help="After which step; else the last.")
@click.option("--bars", "at_step", type=int, help="A list's items as bars, after this step.")
@common
def chart(
    program: Path,
    plan_file: Path | None,
    chosen: str | None,
    what: str | None,
    names: tuple[str, ...],
    over: str,
    line: int | None,
    step: int | None,
    at_step: int | None,
    out: Path | None,
    python: str | None,
    force: bool,
) -> None:
    """Draw what happened in a case, as SVG or PDF.

    A variable over the steps or rounds, a list's items, the rounds of the loops, the outcomes run
    by run, the source with times run and leads, the tree of calls, the lineage of a value, names
    and lists as a ledger, or what a program drew beside what it should draw. `--what lines` writes
    the drawing alone, as a plan can expect it.
    """
    from oddsum.draw.figure import save

    try:
        path = out or Path(program.stem + ".svg")
        refuse_there(path, force)
        kind = what or ("list" if at_step is not None else "variable")
        asked = _Asked(program, plan_file, chosen, python, names, over, line,
                       at_step if step is None else step)  # fmt: skip
        if kind == "lines":
            _write_lines(asked, path)
        else:
            save(path, KINDS[kind](asked))
    except OddSumError as error:
        sys.exit(tell(error, "text"))
    say(f"{path} is written.")


def _write_lines(asked: _Asked, path: Path) -> None:
    """The lines that a case draws, as an SVG that a plan can expect."""
    from oddsum.draw.figure import ChartError
    from oddsum.draw.picture import lines_svg
    from oddsum.source.save import replace_file

    _, _, drawn = _drawn(asked)
    if drawn is None or not drawn.lines:
        raise ChartError("This program draws no lines.")
    if path.suffix.lower() != ".svg":
        raise ChartError("The lines of a drawing are written as .svg.")
    replace_file(path, lines_svg(drawn.lines).encode("utf-8"))


def _passes(story: Story, asked: _Asked) -> list[Pass]:
    """Every time a loop was gone through: those on the line named, or all, in order."""
    from oddsum.languages import language_of
    from oddsum.source.program import read_source
    from oddsum.trace.loops import passes

    every = language_of(asked.program).reading.loops(read_source(asked.program))
    loops = [loop for loop in every if asked.line in (None, loop.line)]
    return sorted((p for w in loops for p in passes(story, w)), key=lambda p: p.enters)


def _loop(story: Story, asked: _Asked, name: str) -> Pass:
    """The loop whose rounds are counted: on the line named, else the one with the most rounds of
    those that change the variable."""
    from oddsum.trace.series import SeriesError, series

    found = sorted(_passes(story, asked), key=lambda p: -p.rounds)
    if not found:
        where = f" on line {asked.line}" if asked.line else ""
        raise SeriesError(f"No loop{where} was gone through in this case.")
    for one in found:
        try:
            series(story, name, one)
        except SeriesError:
            continue
        return one
    return found[0]
