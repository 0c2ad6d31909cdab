"""Runs a program live on a terminal of its own: somebody types, and both sides are kept apart."""

from __future__ import annotations

import contextlib
import fcntl
import math
import os
import select
import signal
import struct
import tempfile
import termios
import threading
import time
from collections.abc import Callable

import msgspec

from oddsum.languages import language_for
from oddsum.languages.language import Interpreter
from oddsum.model.case import Case, Plan
from oddsum.model.outcome import ErrorInfo
from oddsum.model.typed import convert
from oddsum.run.begin import environment, probe_of
from oddsum.run.case import base_request, bound_error, crash_error, refuse_syntax
from oddsum.run.keeper.client import KEEPER, Kept, Wish
from oddsum.run.looping import loop_error
from oddsum.run.messages import Hearing
from oddsum.run.process import Heard, as_line, open_wire
from oddsum.run.scratch import Scratch, bundle
from oddsum.run.terms import MB, terms_of

LIVE_SECONDS = 20.0  # of processor time; the time somebody thinks before typing does not count
_TICK = 0.1
_FLOOD = 1 << 13  # bytes at once, of which only the end is shown
_GRACE = 1.0  # seconds a program that prints without end has to say where it is
_OVER = 2.0  # seconds of processor time that a probe has to see for itself that it is over
_LAST = 0.5  # seconds that output may still come after the end


class Recorded(msgspec.Struct, frozen=True):
    """A live run that is over: what was typed and what was printed, apart, and how it ended.

    ``seen`` is what stood on the terminal: printed text and answers together. ``ended`` is a
    sentence; ``error`` says where it stopped, or where it was stopped.
    """

    typed: str
    printed: str
    seen: str
    ended: str
    error: ErrorInfo | None = None

    @property
    def by_itself(self) -> bool:
        """Whether it came to its own end."""
        return self.error is None


