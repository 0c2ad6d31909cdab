"""Programs that are not Python: built once per change, then run by the plan's own command."""

from __future__ import annotations

import contextlib
import hashlib
import math
import os
import shutil
import signal
import stat
import tempfile
import threading
from pathlib import Path

from oddsum.model.case import WALL_FACTOR, Case, Plan
from oddsum.model.errors import RunError, StartError
from oddsum.model.outcome import Ending, ErrorInfo, Run
from oddsum.run.begin import Child
from oddsum.run.case import bound_error
from oddsum.run.messages import Hearing
from oddsum.run.output import NOT_UTF8, as_text
from oddsum.run.process import Heard, Limits, Listener
from oddsum.run.scratch import Bundle, Scratch
from oddsum.run.terms import MB, terms_of

BUILD_SECONDS = 120.0  # a build may take, on the wall clock
_BUILD_OUTPUT = 4 * MB
_MOST_TOLD = 30  # lines of a compiler's words that are passed on
_MOST_WARNED = 8  # of them, where it made the program all the same
_BUILT: dict[str, Bundle] = {}  # the last build, by all that went into it
_LOCK = threading.Lock()


def built(plan: Plan, files: Bundle, stop: threading.Event | None = None) -> Bundle:
    """The program's files with what its build command made of them.

    The build runs in a scratch copy, once for the same files. Raises StartError with the compiler's
    own words where it fails.
    """
    if not plan.build:
        return files
    key = _fingerprint(plan, files)
    with _LOCK:
        if key not in _BUILT:
            made = _build(plan, files, stop)
            _BUILT.clear()
            _BUILT[key] = made
        return _BUILT[key]


def _fingerprint(plan: Plan, files: Bundle) -> str:
    parts = hashlib.sha256(repr(plan.build).encode())
    for name, data in sorted(files.files.items()):
        parts.update(name.encode() + b"\0" + data + b"\0")
    return parts.hexdigest()


def _build(plan: Plan, files: Bundle, stop: threading.Event | None) -> Bundle:
    with Scratch(files, terms=terms_of(plan)) as scratch:
        limits = Limits(cpu=BUILD_SECONDS, wall=BUILD_SECONDS, output=_BUILD_OUTPUT)
        heard = _listen(list(plan.build), scratch, "", limits, stop)
        if heard.stopped_for or heard.exit_status:
            raise _build_error(plan, heard, str(scratch.folder))
        said = "\n".join(_own_words(heard, str(scratch.folder), _MOST_WARNED))
        return _as_bundle(files, scratch.folder, said)


def _own_words(heard: Heard, folder: str, most: int) -> list[str]:
    """What a build wrote, in so many lines at most; the files by their names alone."""
    said = (heard.errors + heard.output).decode("utf-8", "replace").replace(folder + os.sep, "")
    lines = said.strip().split("\n")
    if len(lines) > most:
        lines = [*lines[:most], f"({len(lines) - most} more lines)"]
    return lines


def _build_error(plan: Plan, heard: Heard, folder: str) -> StartError:
    lines = _own_words(heard, folder, _MOST_TOLD)
    why = {"time": f"it took more than {BUILD_SECONDS:g} s", "cancelled": "it was stopped"}
    reason = why.get(heard.stopped_for, f"it ended with status {heard.exit_status}")
    file, line, column = _place(lines, plan)
    return StartError(
        f"The program cannot be built: `{' '.join(plan.build)}` did not succeed, {reason}.",
        hint="These are its own words:\n" + "\n".join(lines) if any(lines) else "",
        file=file,
        line=line,
        column=column,
    )


def _place(lines: list[str], plan: Plan) -> tuple[str | None, int | None, int | None]:
    """The first place that the compiler names, as most do: ``file:line:column:``."""
    for text in lines:
        name, *numbers = text.split(":")[:3]
        if name.endswith(plan.program.name) and numbers and numbers[0].strip().isdigit():
            column = numbers[1].strip() if len(numbers) > 1 else ""
            return plan.program.name, int(numbers[0]), int(column) if column.isdigit() else None
    return None, None, None


