"""Runs one case and says what happened: the facts, before anything is compared."""

from __future__ import annotations

import contextlib
import signal
import threading
from collections.abc import Mapping
from functools import partial
from typing import Any

import msgspec

from oddsum.languages import language_for, language_of
from oddsum.model.case import WALL_FACTOR, Case, Plan, Settings
from oddsum.model.errors import ProgramError, RunError, StartError
from oddsum.model.limits import MOST_PROCESSES, MOST_WRITTEN
from oddsum.model.outcome import LIMIT, ErrorInfo, Returned, Run
from oddsum.model.picture import Picture
from oddsum.model.typed import convert
from oddsum.run.begin import Starter
from oddsum.run.messages import Message
from oddsum.run.output import NOT_UTF8, as_text, read_marks
from oddsum.run.process import Heard, Limits, run_probe
from oddsum.run.scratch import Scratch
from oddsum.run.second_look import looked_at_again
from oddsum.run.terms import MB
from oddsum.source.program import decode_source


def case_request(plan: Plan, case: Case) -> dict[str, Any]:
    """The part of a request that describes a case, as the wire carries it."""
    settings = plan.settings_of(case)
    return {
        "number": case.number,
        "stdin": case.stdin or "",
        "args": list(case.args),
        "call": case.call,
        "before": case.before,
        "returns": case.returns,
        "check": case.check,
        "tolerance": settings.tolerance,
        "seed": settings.seed,
        "today": settings.today,
        "files": case.files,
        "writes": case.writes,
    }


def run_case(
    plan: Plan,
    case: Case,
    scratch: Scratch,
    start: Starter,
    stop: threading.Event | None = None,
) -> Run:
    """Run a case plainly in the scratch folder, which is put back afterwards.

    ``start`` begins its process: ``fresh(interpreter)``, or the ``start`` of a host.
    Raises StartError when the program cannot start, RunError when the interpreter cannot.
    """
    running = language_for(plan).running
    watches = not running.probe().keeps_time

    def go(mode: str, share: float = 1.0) -> Run:
        settings = plan.settings_of(case)
        request = base_request(plan, case, scratch, mode, settings)
        request["limits"]["cpu"] = share * (settings.timeout or 0.0)
        request.update(running.made_ready(request, scratch.bundle.files))
        scratch.lay(case)
        try:
            limits = _limits(settings, keeps_time=not watches or mode == "watch")
            heard = run_probe(start, scratch.room, request, case.stdin or "", limits, stop)
            refuse_syntax(heard, scratch.bundle.files)
            return facts(heard, case, scratch)
        finally:
            scratch.put_back()

    run = go("case")
    if not watches:
        return run
    return looked_at_again(run, partial(go, "watch"), plan.settings_of(case).timeout or 0.0, stop)


def base_request(
    plan: Plan, case: Case, scratch: Scratch, mode: str, settings: Settings, steps: int = 0
) -> dict[str, Any]:
    """The whole request for one case in one process."""
    terms = scratch.room.terms
    return {
        "fence": list(terms.allow) if terms.fenced else None,
        "mode": mode,
        "folder": str(scratch.folder),
        "program": scratch.bundle.program,
        "top_level": plan.top_level,
        "case": case_request(plan, case),
        "limits": {"cpu": settings.timeout, "memory": settings.memory, "steps": steps},
    }


def _limits(settings: Settings, keeps_time: bool) -> Limits:
    timeout, output = settings.timeout or 0.0, int((settings.output or 0.0) * MB)
    outside = None if keeps_time else timeout
    return Limits(cpu=timeout, wall=timeout * WALL_FACTOR, output=output, outside=outside)


def refuse_syntax(heard: Heard, files: Mapping[str, bytes]) -> None:
    """Raise StartError where the program cannot start, RunError where the probe failed."""
    refused = heard.one("refused")
    if refused is not None:
        raise RunError(
            f"Odd Sum itself failed on this program ({refused['text']}).",
            hint="That is a fault of ours. Please report it, with the program.",
        )
    told = heard.one("syntax")
    if told is not None:
        raise _start_error(told, files)


def _start_error(told: Message, files: Mapping[str, bytes]) -> StartError:
    """What the interpreter said, in plain words, and where the open bracket is, if it is one."""
    file, line, message = str(told["file"]), told["line"], str(told["message"])
    where = f"{file}, line {line}" if line else file
    language = language_of(file)
    text, column = str(told.get("text") or ""), int(told["column"] or 0)
    plain = language.reading.plain_mistake(message, text, column)
    said = f"{plain} (the interpreter says: {message})" if plain else f"{message}"
    opened = ""
    shown: tuple[tuple[int, str], ...] = ()
    if file in files:
        with contextlib.suppress(ProgramError):
            source = decode_source(files[file], file)
            opened, shown = language.reading.opened_at(source, message), source.around(line or 0)
    hint = "The mistake may also be on the line above." if line and line > 1 else ""
    error = StartError(
        f"{where}: the program cannot start: {said}.",
        hint=opened or hint,
        file=file,
        line=line,
        column=told["column"],
    )
    error.shown = shown
    return error


