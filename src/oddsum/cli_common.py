"""What the commands share: their options, the plan made ready, how an answer or a fault is told."""

from __future__ import annotations

import sys
from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING, Any

import click

from oddsum.model.errors import OddSumError

if TYPE_CHECKING:
    from oddsum.model.case import Case, Plan
    from oddsum.run.interpreter import Interpreter


def common(command: Callable[..., Any]) -> Callable[..., Any]:
    """The options that every command has."""
    for option in (
        click.option("--force", is_flag=True, help="Overwrite the file given with --out."),
        click.option("--python", "python", help="The interpreter that runs the program."),
        click.option("-o", "--out", type=click.Path(path_type=Path), help="Write to this file."),
    ):
        command = option(command)
    return command


PROGRAM = click.argument("program", type=click.Path(path_type=Path))
PLAN = click.option("--plan", "plan_file", type=click.Path(path_type=Path), help="The plan.")


def ready(program: Path, plan_file: Path | None, python: str | None) -> tuple[Plan, Interpreter]:
    """The plan of a program, with cases, and the interpreter; raises OddSumError."""
    from oddsum.model.errors import PlanError
    from oddsum.plan.find import choose_plan, missing_plan
    from oddsum.plan.read import read_plan
    from oddsum.run.interpreter import find_interpreter
    from oddsum.source.program import find_program

    find_program(program)
    path = choose_plan(program, plan_file)
    if path is None:
        raise missing_plan(program)
    plan = read_plan(path, program)
    if not plan.active():
        raise PlanError(
            f"{path.name} has no case to run.",
            hint='Add one: [[case]], name = "...", stdin = "...", stdout = "...".',
            file=path.name,
        )
    interpreter = find_interpreter(program, python)
    say(interpreter.remark)
    return plan, interpreter


def refuse_other_languages(plan: Plan, station: str) -> None:
    """Trace and Pinpoint read Python; raises PlanError for a plan with a command of its own."""
    if plan.run:
        from oddsum.model.errors import PlanError

        raise PlanError(
            f"{station} reads Python programs, and this plan runs `{' '.join(plan.run)}`.",
            hint="`oddsum check` compares programs in any language.",
        )


def answer(text: str, out: Path | None, force: bool) -> None:
    """Print the answer, or write it where --out says."""
    if out is None:
        sys.stdout.write(text)
        sys.stdout.flush()
        return
    if out.exists() and not force:
        raise OddSumError(f"{out} exists already.", hint="Overwrite it with --force.")
    try:
        out.write_text(text, encoding="utf-8")
    except OSError as error:
        raise OddSumError(f"{out} cannot be written: {error.strerror}.") from error


def tell(error: OddSumError, how: str) -> int:
    """Say what is wrong; as json on standard output where json was asked for."""
    if how == "json":
        from oddsum.formats.json_text import dump_error

        sys.stdout.write(dump_error(error))
    else:
        say(error.text)
        for number, text in getattr(error, "shown", ()):
            say(f"{number:>6}  {text}")
        say(error.hint)
    return int(error.status)


def say(text: Any) -> None:
    """Tell something on standard error; nothing, where there is nothing to tell."""
    if text:
        click.echo(text, err=True)


def case_to_trace(
    program: Path, plan_file: Path | None, chosen: str | None, python: str | None
) -> tuple[Plan, Interpreter, Case]:
    """The case to trace: the one named, else the first odd one; without a plan, what is typed."""
    from oddsum.plan.choose import choose_case, typed_case
    from oddsum.plan.find import choose_plan
    from oddsum.source.program import find_program

    find_program(program)
    if choose_plan(program, plan_file) is None and chosen is None:
        from oddsum.model.case import Plan
        from oddsum.run.interpreter import find_interpreter

        if sys.stdin.isatty():
            say("Type what the program should read. Ctrl+D on a line of its own ends it.")
        case = typed_case(sys.stdin.read())
        plan = Plan(program=program, cases=(case,))
        return plan, find_interpreter(program, python), case
    plan, interpreter = ready(program, plan_file, python)
    refuse_other_languages(plan, "Trace")
    if chosen is not None:
        return plan, interpreter, choose_case(plan, chosen)
    return plan, interpreter, _first_odd(plan, interpreter)


def _first_odd(plan: Plan, interpreter: Interpreter) -> Case:
    from oddsum.check.plan import check_all

    odd = [r.number for r in check_all(plan, interpreter) if r.outcome.odd]
    case = next((c for c in plan.active() if c.number in odd), plan.active()[0])
    why = "the first that is odd" if odd else "the first; none is odd"
    say(f"Tracing case {case.number}, {case.name}: {why}. --case chooses another.")
    return case
