"""The command line: thin. Each command asks the core one question and prints the answer."""

from __future__ import annotations

import contextlib
import os
import signal
import sys
import threading
import time
from collections.abc import Callable, Sequence
from importlib import import_module
from pathlib import Path
from typing import TYPE_CHECKING, Any, NoReturn

import click

from oddsum import __version__
from oddsum.cli_common import (
    CASE,
    PLAN,
    PROGRAM,
    answer,
    case_to_trace,
    columns,
    common,
    ready,
    refuse_other_languages,
    say,
    tell,
)
from oddsum.formats.table import choices
from oddsum.model.case import LEVELS
from oddsum.model.errors import OddSumError, PlanError, Status

if TYPE_CHECKING:
    from click.shell_completion import CompletionItem

    from oddsum.languages.language import Interpreter
    from oddsum.model.case import Plan
    from oddsum.model.claim import Claim
    from oddsum.model.outcome import CaseResult, Outcome


# Commands with a file of their own, loaded when they are asked for: together some 20 ms.
_ELSEWHERE = {
    "plan": "cli_plan", "ask": "cli_ask", "chart": "cli_chart", "report": "cli_report",
    "doctor": "cli_doctor", "completion": "cli_completion",
}  # fmt: skip


class _Commands(click.Group):
    """Takes a program's name where a command is expected: `oddsum fares.py` opens it."""

    def list_commands(self, ctx: click.Context) -> list[str]:
        """Their names, those that were not loaded yet among them."""
        return sorted({*super().list_commands(ctx), *_ELSEWHERE})

    def get_command(self, ctx: click.Context, cmd_name: str) -> click.Command | None:
        """A command, loaded where it stands."""
        if cmd_name in _ELSEWHERE and cmd_name not in self.commands:
            module = import_module(f"oddsum.{_ELSEWHERE[cmd_name]}")
            self.add_command(getattr(module, cmd_name))
        return super().get_command(ctx, cmd_name)

    def resolve_command(
        self, ctx: click.Context, args: list[str]
    ) -> tuple[str | None, click.Command | None, list[str]]:
        known = [*self.commands, *_ELSEWHERE]
        if args and args[0] not in known and not args[0].startswith("-"):
            _refuse_misspelt(args[0], known)
            return "open", self.commands["open"], args
        return super().resolve_command(ctx, args)

    def shell_complete(self, ctx: click.Context, incomplete: str) -> list[CompletionItem]:
        """What a shell offers first: the commands, and programs."""
        from oddsum.cli_completion import programs

        return [*super().shell_complete(ctx, incomplete), *programs(incomplete)]


def _refuse_misspelt(word: str, commands: list[str]) -> None:
    """A word that can be no file was meant as a command; raises UsageError."""
    if "." in word or "/" in word or Path(word).exists():
        return
    import difflib

    close = difflib.get_close_matches(word, commands, n=1)
    hint = f" Did you mean {close[0]}?" if close else ""
    if Path(f"{word}.py").exists():
        hint = f" Did you mean {word}.py?"
    raise click.UsageError(f"There is no command {word}.{hint}")


@click.group(cls=_Commands, context_settings={"help_option_names": ["-h", "--help"]})
@click.version_option(__version__, prog_name="oddsum")
def cli() -> None:
    """Find the line at fault in a program that runs but gives wrong results.

    `oddsum PROGRAM` opens the application on a program; `oddsum demo` on an example.
    """


@cli.command("open", hidden=True)
@PROGRAM
@PLAN
@click.option("--python", "--node", "python")
def open_program(program: Path, plan_file: Path | None, python: str | None) -> None:
    """Open the application on a program."""
    from oddsum.source.program import find_program

    find_program(program)
    _refuse_elsewhere()
    _get_ready(program, python)
    from oddsum.tui.app import run_app

    run_app(program, plan_file, python)


def _get_ready(program: Path, python: str | None) -> None:
    """Begin what the first check waits for, other processes, while the application is loaded.

    What goes wrong here is told where it is needed.
    """

    def ask() -> None:
        from oddsum.languages import language_of
        from oddsum.run.spare import begin_ahead

        find = language_of(program).running.find_interpreter
        with contextlib.suppress(OddSumError, OSError):
            begin_ahead(lambda: find(program, python))

    threading.Thread(target=ask, name="ready", daemon=True).start()


