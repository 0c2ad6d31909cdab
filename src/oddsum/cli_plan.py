"""``oddsum plan``: a plan is begun, filled, handed on, and looked over. Thin, as cli.py."""

from __future__ import annotations

import sys
from pathlib import Path
from typing import TYPE_CHECKING

import click

from oddsum.cli_common import (
    PLAN,
    PROGRAM,
    answer,
    common,
    ready,
    refuse_other_languages,
    say,
    tell,
)
from oddsum.formats.table import choices
from oddsum.model.errors import OddSumError, PlanError
from oddsum.trace.words import counted

if TYPE_CHECKING:
    from oddsum.languages.language import Interpreter
    from oddsum.model.case import Case, Plan
    from oddsum.plan.imported import Imported
    from oddsum.plan.keep import PlanFile


@click.group()
def plan() -> None:
    """Begin a test plan, fill it, hand it on, and see what it misses."""


@plan.command()
@PROGRAM
@PLAN
def new(program: Path, plan_file: Path | None) -> None:
    """Begin a plan beside the program, with a first case to fill in."""
    from oddsum.plan.begin import begin_plan

    path = begin_plan(program, plan_file)
    say(f"{path} is begun, with one case. Fill in its input, and what it should give.")


@plan.command("import")
@PROGRAM
@PLAN
@click.option("--csv", "sheet", type=click.Path(path_type=Path), help="A sheet, saved as CSV.")
@click.option("--examples", is_flag=True, help="The examples in the program's docstrings.")
@click.option(
    "--pairs", nargs=2, metavar="INPUTS OUTPUTS",
    help="Two text files a case: 'in*.txt' 'out*.txt', from the program's folder.",
)  # fmt: skip
@click.option("--kind", type=click.Choice(["normal", "boundary", "invalid"]), help="Of them all.")
def take_in(
    program: Path,
    plan_file: Path | None,
    sheet: Path | None,
    examples: bool,
    pairs: tuple[str, str] | None,
    kind: str | None,
) -> None:
    """Add cases kept elsewhere: in a sheet, in docstrings, or in pairs of text files."""
    if sum((sheet is not None, examples, pairs is not None)) != 1:
        raise click.UsageError("Say what to import: --csv FILE, --examples, or --pairs IN OUT.")
    from oddsum.source.program import find_program

    find_program(program)
    found = _found(program, sheet, pairs)
    for sentence in found.left_out:
        say(sentence)
    if not found.cases:
        raise PlanError(f"No example was found in {program.name}; nothing was added.")
    file = _plan_file(program, plan_file)
    import msgspec

    from oddsum.plan.taking_in import taking

    kinded = msgspec.structs.replace(found, cases=tuple(_of_kind(found.cases, kind)))
    told = taking(kinded, file.plan())
    if told.new:
        file.add(*told.new)
    say(f"{counted(len(told.new), 'case')} added to {file.path.name}.")
    known = len(told.known)
    say(
        known
        and f"{counted(known, 'case')} stood in it already, and "
        f"{'was' if known == 1 else 'were'} left."
    )


def _found(program: Path, sheet: Path | None, pairs: tuple[str, str] | None) -> Imported:
    from oddsum.languages.notation import notation_of
    from oddsum.plan.sheet import read_sheet
    from oddsum.plan.textpairs import read_pairs
    from oddsum.source.program import read_source

    if sheet is not None:
        return read_sheet(sheet, notation_of(program))
    if pairs is not None:
        return read_pairs(program.resolve().parent, *pairs)
    from oddsum.languages import language_of
    from oddsum.plan.imported import Imported

    cases, left_out = language_of(program).writing.examples(read_source(program))
    return Imported(cases, left_out)


def _of_kind(cases: tuple[Case, ...], kind: str | None) -> list[Case]:
    import msgspec

    return [msgspec.structs.replace(c, kind=kind) if kind else c for c in cases]


def _plan_file(program: Path, plan_file: Path | None) -> PlanFile:
    """The plan to add to, made where there is none."""
    from oddsum.plan.find import choose_plan, default_plan
    from oddsum.plan.keep import PlanFile

    if plan_file is not None and not plan_file.exists():
        return PlanFile(plan_file, program)
    return PlanFile(choose_plan(program, plan_file) or default_plan(program), program)


@plan.command()
@PROGRAM
@PLAN
@click.option("--format", "how", type=click.Choice(choices("plan")), default="md")
@click.option("--no-run", is_flag=True, help="Without what came out.")
@common
def export(
    program: Path,
    plan_file: Path | None,
    how: str,
    no_run: bool,
    out: Path | None,
    python: str | None,
    force: bool,
) -> None:
    """Write the plan as a sheet or a Markdown table, with what came out."""
    from oddsum.check.plan import check_all
    from oddsum.formats.table import write

    try:
        found, interpreter = ready(program, plan_file, python)
        results = () if no_run else check_all(found, interpreter)
        answer(write("plan", how, found, results), how, out, force)
    except OddSumError as error:
        sys.exit(tell(error, "text"))


@plan.command()
@PROGRAM
@PLAN
@click.option("--format", "how", type=click.Choice(choices("advice")), default="text")
@click.option("--add", "added", is_flag=True, help="Put the ready-made inputs into the plan.")
@common
def advise(
    program: Path,
    plan_file: Path | None,
    how: str,
    added: bool,
    out: Path | None,
    python: str | None,
    force: bool,
) -> None:
    """Say which sides of which limits, which branches and which kinds no case tries."""
    from oddsum.advise.advice import advise as look
    from oddsum.check.plan import check_all
    from oddsum.formats.table import write

    try:
        found, interpreter = _ready_or_none(program, plan_file, python)
        refuse_other_languages(found, "advice")
        advice = look(found, interpreter, check_all(found, interpreter))
        answer(write("advice", how, found, advice), how, out, force)
        cases = [p.case for p in advice.proposals if p.case is not None]
        if added and cases:
            file = _plan_file(program, plan_file)
            file.add(*cases)
            say(
                f"{counted(len(cases), 'case')} added to {file.path.name}, what is expected left "
                "open."
            )
    except OddSumError as error:
        sys.exit(tell(error, how))


def _ready_or_none(
    program: Path, plan_file: Path | None, python: str | None
) -> tuple[Plan, Interpreter]:
    """The plan, one without cases where there is none yet; and the interpreter."""
    from oddsum.languages import language_of
    from oddsum.model.case import Plan
    from oddsum.plan.find import choose_plan
    from oddsum.source.program import find_program

    find_program(program)
    if choose_plan(program, plan_file) is None:
        return Plan(program=program), language_of(program).running.find_interpreter(program, python)
    return ready(program, plan_file, python)
