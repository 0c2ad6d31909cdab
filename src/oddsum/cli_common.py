"""What the commands share: their options, the plan made ready, how an answer or a fault is told."""

from __future__ import annotations

import os
import sys
from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING, Any, TextIO, get_args

import click

from oddsum.model.case import Allow
from oddsum.model.errors import OddSumError
from oddsum.source.visible import visible

if TYPE_CHECKING:
    from click.shell_completion import CompletionItem

    from oddsum.languages.language import Interpreter, Station
    from oddsum.model.case import Case, Plan
    from oddsum.settings.user import UserSettings


def common(command: Callable[..., Any]) -> Callable[..., Any]:
    """The options that every command has."""
    for option in (
        click.option("--force", is_flag=True, help="Overwrite the file given with --out."),
        click.option("--python", "--node", "python", help="The interpreter that runs the program."),
        click.option("-o", "--out", type=click.Path(path_type=Path), help="Write to this file."),
        click.option(
            "--allow",
            type=click.Choice(get_args(Allow)),
            multiple=True,
            expose_value=False,
            callback=_keep_allowed,
            help="Say yes, once, to what the plan asks to be allowed.",
        ),
    ):
        command = option(command)
    return command


_ALLOWED = "oddsum.allowed"


def _keep_allowed(ctx: click.Context, _option: click.Parameter, kinds: tuple[str, ...]) -> None:
    """What was given with --allow, for ``ready``: no command has to hand it on."""
    ctx.meta[_ALLOWED] = kinds


def _programs(_ctx: click.Context, _param: click.Parameter, typed: str) -> list[CompletionItem]:
    from oddsum.cli_completion import programs

    return programs(typed)


PROGRAM = click.argument("program", type=click.Path(path_type=Path), shell_complete=_programs)
PLAN = click.option("--plan", "plan_file", type=click.Path(path_type=Path), help="The plan.")


def _case_names(_ctx: click.Context, _param: click.Parameter, typed: str) -> list[str]:
    """The cases that a shell offers: by name, from the plan of the program on its line.

    The line itself is looked at, for click reads nothing of one that ends in an option.
    """
    from click.shell_completion import split_arg_string

    from oddsum.plan.find import choose_plan
    from oddsum.plan.read import read_plan

    words = split_arg_string(os.environ.get("COMP_WORDS", ""))
    programs = [Path(w) for w in words[1:] if Path(w).is_file()]
    try:
        path = choose_plan(programs[0], None)
        cases = read_plan(path, programs[0]).cases if path is not None else ()
    except (OddSumError, IndexError):
        return []
    return [c.name for c in cases if c.name.startswith(typed)]


CASE = click.option("--case", "chosen", shell_complete=_case_names, help="A case's number or name.")

CASES = click.option(
    "--case",
    "chosen",
    multiple=True,
    shell_complete=_case_names,
    help="A case whose trace table is in it; may be given more than once.",
)


def ready(
    program: Path, plan_file: Path | None, python: str | None, *, checked: bool = False
) -> tuple[Plan, Interpreter]:
    """The plan of a program, with cases, and the interpreter; raises OddSumError.

    ``checked``: the plan is run next, and what that waits for begins already.
    """
    if checked:
        from oddsum.run.keeper.client import KEEPER

        KEEPER.begin()  # its process starts while the plan, and what reads it, is loaded
    from concurrent.futures import ThreadPoolExecutor
    from functools import partial

    from oddsum.languages import language_of
    from oddsum.model.errors import PlanError
    from oddsum.plan.find import choose_plan, missing_plan
    from oddsum.plan.read import read_plan
    from oddsum.run.leftovers import sweep_saves
    from oddsum.settings.user import with_settings
    from oddsum.source.program import find_program

    find_program(program)
    sweep_saves(program.resolve().parent)
    path = choose_plan(program, plan_file)
    if path is None:
        raise missing_plan(program)
    settings, language = _settings(), language_of(program)
    # The interpreter is a process to wait for: it is asked while the plan and what is needed next
    # are read.
    find = partial(
        language.running.find_interpreter,
        program,
        python or getattr(settings, language.setting) or None,
    )
    if checked:
        from oddsum.run.spare import begin_ahead

        find = partial(begin_ahead, find)
    asked = ThreadPoolExecutor(1, thread_name_prefix="interpreter").submit(find)
    written = read_plan(path, program)
    plan = with_settings(written, _consented(written, settings))
    if not plan.active():
        raise PlanError(
            f"{path.name} has no case to run.",
            hint='Add one: [[case]], name = "...", stdin = "...", stdout = "...".',
            file=path.name,
        )
    import oddsum.check.plan  # noqa: F401

    interpreter = asked.result()
    say(interpreter.remark)
    return plan, interpreter