def _demo_names(_ctx: click.Context, _param: click.Parameter, typed: str) -> list[str]:
    from oddsum.demo.copy import DEMOS

    return [name for name in DEMOS if name.startswith(typed)]


@cli.command()
@click.argument("name", required=False, shell_complete=_demo_names)
@click.option("--list", "listed", is_flag=True, help="Name the demo programs.")
@click.option("--python", "--node", "python", help="The interpreter that runs the program.")
def demo(name: str | None, listed: bool, python: str | None) -> None:
    """Open the application on a demo program, in a copy that may be edited."""
    from oddsum.demo.copy import copy_demo, demo_list

    if listed:
        for title, about in demo_list():
            click.echo(f"{title:<10} {about}")
        return
    program = copy_demo(name)
    _refuse_elsewhere()
    _get_ready(program, python)
    from oddsum.tui.app import run_app

    run_app(program, None, python, first_walk=name is None)


@cli.command()
@PROGRAM
@PLAN
@click.option("--format", "how", type=click.Choice(choices("check")), default="text")
@click.option("--watch", is_flag=True, help="Check again whenever a file changes.")
@common
def check(
    program: Path,
    plan_file: Path | None,
    how: str,
    watch: bool,
    out: Path | None,
    python: str | None,
    force: bool,
) -> None:
    """Run every case of the plan and compare."""
    check_once = _Check(program, plan_file, how, out, python)
    if watch:
        from oddsum.run.watch import changes

        for _ in changes(program, plan_file):
            check_once(force=True)
        return
    sys.exit(check_once(force))


class _Check:
    """Runs a plan and tells it; what came out before is remembered, to say what has changed."""

    def __init__(
        self, program: Path, plan_file: Path | None, how: str, out: Path | None,
        python: str | None,
    ) -> None:  # fmt: skip
        self.program, self.plan_file, self.python = program, plan_file, python
        self.how, self.out = how, out
        self.before: dict[str, Outcome] = {}

    def __call__(self, force: bool) -> int:
        """Check once; returns the exit status."""
        try:
            results = self._checked(force)
        except OddSumError as error:
            return tell(error, self.how)
        still_open = [r.name for r in results if r.outcome.value == "open"]
        say(still_open and f"Nothing is expected yet in: {', '.join(still_open)}.")
        shared = _shared_remarks(results)
        for remark in shared:
            say(remark)
        for result in results:
            _say_of_case(result, shared)
        self.before = {r.name: r.outcome for r in results}
        return int(Status.ODD if any(r.outcome.odd for r in results) else Status.FINE)

    def _checked(self, force: bool) -> tuple[CaseResult, ...]:
        plan, interpreter = ready(self.program, self.plan_file, self.python, checked=True)
        from oddsum.check.plan import check_all
        from oddsum.check.unrepeatable import unrepeatable
        from oddsum.formats.table import write
        from oddsum.run.scratch import bundle

        files = bundle(plan)
        say(files.left_out)
        say(unrepeatable(plan))
        started = time.monotonic()
        results = check_all(plan, interpreter, files=files)
        seconds = time.monotonic() - started
        if self.how == "text":
            more = self._more(plan, interpreter, results)
            told = write("check", "text", plan, results, seconds, *more, width=columns(self.out))
        else:
            told = write("check", self.how, plan, results, seconds)
        answer(told, self.how, self.out, force)
        return results

    def _more(
        self, plan: Plan, interpreter: Interpreter, results: tuple[CaseResult, ...]
    ) -> tuple[Any, ...]:
        """For people: what the odd cases share, and what has changed since the run before."""
        from oddsum.compare.told import since_words

        since = since_words(self.before, results)
        if not any(r.outcome.odd for r in results):
            return None, since
        from oddsum.advise.pattern import find_pattern
        from oddsum.languages import cannot

        found = find_pattern(plan, None if cannot(plan, "advice") else interpreter, results)
        return found, since