def facts(heard: Heard, case: Case, scratch: Scratch) -> Run:
    """Put together what happened from what was heard."""
    end = heard.one("end") or {}
    answers = [m["text"] for m in heard.of_kind("read")]
    data, asked = read_marks(bytes(heard.output), heard.mark, answers)
    text, asked, is_utf8 = as_text(data, asked)
    ending, error = _ending(heard, end, scratch)
    if error is not None and error.file not in (None, scratch.bundle.program):
        error = msgspec.structs.replace(error, elsewhere=True)
    # Its very end may have changed what it asked for: what the system says goes first.
    status = heard.exit_status if heard.exit_status >= 0 else end.get("status", 0)
    run = Run(
        ending=ending,
        exit_status=status if ending == "ended" else 0,
        output=text,
        errors=heard.errors.decode("utf-8", "replace"),
        asked=asked,
        error=error,
        starved=end.get("starved", False),
        unread=end.get("unread", ""),
        returned=_returned(end["returned"], scratch) if end.get("returned") else None,
        checked=end.get("checked"),
        check_error=end.get("check_error", ""),
        written={name: scratch.content(name) for name in case.writes or {}},
        drawn=convert(end["drawn"], Picture) if end.get("drawn") else None,
        remarks=_remarks(heard, end, is_utf8, ending),
        skipped=tuple(end.get("skipped", ())),
        seconds=heard.seconds,
        cpu=end.get("cpu", heard.seconds if heard.cpu is None else heard.cpu),
    )
    return run


def _returned(told: dict[str, Any], scratch: Scratch) -> Returned:
    language = language_of(scratch.bundle.program).name
    return msgspec.structs.replace(convert(told, Returned), language=language)


def _ending(heard: Heard, end: Message, scratch: Scratch) -> tuple[Any, ErrorInfo | None]:
    if heard.stopped_for == "cancelled":
        return "cancelled", None
    looping = heard.one("looping")
    if heard.stopped_for in ("output", "time") or looping is not None:
        from oddsum.run.looping import loop_error  # few runs have no end

        full = heard.stopped_for == "output"
        said = "prints for ever" if full else "does not end"
        return "output" if full else "time", loop_error(said, looping, scratch)
    if end.get("error"):
        return "raised", convert(end["error"], ErrorInfo)
    if heard.bound:
        return "crashed", bound_error(heard.bound)
    killed = heard.exit_status < 0 and not heard.stopped_for
    if killed and (not end or heard.exit_status != -signal.SIGKILL):  # which may be ours
        running = language_of(scratch.bundle.program).running
        last = running.last_words(heard.errors.decode("utf-8", "replace"))
        if last is not None:
            return "crashed", ErrorInfo(type=last[0], message=last[1])
        return "crashed", crash_error(-heard.exit_status)
    return "ended", None


_BOUNDS = {
    "processes": f"it had more than {MOST_PROCESSES} processes at once",
    "memory": "its processes together took more memory than a run may have",
    "written": f"it wrote more than {MOST_WRITTEN // MB} MB of files",
}


def bound_error(bound: str) -> ErrorInfo:
    """A run that was ended for what all its processes took together."""
    return ErrorInfo(type=LIMIT, message=_BOUNDS[bound])


def crash_error(number: int) -> ErrorInfo:
    """A run whose interpreter was ended by a signal."""
    try:
        name = signal.Signals(number).name
    except ValueError:
        name = f"signal {number}"
    return ErrorInfo(type=name, message="the interpreter itself was ended by the system")


def _remarks(heard: Heard, end: Message, is_utf8: bool, ending: str) -> tuple[str, ...]:
    remarks: list[str] = list(end.get("remarks", []))
    drawn = end.get("drawn") or {}
    if drawn.get("waits"):
        remarks.append("It waits for keys, clicks or a timer, which never come in a run.")
    if drawn.get("cut"):
        remarks.append("It drew more lines than are kept; the first 20,000 are.")
    if end.get("refused"):
        wanted = ", ".join(end["refused"])
        remarks.append(f"The fence refused it what it wanted ({wanted}); see `allow` of the plan.")
    if not is_utf8:
        remarks.append(NOT_UTF8)
    if heard.foreign:
        remarks.append(
            f"It wrote {heard.foreign} bytes to a file descriptor that is not its own; "
            "they were not taken for a result."
        )
    if ending == "ended" and not end:
        remarks.append("It ended at once (os._exit, or it closed what it did not open).")
    return tuple(remarks)


def cancelled(run: Run) -> bool:
    """Whether the user stopped this run."""
    return run.ending == "cancelled"