def _consented(plan: Plan, settings: UserSettings) -> UserSettings:
    """The settings, with the answer that --allow gives; what nobody has answered yet is told."""
    from oddsum.model.case import allowing
    from oddsum.settings.user import answered, change_setting, unanswered

    context = click.get_current_context(silent=True)
    given = context.meta.get(_ALLOWED, ()) if context is not None else ()
    if given:
        return change_setting("allowed", answered(plan, given, settings))
    asked = unanswered(plan, settings)
    if asked:
        options = " ".join(f"--allow {one}" for one in asked)
        say(
            f"The plan asks that trials, which are fenced in, may {allowing(asked)}. They may "
            f"not, until you say so, once: {options}"
        )
    return settings


def _settings() -> UserSettings:
    """The user's settings; what is wrong with them is told, and they do not hold then."""
    from oddsum.settings.user import read_settings

    settings, fault = read_settings()
    say(str(fault) if fault is not None else "")
    return settings


def refuse_other_languages(plan: Plan, station: Station) -> None:
    """Raise PlanError where a plan's program does not go through a station."""
    from oddsum.languages import cannot

    refusal = cannot(plan, station)
    if refusal:
        from oddsum.model.errors import PlanError

        raise PlanError(refusal, hint="`oddsum check` compares programs in any language.")


_USUAL, _WIDEST = 80, 200  # cells of a table
_EXACT = {"csv", "xml", "html"}  # written to the letter, but for a terminal; json is escaped


def answer(text: str, how: str, out: Path | None, force: bool) -> None:
    """Print the answer, written in the format ``how``, or write it where --out says."""
    if how not in _EXACT or (out is None and sys.stdout.isatty()):
        text = visible(text)
    if out is None:
        sys.stdout.write(_for(sys.stdout, text))
        sys.stdout.flush()
        return
    refuse_there(out, force)
    from oddsum.source.save import replace_file

    replace_file(out, text.encode("utf-8", "replace"))


def refuse_there(path: Path, force: bool) -> None:
    """A file that is there is not written over; raises OddSumError."""
    if path.exists() and not force:
        raise OddSumError(f"{path} exists already.", hint="Overwrite it with --force.")


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
        click.echo(_for(sys.stderr, visible(str(text))), err=True)


def _for(stream: TextIO, text: str) -> str:
    """A text as the terminal at the other end can show it; to the letter, where there is none."""
    if text.isascii() or not stream.isatty():
        return text
    from oddsum.source.plain import in_ascii, this_terminal_shows_ascii_only

    return in_ascii(text) if this_terminal_shows_ascii_only() else text


def columns(out: Path | None) -> int:
    """Cells that a table may be wide: those of the terminal it goes to, else 80."""
    import shutil

    if out is not None or not sys.stdout.isatty():
        return _USUAL
    return min(max(_USUAL, shutil.get_terminal_size((_USUAL, 24)).columns), _WIDEST)


def case_to_trace(
    program: Path, plan_file: Path | None, chosen: str | None, python: str | None
) -> tuple[Plan, Interpreter, Case]:
    """The case to trace: the one named, else the first odd one; without a plan, what is typed."""
    from oddsum.plan.choose import choose_case, typed_case
    from oddsum.plan.find import choose_plan
    from oddsum.source.program import find_program

    find_program(program)
    if choose_plan(program, plan_file) is None and chosen is None:
        from oddsum.languages import language_of
        from oddsum.model.case import Plan

        if sys.stdin.isatty():
            say("Type what the program should read. Ctrl+D on a line of its own ends it.")
        case = typed_case(sys.stdin.read())
        plan = Plan(program=program, cases=(case,))
        return (
            plan,
            language_of(program).running.find_interpreter(
                program, python or _settings().interpreter or None
            ),
            case,
        )
    plan, interpreter = ready(program, plan_file, python)
    refuse_other_languages(plan, "trace")
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