def _shared_remarks(results: Sequence[Any]) -> tuple[str, ...]:
    """What is remarked of every case alike, of several: it is said once."""
    every = [r.run.remarks for r in results]
    return tuple(x for x in every[0] if all(x in one for one in every)) if len(every) > 1 else ()


def _say_of_case(result: Any, said: Sequence[str]) -> None:
    start = f"Case {result.number}, {result.name}: "
    for remark in result.run.remarks:
        if remark not in said:
            say(start + remark)
    if result.run.unread:
        lines = result.run.unread_lines
        say(f"{start}{lines} line{'s were' if lines > 1 else ' was'} left unread of its input.")
    returned = result.run.returned
    if returned is not None and returned.own_names:
        names = ", ".join(returned.own_names)
        say(f"{start}its expected value was worked out with the program's own {names}.")


@cli.command()
@PROGRAM
@PLAN
@CASE
@click.option("--format", "how", type=click.Choice(choices("trace")), default="text")
@click.option("--full", is_flag=True, help="Values whole, however long.")
@click.option("--function", "function", help="Only the steps of one function.")
@click.option("--lines", "lines", help="Only the steps at some lines: 8 or 8-12,20.")
@click.option("--variables", "variables", help="Only some variables: total,age.")
@click.option("--watch", "watches", multiple=True, help="An expression as a column more.")
@common
def trace(
    program: Path,
    plan_file: Path | None,
    chosen: str | None,
    how: str,
    full: bool,
    function: str | None,
    lines: str | None,
    variables: str | None,
    watches: tuple[str, ...],
    out: Path | None,
    python: str | None,
    force: bool,
) -> None:
    """Follow one case step by step: the trace table."""
    from oddsum.check.traced import trace_case
    from oddsum.formats.table import write
    from oddsum.trace.filter import Shown, lines_from

    try:
        plan, interpreter, case = case_to_trace(program, plan_file, chosen, python)
        names = tuple(n.strip() for n in (variables or "").split(",") if n.strip())
        shown = Shown(function, lines_from(lines) if lines else (), names)
        found, result = trace_case(plan, case, interpreter, watches=watches)
        wide = {"width": columns(out)} if how == "text" else {}
        answer(write("trace", how, found, full, shown, **wide), how, out, force)
    except OddSumError as error:
        sys.exit(tell(error, how))
    for remark in (*found.remarks, found.left_out):
        say(remark)
    if result.run.skipped:
        lines = ", ".join(map(str, result.run.skipped))
        say(f"For the call, these lines of the main part were left out: {lines}.")


@cli.command()
@PROGRAM
@PLAN
@click.option("--reveal", type=click.Choice(LEVELS), help="How far to uncover.")
@click.option("--budget", type=click.FloatRange(min=0.1), help="Seconds the search may take.")
@click.option("--guess", type=click.IntRange(min=0), help="The line you suspect; 0 for none.")
@click.option("--format", "how", type=click.Choice(choices("pinpoint")), default="text")
@common
def pinpoint(
    program: Path,
    plan_file: Path | None,
    reveal: str | None,
    budget: float | None,
    guess: int | None,
    how: str,
    out: Path | None,
    python: str | None,
    force: bool,
) -> None:
    """Name the place at fault, and uncover no more than you ask for."""
    from oddsum.formats.table import write
    from oddsum.pinpoint.guess import guess_words
    from oddsum.pinpoint.search import DEFAULT_BUDGET, pinpoint

    depth = reveal or ("how" if how == "json" else "where")
    try:
        plan, interpreter = ready(program, plan_file, python, checked=True)
        refuse_other_languages(plan, "pinpoint")
        if plan.guess_first and guess is None and how == "text":
            raise PlanError(
                "The author of this plan asks for your own guess first: which line do you suspect?",
                hint="Name it with --guess, as in `--guess 10`; `--guess 0`: no line looks odd to "
                "you.",
            )
        depth = min(depth, plan.reveal or "how", key=("where", "what", "how").index)
        found = pinpoint(
            plan,
            interpreter,
            budget=budget or DEFAULT_BUDGET,
            on_progress=_progress(),
            claims=_claims(plan),
        )
        told = write("pinpoint", how, found, depth)
        if guess and how == "text":
            told = f"{guess_words(found, program.name, guess)}\n\n{told}"
        answer(told, how, out, force)
    except OddSumError as error:
        sys.exit(tell(error, how))
    sys.exit(Status.ODD if found.odd else Status.FINE)