class LiveRun:
    """One program on one terminal. ``play`` runs it; all else may be called from other threads."""

    def __init__(self, plan: Plan, interpreter: Interpreter, columns: int, lines: int) -> None:
        self.plan, self.interpreter = plan, interpreter
        # A descriptor that is closed is forgotten at once: its number may soon be another file's.
        self._held = threading.Lock()
        self.master, self._slave = os.openpty()
        self.resize(columns, lines)
        self._process: Kept | None = None
        self._stop = threading.Event()
        self._interrupts = 0
        self._status = 0
        self._heard, self._hearing = Heard(), Hearing()

    def resize(self, columns: int, lines: int) -> None:
        """Tell the terminal how large it is."""
        size = struct.pack("HHHH", lines, columns, 0, 0)
        with self._held, contextlib.suppress(OSError):
            if self.master >= 0:
                fcntl.ioctl(self.master, termios.TIOCSWINSZ, size)

    def type(self, data: bytes) -> None:
        """Type something."""
        with self._held, contextlib.suppress(OSError):
            if self.master >= 0:
                os.write(self.master, data)

    def interrupt(self) -> None:
        """Ctrl+C: the program is asked to stop; the third time it is ended."""
        self._interrupts += 1
        if self._interrupts >= 3:
            self.stop()
        else:
            self.type(b"\x03")

    @property
    def stopping(self) -> bool:
        """Whether it is to end at once."""
        return self._stop.is_set()

    def stop(self) -> None:
        """End it at once."""
        self._stop.set()

    def play(self, show: Callable[[bytes], None]) -> Recorded:
        """Run the program to its end; ``show`` is given the terminal's bytes as they come.

        Raises StartError where the program cannot start, RunError.
        """
        case = Case(number=0, name="live")
        try:
            with Scratch(bundle(self.plan), terms=terms_of(self.plan)) as scratch:
                self._run(case, scratch, show)
                refuse_syntax(self._heard, scratch.bundle.files)
                return self._recorded(scratch)
        finally:
            self._close_slave()
            with self._held:
                os.close(self.master)
                self.master = -1

    def _close_slave(self) -> None:
        """The program has its own; ours would keep the terminal open after its end."""
        if self._slave >= 0:
            os.close(self._slave)
            self._slave = -1

    def _run(self, case: Case, scratch: Scratch, show: Callable[[bytes], None]) -> None:
        settings = self.plan.settings_of(case)
        running = language_for(self.plan).running
        request = base_request(self.plan, case, scratch, "live", settings)
        request["limits"]["cpu"] = LIVE_SECONDS
        request.update(running.made_ready(request, scratch.bundle.files))
        wire_in, wire_out = open_wire()
        with tempfile.TemporaryFile() as asked:
            asked.write(as_line({**request, **self._hearing.texts(), "mark": ""}))
            asked.seek(0)
            try:
                room = scratch.room
                self._process = KEEPER.start(
                    Wish(
                        command=[*probe_of(self.interpreter), 0, 1],
                        folder=str(scratch.folder),
                        environment={**environment(room), "TERM": "linux"},
                        streams=(self._slave, self._slave, self._slave),
                        passed=(asked.fileno(), wire_out),
                        fence=room.fence,
                        cpu=0 if running.probe().keeps_time else math.ceil(LIVE_SECONDS + _OVER),
                        resident=room.terms.resident,
                        room=str(room.folder),
                    )
                )
            except BaseException:
                os.close(wire_in)
                raise
            finally:
                os.close(wire_out)
        self._close_slave()
        try:
            self._listen(wire_in, show, int((settings.output or 1.0) * MB))
        finally:
            os.close(wire_in)
            self._process.end()
            self._status = self._process.returncode or 0

    def _listen(self, wire_in: int, show: Callable[[bytes], None], most: int) -> None:
        open_ones, shown = {wire_in, self.master}, 0
        kill_at = math.inf
        while open_ones:
            if self._stop.is_set():
                self._heard.stopped_for = "cancelled"
                return
            if time.monotonic() > kill_at:
                return
            if shown > most and kill_at == math.inf:
                self._heard.stopped_for = "output"
                kill_at = time.monotonic() + _GRACE
                self.type(b"\x03")  # where it is, it tells when it is stopped
            ended = self._process is not None and self._process.poll() is not None
            ready, _, _ = select.select(list(open_ones), [], [], _LAST if ended else _TICK)
            if ended and not ready:
                return
            for descriptor in ready:
                data = _read(descriptor)
                if not data:
                    open_ones.discard(descriptor)
                elif descriptor == wire_in:
                    self._take(data)
                else:
                    shown += len(data)
                    if kill_at == math.inf:
                        show(_last_of(data))

    def _take(self, data: bytes) -> None:
        self._heard.messages += self._hearing.take(data)

    def _recorded(self, scratch: Scratch) -> Recorded:
        ended, error = self._ending(scratch)
        return Recorded(self._text("typed"), self._text("printed"), self._seen(), ended, error)

    def _seen(self) -> str:
        """The printed text with each answer after its prompt, where ``input()`` read them all."""
        read = [m["text"] for m in self._heard.of_kind("read")]
        typed = self._text("typed")
        if typed.splitlines() != read:
            return self._text("printed")
        pieces = [
            _bytes_of(m["data"]) if m["k"] == "printed" else f"{m['text']}\n".encode()
            for m in self._heard.messages
            if m["k"] in ("printed", "read")
        ]
        return b"".join(pieces).decode("utf-8", "replace").replace("\r\n", "\n")

    def _text(self, kind: str) -> str:
        data = _bytes_of("".join(m["data"] for m in self._heard.of_kind(kind)))
        return data.decode("utf-8", "replace").replace("\r\n", "\n")

    def _ending(self, scratch: Scratch) -> tuple[str, ErrorInfo | None]:
        looping, end = self._heard.one("looping"), self._heard.one("end")
        if looping is not None or self._status == -signal.SIGXCPU:
            error = loop_error("does not end", looping, scratch)
            kind = "in the loop on" if error.loop is not None else "while it was on"
            where = f", {kind} line {error.line}" if error.line else ""
            return f"It was ended: {LIVE_SECONDS:g} s of computing had no end{where}.", error
        if self._heard.stopped_for == "output":
            told = ErrorInfo(type="endless", message="prints for ever")
            if end and end.get("error"):
                told = convert(end["error"], ErrorInfo)
            where = f" It was at line {told.line}." if told.line else ""
            return "It was ended: it printed without end." + where, told
        if self._heard.stopped_for == "cancelled":
            return "You ended it.", _STOPPED
        if end is None:
            return self._without_a_word()
        if end.get("error"):
            error = convert(end["error"], ErrorInfo)
            return _stop_words(error), error
        status = end.get("status", 0)
        return "It ended by itself." if not status else f"It ended with exit status {status}.", None

    def _without_a_word(self) -> tuple[str, ErrorInfo | None]:
        """The interpreter itself was ended, or the program left it."""
        if self._status == -signal.SIGINT:
            return "You stopped it.", _STOPPED
        bound = self._process.bound if self._process is not None else ""
        if bound:
            error = bound_error(bound)
            return f"It was ended: {error.message}.", error
        if self._status < 0:
            error = crash_error(-self._status)
            return f"It stopped with {error.type}: {error.message}.", error
        return "It ended by itself.", None


_STOPPED = ErrorInfo(type="KeyboardInterrupt", message="")


def _bytes_of(data: str) -> bytes:
    """Bytes that came as text, a letter each."""
    return data.encode("latin-1", "replace")


def _stop_words(error: ErrorInfo) -> str:
    where = f" It was at line {error.line}." if error.line else ""
    if error.type == "KeyboardInterrupt":
        return "You stopped it." + where
    said = f": {error.message.splitlines()[0]}" if error.message else ""
    return f"It stopped with {error.type}{said}.{where}"


def _last_of(data: bytes) -> bytes:
    """The end of a flood: nobody can read it, and drawing all of it would hold up the keys."""
    if len(data) < _FLOOD:
        return data
    kept = data[-_FLOOD // 4 :]
    return kept[kept.find(b"\n") + 1 :]


def _read(descriptor: int) -> bytes:
    """What there is; nothing at the end, which a terminal tells by an error."""
    try:
        return os.read(descriptor, 1 << 14)
    except OSError:
        return b""
