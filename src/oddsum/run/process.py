"""One probe process: started, listened to, and ended with all its children."""

from __future__ import annotations

import contextlib
import json
import os
import selectors
import signal
import socket
import tempfile
import threading
import time
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from typing import Any

from oddsum.run import wire
from oddsum.run.begin import Started, Starter
from oddsum.run.messages import Hearing, Message, new_nonce
from oddsum.run.rooms import Room
from oddsum.run.waiting import Waiting

_TICK = 0.05  # seconds between looks at the limits
_GRACE = 0.8  # seconds a program whose time is over has to say where it is
_LINGER = 0.3  # seconds output may still come after the end, from children that hold the pipe
_MOST_LEFT = 8 << 20  # bytes that pipes can hold: all of it is read, however long that takes
_MOST_FOREIGN = 1_000_000  # bytes kept of the error output


@dataclass(frozen=True)
class Limits:
    """Limits of one run: seconds of processor time and of wall clock, bytes of output."""

    cpu: float
    wall: float
    output: int
    outside: float | None = None

    @property
    def most_cpu(self) -> float:
        """Seconds of processor time after which it is ended from outside.

        Later than ``cpu`` where a probe keeps that limit itself, and says which loop it was.
        """
        return self.cpu * 1.25 + 1.0 if self.outside is None else self.outside


@dataclass
class Heard:
    """What one process said and did. ``mark`` is the text that marks places in its output."""

    mark: str = ""
    messages: list[Message] = field(default_factory=list)
    output: bytearray = field(default_factory=bytearray)
    errors: bytearray = field(default_factory=bytearray)
    exit_status: int = 0
    stopped_for: str = ""  # "time", "output" or "cancelled", where we ended it
    bound: str = ""  # on all its processes, that was struck: "processes", "memory", "written"
    foreign: int = 0  # bytes that the program wrote into the wire by accident
    seconds: float = 0.0
    cpu: float | None = None  # processor seconds, of what was stopped; its own end tells the others

    def of_kind(self, kind: str) -> list[Message]:
        """All messages of a kind, in order."""
        return [m for m in self.messages if m["k"] == kind]

    def one(self, kind: str) -> Message | None:
        """The first message of a kind."""
        return next((m for m in self.messages if m["k"] == kind), None)


def run_probe(
    start: Starter,
    room: Room,
    request: Mapping[str, Any],
    typed: str,
    limits: Limits,
    stop: threading.Event | None = None,
    on_message: Callable[[Message], None] | None = None,
) -> Heard:
    """Carry out one request in a process of its own and return what was heard of it.

    ``start`` begins the process in the room: a fresh interpreter (``fresh``) or a fork of a host.
    Raises RunError where the interpreter cannot be started at all.
    """
    hearing, mark = Hearing(), new_nonce()
    wire_in, wire_out = open_wire()
    with tempfile.TemporaryFile() as asked, tempfile.TemporaryFile() as given:
        asked.write(as_line({**request, **hearing.texts(), "mark": mark}))
        asked.seek(0)
        given.write(typed.encode("utf-8", "surrogateescape"))
        given.seek(0)
        try:
            started = start(asked.fileno(), given.fileno(), wire_out, room)
        except BaseException:
            os.close(wire_in)
            raise
        finally:
            os.close(wire_out)
        return Listener(started, wire_in, hearing, mark, limits, stop, on_message).listen()


def open_wire() -> tuple[int, int]:
    """Our end of a wire and the probe's: sockets, for what goes into a pipe can be read there."""
    ours, theirs = socket.socketpair()
    return ours.detach(), theirs.detach()


def as_line(request: Mapping[str, Any]) -> bytes:
    """A request as the wire carries it."""
    return json.dumps({**request, "version": wire.VERSION}).encode() + b"\n"