def _claims(plan: Plan) -> tuple[Claim, ...]:
    """The claims kept beside the program, at the lines where they stand now."""
    from oddsum.plan.claims import moved, read_claims
    from oddsum.source.program import read_source

    claims = read_claims(plan.program)
    if not claims:
        return ()
    source = read_source(plan.program)
    return tuple(c for c in (moved(one, source) for one in claims) if c is not None)


def _progress() -> Callable[[str, int, int], None]:
    """Tells progress on standard error, where somebody watches it."""
    if not sys.stderr.isatty():
        return lambda *_: None

    def tell(what: str, done: int, total: int) -> None:
        count = f" {done}/{total}" if total else ""
        click.echo(f"\r\x1b[K{what}{count}", nl=False, err=True)

    return tell


def _refuse_elsewhere() -> None:
    """The application runs on Linux and macOS, in a terminal; anything else is told at once."""
    if sys.platform == "win32":
        raise OddSumError(
            "Odd Sum runs on Linux and macOS.", hint="On Windows, use its Linux subsystem."
        )
    if not (sys.stdin.isatty() and sys.stdout.isatty()):
        raise OddSumError(
            "The application needs a terminal.",
            hint="Without one, use `oddsum check`, `oddsum trace` or `oddsum pinpoint`.",
        )


def main() -> NoReturn:
    """Run the command line; every failure becomes a sentence and a status."""
    signal.signal(signal.SIGTERM, _interrupted)
    _ready_streams()
    try:
        cli.main(standalone_mode=False)
        sys.stdout.flush()
        status = 0
    except click.exceptions.Abort:
        status = 130
    except click.exceptions.Exit as stop:
        status = stop.exit_code
    except click.ClickException as error:
        status = _usage(error)
    except OddSumError as error:
        status = tell(error, "text")
    except KeyboardInterrupt:
        status = 130
    except BrokenPipeError:
        sys.stderr.close()
        status = 0
    except SystemExit as stop:
        status = _flushed(stop.code if isinstance(stop.code, int) else 0)
    except OSError as error:
        status = _unwritten(error)
    except Exception as error:
        from oddsum.source.fault_report import fault_told

        where = " ".join(sys.argv[1:2]) or "start"
        status = tell(fault_told(error, where, __version__), "text")
    sys.exit(status)


def _ready_streams() -> None:
    """Text in UTF-8; where a stream was closed, what is written there is nowhere."""
    for name in ("stdout", "stderr"):
        stream = getattr(sys, name)
        if stream is None:
            setattr(sys, name, open(os.devnull, "w", encoding="utf-8"))  # noqa: SIM115
        elif hasattr(stream, "reconfigure"):
            stream.reconfigure(encoding="utf-8", errors="replace")


def _flushed(status: int) -> int:
    """The status of a command, once what it printed has been taken; else that it was not."""
    try:
        sys.stdout.flush()
    except BrokenPipeError:
        sys.stderr.close()
    except OSError as error:
        return _unwritten(error)
    return status


def _unwritten(error: OSError) -> int:
    """The answer could not be written: standard output is full, or gone."""
    with contextlib.suppress(OSError, ValueError):
        sys.stdout.close()  # what is left in it could not be written either
    sys.stdout = open(os.devnull, "w", encoding="utf-8")  # noqa: SIM115
    reason = error.strerror or str(error)
    return tell(OddSumError(f"The answer could not be written: {reason}."), "text")


def _interrupted(_signal: int, _frame: object) -> NoReturn:
    """Asked to end: like Ctrl+C, so that what was started is ended and cleared away."""
    raise KeyboardInterrupt


def _usage(error: click.ClickException) -> int:
    """A wrong command: as json too, where json was asked for."""
    text = error.format_message()
    asked = " ".join(sys.argv)
    how = "json" if "--format json" in asked or "--format=json" in asked else "text"
    return tell(OddSumError(text, hint="`oddsum --help` shows what there is."), how)
