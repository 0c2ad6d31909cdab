"""One case in a process of its own: plain, or recorded."""

from __future__ import annotations

import gc
import os
import sys

from . import guards, modules, stand_in
from .console import Terminal, _Telling
from .perform import READY, Program, perform

TYPE_CHECKING = False  # importing typing would cost every run some milliseconds
if TYPE_CHECKING:
    from typing import Any

    from .wire import Channel

    Request = dict[str, Any]


class Prepared:
    """A case with all that can be made ready before the process is its own: see host.py."""

    def __init__(self, request: Request, channel: Channel) -> None:
        self.request, self.channel = request, channel
        _settle_in(request)
        self.recorder, compiler = None, _plain_compiler
        self.program = Program(request["folder"], request["program"], request["top_level"], None)
        if request["mode"] == "record":
            self.recorder, compiler = _recording(self.program, channel, request)
        self.program.compiler = compiler
        live = request["mode"] == "live"
        self.console = _before_somebody(channel) if live else Terminal(channel, self.recorder)
        self.console.install()


def run(request: Request, channel: Channel) -> int:
    """Carry out the request; returns the exit status the program asked for."""
    return go(Prepared(request, channel))


def go(one: Prepared) -> int:
    """Run a case that is prepared, in the process that is its own."""
    case, limits, channel = one.request["case"], one.request["limits"], one.channel
    program, console = one.program, one.console
    channel.own()
    heard = _overhear(console) if case.get("check") is not None else []
    refused: set[str] = set()
    if one.request.get("fence") is not None:
        fence = guards.Fence(one.request["folder"], one.request["fence"])
        fence.up, fence.refused = True, refused
    watch = guards.EndlessWatch(channel.aside, program.is_own)
    before = guards.cpu_seconds()
    guards.limit_memory(limits["memory"])
    if one.recorder is not None and one.request.get("skips"):
        watch.heard = one.recorder.end_soon
    watch.start(limits["cpu"])
    gc.freeze()  # what is ours is in no list that a program can ask the collector for
    try:
        told = perform(program, case, console, lambda: {"stdout": "".join(heard)})
    except modules.Cannot as cannot:
        channel.send("syntax", **cannot.fields)
        os._exit(65)
    except modules.Broken as broken:
        channel.send("refused", text=str(broken))
        os._exit(70)
    except BaseException as cut:
        if type(cut).__name__ != "Cut":
            raise
        os._exit(72)
    told["refused"] = sorted(refused)
    return _report(told, program, console, channel, one.recorder, watch, before)


def _before_somebody(channel: Channel) -> Any:
    """The streams of a live run; Ctrl+C is an error at the line where the program is."""
    import signal

    from .console import Live

    # Where the tool was started in the background, it has been told to ignore this one.
    signal.signal(signal.SIGINT, signal.default_int_handler)
    return Live(channel)


def _report(
    told: Any, program: Any, console: Any, channel: Channel, recorder: Any, watch: Any, before: Any
) -> int:
    watch.stop()
    remarks = _flush(console)
    if recorder is not None:
        _last_words(recorder, told)
    error = told["error"]
    starved = console.starved and bool(error) and error["type"] == "EOFError"
    channel.send(
        "end",
        starved=starved,
        unread=console.unread()[:10_000],
        remarks=remarks,
        cpu=guards.cpu_seconds() - before,
        skipped=program.skipped,
        drawn=stand_in.told(),
        **told,
    )
    return 1 if error else told["status"]


def _last_words(recorder: Any, told: Any) -> None:
    error = told["error"]
    if error is not None and not recorder.last_raised[0]:
        recorder.log.extend((error["type"], error["message"], "x"))
        recorder.look_again()
    recorder.at_end()
    try:
        recorder.flush()
    except BaseException:
        pass  # the limit was reached with the very last steps: they are sent


def _flush(console: Any) -> list[str]:
    try:
        console.stdout.flush()
    except ValueError:
        return ["The program closed its own standard output; what it printed after that is lost."]
    except OSError as error:
        return [f"What the program printed last could not be written: {error}."]
    return []


def _settle_in(request: Request) -> None:
    folder = request["folder"]
    os.chdir(folder)
    if sys.path[:1] != [folder]:  # a host settles in again for each case
        sys.path.insert(0, folder)
    sys.argv = [request["program"], *request["case"].get("args", [])]
    modules.make_way(folder)
    modules.SeedOnImport(request["case"]["seed"]).install()
    stand_in.Finder(folder).install()


def _overhear(console: Any) -> list[str]:
    """Keep a copy of what is printed, for a ``check`` that asks for it."""
    heard: list[str] = []
    sys.stdout = _Telling(console.stdout, heard.append)
    console.stdout = sys.stdout
    return heard


def _plain_compiler(data: Any, path: Any, select: Any) -> Any:
    if select is None:
        return modules.compile_plain(data, path)
    import ast

    return compile(select(ast.parse(data, path)), path, "exec", dont_inherit=True)


def _recording(program: Any, channel: Channel, request: Request) -> tuple[Any, Any]:
    from .containment import StepLog
    from .imports import OwnFinder
    from .record import Recorder
    from .woven import key_of, prefix_of, woven

    log = StepLog(request["containment"]) if request.get("containment") else None
    recorder = Recorder(channel, request["limits"]["steps"], program.is_own, log)
    if log is not None:
        log.recorder, recorder.at_end = recorder, log.tell
    wanted, watches = request.get("parts"), request.get("watches")
    counts = [0, 0]

    def note_parts(tree: Any, name: str) -> None:
        if wanted is not None and wanted["file"] == name:
            _note_parts(tree, wanted, recorder)

    def ready(data: Any, path: Any, select: Any) -> Any:
        """What a host has woven of this, for a recording with nothing besides."""
        if wanted is not None or watches or any(counts):
            return None
        return READY.get(key_of(data, path, program.top_level if select is not None else None))

    def compiler(data: Any, path: Any, select: Any = None) -> Any:
        made = ready(data, path, select)
        if made is None:
            bases = counts[0], counts[1]
            made = woven(program, data, path, select, bases, bool(watches), note_parts)
        program.skipped = made.skipped
        if made.threads:
            recorder.expect_threads()
        recorder.attributes.homes[path] = prefix_of(program, path)
        recorder.add_module(made.weaver, *counts)
        counts[0] += len(made.weaver.statements)
        counts[1] += len(made.weaver.slots)
        return made.code

    recorder.install()
    if request.get("skips"):
        from .asleep import Skipping

        Skipping().install()
    if watches:
        from .watching import Watching

        Watching(recorder, watches).install()
    sys.meta_path.insert(0, OwnFinder(program.folder, compiler))
    return recorder, compiler


def _note_parts(tree: Any, wanted: Any, recorder: Any) -> None:
    from .parts import PartNotes, Parts

    parts = Parts()
    if parts.into(tree, wanted["line"]):
        recorder.channel.send("parts", rows=parts.rows)
        PartNotes(recorder, wanted["visit"]).install()