class Listener:
    """Reads the three pipes of a process and keeps its limits."""

    def __init__(
        self,
        started: Started,
        wire_in: int,
        hearing: Hearing,
        mark: str,
        limits: Limits,
        stop: threading.Event | None,
        on_message: Callable[[Message], None] | None,
    ) -> None:
        self.process, self.limits, self.stop = started, limits, stop
        self.on_message, self.hearing = on_message, hearing
        self.heard = Heard(mark)
        self.began, self.waiting = time.monotonic(), Waiting()
        self.before = 0.0  # seconds of the processor that were used when it began
        self.kill_at: float | None = None  # seconds of waiting
        self.next_look = self.began + 0.5
        self.selector = selectors.DefaultSelector()
        pipes = {
            wire_in: self._on_wire,
            started.output: self._on_output,
            started.errors: self._on_errors,
        }
        for pipe, take in pipes.items():
            self.selector.register(pipe, selectors.EVENT_READ, take)
        self.wire_in = wire_in

    def listen(self) -> Heard:
        """Read until the process has ended or is past a limit."""
        try:
            self._listen()
        finally:
            self.heard.seconds = time.monotonic() - self.began
            self.process.end()
            self.heard.bound = self.process.bound
            self.selector.close()
            for pipe in (self.wire_in, self.process.output, self.process.errors):
                os.close(pipe)
        status = self.process.returncode
        self.heard.exit_status = status if status is not None else -signal.SIGKILL
        self.hearing.end()
        self.heard.foreign = self.hearing.foreign
        return self.heard

    def _listen(self) -> None:
        gone_at: float | None = None
        left = _MOST_LEFT  # bytes that it may have written and nobody has read yet
        while self.selector.get_map():
            ready = self.selector.select(_TICK)
            for key, _ in ready:
                data = read_some(key.fd)
                if data:
                    key.data(data)
                else:
                    self.selector.unregister(key.fd)
                left -= len(data) if gone_at is not None else 0
            now = time.monotonic()
            if gone_at is None and self.process.poll() is not None:
                gone_at = now
            elif gone_at is not None and not ready:
                left = 0
            if gone_at is not None and left <= 0 and now - gone_at > _LINGER:
                return
            if gone_at is None and not self._within_limits(now):
                return
        # All pipes are closed: the program has ended, or goes on without them.
        self.process.wait(max(0.05, self.limits.wall - self.waiting.so_far()))

    def _on_wire(self, data: bytes) -> None:
        for message in self.hearing.take(data):
            if self.on_message is not None:
                self.on_message(message)
            if message["k"] == "begun":
                self.began, self.waiting = time.monotonic(), Waiting()
                self.before = message["cpu"]
            if message["k"] != "log":  # long, and taken by whoever listens
                self.heard.messages.append(message)

    def _on_output(self, data: bytes) -> None:
        if len(self.heard.output) <= self.limits.output:
            self.heard.output += data[: self.limits.output + 1 - len(self.heard.output)]

    def _on_errors(self, data: bytes) -> None:
        if len(self.heard.errors) < _MOST_FOREIGN:
            self.heard.errors += data

    def _within_limits(self, now: float) -> bool:
        """Ask a program past a limit where it is; False when it is to be ended."""
        if self.stop is not None and self.stop.is_set():
            self.heard.stopped_for = "cancelled"
            return False
        waited = self.waiting.so_far()
        if self.kill_at is not None:
            if waited < self.kill_at:
                return True
            self.heard.cpu = self._cpu()
            return False
        if len(self.heard.output) > self.limits.output:
            self._ask_where("output", waited)
        elif waited > self.limits.wall or self._cpu_is_over(now):
            self._ask_where("time", waited)
        return True

    def _cpu_is_over(self, now: float) -> bool:
        """Whether it is busy where its own clock cannot stop it: one long operation in C."""
        if now < self.next_look:
            return False
        self.next_look = now + 0.25
        used = self._cpu()
        return used is not None and used > self.limits.most_cpu

    def _cpu(self) -> float | None:
        """Seconds of processor time since it began; None where nobody can say."""
        import psutil  # 9 ms, and most programs have ended by now

        try:
            times = psutil.Process(self.process.pid).cpu_times()
        except psutil.Error:
            return None
        return max(0.0, float(times.user + times.system) - self.before)

    def _ask_where(self, why: str, waited: float) -> None:
        self.heard.stopped_for, self.heard.cpu = why, self._cpu()
        self.kill_at = waited + _GRACE
        with contextlib.suppress(OSError):
            os.kill(self.process.pid, signal.SIGPROF)


def read_some(descriptor: int) -> bytes:
    """What there is; nothing at the end, which a socket may tell by an error."""
    try:
        return os.read(descriptor, 1 << 16)
    except ConnectionResetError:
        return b""