def _as_bundle(files: Bundle, folder: Path, said: str) -> Bundle:
    found: dict[str, bytes] = {}
    modes: dict[str, int] = {}
    for base, _, names in os.walk(folder):
        for name in names:
            path = Path(base, name)
            if path.is_file():
                relative = path.relative_to(folder).as_posix()
                found[relative] = path.read_bytes()
                modes[relative] = stat.S_IMODE(path.stat().st_mode)
    return Bundle(files.program, found, files.left_out, modes, said)


def run_command(
    plan: Plan,
    case: Case,
    scratch: Scratch,
    stop: threading.Event | None = None,
) -> Run:
    """Run a case by the plan's command in the scratch folder, which is put back afterwards."""
    settings = plan.settings_of(case)
    timeout = settings.timeout or 0.0
    output = int((settings.output or 0.0) * MB)
    limits = Limits(cpu=timeout, wall=timeout * WALL_FACTOR, output=output, outside=timeout)
    scratch.lay(case)
    try:
        command = [*plan.run, *case.args]
        heard = _listen(command, scratch, case.stdin or "", limits, stop)
        return _facts(heard, case, scratch)
    finally:
        scratch.put_back()


def _listen(
    command: list[str],
    scratch: Scratch,
    typed: str,
    limits: Limits,
    stop: threading.Event | None,
) -> Heard:
    silent, nobody = os.pipe()
    os.close(nobody)  # there is no probe in it: its wire has ended before it begins
    with tempfile.TemporaryFile() as given:
        given.write(typed.encode("utf-8", "surrogateescape"))
        given.seek(0)
        try:
            seconds = math.ceil(limits.cpu) + 1
            child = Child(command, scratch.room, given.fileno(), (), seconds)
        except RunError as error:
            os.close(silent)
            raise _not_started(command[0], error) from error
        return Listener(child, silent, Hearing(), "", limits, stop, None).listen()


def _not_started(tool: str, error: RunError) -> RunError:
    """The sentence for a command that does not begin: most often it is not on this machine."""
    if "/" not in tool and shutil.which(tool) is None:
        return RunError(
            f"There is no {tool} on this machine, and the plan builds or runs the program by it.",
            hint=f"Install what {tool} comes with, or name another command in `build` and `run` "
            "at the top of the plan.",
        )
    return RunError(str(error), hint="Look at `run` and `build` at the top of the plan.")


def _facts(heard: Heard, case: Case, scratch: Scratch) -> Run:
    text, _, is_utf8 = as_text(bytes(heard.output), ())
    ending, error = _ending(heard)
    return Run(
        ending=ending,
        exit_status=heard.exit_status if ending == "ended" else 0,
        output=text,
        errors=heard.errors.decode("utf-8", "replace"),
        error=error,
        written={name: scratch.content(name) for name in case.writes or {}},
        remarks=(*_warned(scratch.bundle.said), *(() if is_utf8 else (NOT_UTF8,))),
        watched=False,
        seconds=heard.seconds,
        cpu=heard.seconds,
    )


def _warned(said: str) -> tuple[str, ...]:
    """What the build wrote though it made the program: often a word on what is wrong in it."""
    return ("The build succeeded, and had this to say:", *said.split("\n")) if said else ()


def _ending(heard: Heard) -> tuple[Ending, ErrorInfo | None]:
    status = heard.exit_status
    if heard.stopped_for == "cancelled":
        return "cancelled", None
    if heard.bound:
        return "crashed", bound_error(heard.bound)
    if heard.stopped_for == "output":
        return "output", ErrorInfo(type="endless", message="prints for ever")
    if heard.stopped_for == "time" or status == -signal.SIGXCPU:
        return "time", ErrorInfo(type="endless", message="does not end")
    if status < 0:
        name = _signal_name(-status)
        return "crashed", ErrorInfo(type=name, message=_CRASHES.get(name, "the system ended it"))
    return "ended", None


_CRASHES = {
    "SIGSEGV": "it touched memory that is not its own",
    "SIGFPE": "it divided by 0, or a number was too large",
    "SIGABRT": "it gave up by itself",
    "SIGKILL": "the system ended it",
}


def _signal_name(number: int) -> str:
    with contextlib.suppress(ValueError):
        return signal.Signals(number).name
    return f"signal {number}"
