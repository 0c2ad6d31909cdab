"""How the process of a case begins: as a fresh interpreter, or as a fork of a waiting host."""

from __future__ import annotations

import contextlib
import os
import select
import signal
import socket
import sys
import tempfile
from collections.abc import Callable, Sequence
from pathlib import Path
from typing import Protocol

from oddsum.languages import language_named
from oddsum.languages.language import Interpreter
from oddsum.model.errors import RunError
from oddsum.run.keeper.client import KEEPER, Kept, Wish, sender
from oddsum.run.keeper.family import family
from oddsum.run.removable import Removable
from oddsum.run.rooms import Room
from oddsum.run.terms import Terms
from oddsum.run.wire import WORD


class Started(Protocol):
    """A process that has begun. ``output`` and ``errors`` are descriptors to read from.

    ``bound`` names the limit on its family of processes that was struck, blank for none.
    """

    pid: int
    output: int
    errors: int

    @property
    def bound(self) -> str:
        """The limit on its family that was struck."""

    @property
    def returncode(self) -> int | None:
        """The exit status, negative for a signal; None while it runs."""

    def poll(self) -> int | None:
        """The exit status, negative for a signal; None while it runs."""

    def wait(self, seconds: float) -> None:
        """Wait until it has ended, so long at most."""

    def end(self) -> None:
        """End it and whatever it started, and wait until that has happened."""


# request, standard input and wire as descriptors, and the room it begins in
Starter = Callable[[int, int, int, Room], Started]


def environment(temporary: Path) -> dict[str, str]:
    """The environment of a run: the learner's, with what would make runs differ fixed."""
    kept = {k: v for k, v in os.environ.items() if not k.startswith("PYTHON") or k == "PYTHONPATH"}
    return {
        **kept,
        "TMPDIR": str(temporary),
        "PYTHONHASHSEED": "0",
        "PYTHONUTF8": "1",
        "PYTHONIOENCODING": "utf-8:surrogateescape",
        "PYTHONDONTWRITEBYTECODE": "1",
    }


class Child:
    """A process of ours in a room of its own, started the ordinary way."""

    def __init__(
        self,
        command: Sequence[str | int],
        room: Room,
        given: int,
        passed: tuple[int, ...],
        cpu: int = 0,
    ) -> None:
        out_in, out = os.pipe()
        err_in, err = os.pipe()
        try:
            self._kept = KEEPER.start(
                Wish(
                    command=command,
                    folder=str(room.work),
                    environment=environment(room.temporary),
                    streams=(given, out, err),
                    passed=passed,
                    fence=room.fence,
                    cpu=cpu,
                    resident=room.terms.resident,
                    room=str(room.folder),
                )
            )
        except BaseException:
            os.close(out_in)
            os.close(err_in)
            raise
        finally:
            os.close(out)
            os.close(err)
        self.pid, self.output, self.errors = self._kept.pid, out_in, err_in

    @property
    def bound(self) -> str:
        """The limit on its family that was struck."""
        return self._kept.bound

    @property
    def returncode(self) -> int | None:
        """The exit status, None while it runs."""
        return self._kept.returncode

    def poll(self) -> int | None:
        """The exit status, negative for a signal; None while it runs."""
        return self._kept.poll()

    def wait(self, seconds: float) -> None:
        """Wait until it has ended, so long at most."""
        self._kept.wait(seconds)

    def end(self) -> None:
        """End it and whatever it started."""
        self._kept.end()


def probe_of(interpreter: Interpreter) -> list[str | int]:
    """The command that starts its language's probe, without the descriptors it is given."""
    probe = language_named(interpreter.language).running.probe()
    return [interpreter.path, *probe.options, probe.script]


def fresh(interpreter: Interpreter) -> Starter:
    """Begin each case in an interpreter of its own."""
    probe = probe_of(interpreter)

    def start(asked: int, given: int, wire: int, room: Room) -> Started:
        return Child([*probe, 0, 1], room, given, (asked, wire))

    return start


class Fresh(Removable):
    """Begins each case in an interpreter of its own, all in one room."""

    def __init__(self, interpreter: Interpreter, terms: Terms) -> None:
        self.start, self.room = fresh(interpreter), Room(terms)

    def warm(self) -> None:
        """Nothing waits ahead of a case."""

    def remove(self) -> None:
        """Take the room away."""
        self.room.remove()


def beginning(interpreter: Interpreter, terms: Terms) -> Host | Fresh:
    """What begins many cases, one after the other; a context manager whose ``start`` begins one.

    The scratch copies of these cases are made in its ``room``.
    """
    forks = language_named(interpreter.language).running.probe().forks
    return Host(interpreter, terms) if forks else Fresh(interpreter, terms)


class Host(Removable):
    """An interpreter that waits with everything loaded and forks for each case.

    One case at a time. Where the host has gone (a program can end its parent), the next case gets
    a new one.
    """

    def __init__(self, interpreter: Interpreter, terms: Terms) -> None:
        self.room, self._interpreter = Room(terms), interpreter
        self._kept: Kept | None = None
        self._control: socket.socket | None = None

    def start(self, asked: int, given: int, wire: int, room: Room) -> Started:
        """Begin a case in the host's room; a ``Starter``."""
        for _ in range(2):
            control, kept = self._waiting()
            out_in, out = os.pipe()
            err_in, err = os.pipe()
            try:
                socket.send_fds(control, [b"c"], [asked, given, out, err, wire])
                pid = _begun(control)
            except OSError:
                pid = None
            finally:
                os.close(out)
                os.close(err)
            if pid is not None:
                return Forked(pid, out_in, err_in, control, kept)
            os.close(out_in)
            os.close(err_in)
            self._leave()
        raise RunError(f"{self._interpreter.path} ends before a case can begin.")

    def warm(self) -> None:
        """Start the interpreter, for the cases to come."""
        self._waiting()

    def _waiting(self) -> tuple[socket.socket, Kept]:
        if self._kept is not None and self._control is not None:
            if self._kept.poll() is None:
                return self._control, self._kept
            self._leave()
        ours, theirs = socket.socketpair()
        if sys.platform == "linux":
            ours.setsockopt(socket.SOL_SOCKET, socket.SO_PASSCRED, 1)
        # Streams of the kinds that a case has: the interpreter remembers what they are.
        out_in, out = os.pipe()
        with tempfile.TemporaryFile() as nothing, theirs, os.fdopen(out, "wb"):
            try:
                self._kept = KEEPER.start(
                    Wish(
                        command=[*probe_of(self._interpreter), "host", 0],
                        folder=str(self.room.folder),
                        environment=environment(self.room.temporary),
                        streams=(nothing.fileno(), out, out),
                        passed=(theirs.fileno(),),
                        fence=self.room.fence,
                        resident=self.room.terms.resident,
                        room=str(self.room.folder),
                        forks=True,
                    )
                )
            except BaseException:
                ours.close()
                raise
            finally:
                os.close(out_in)  # what a host says is for nobody
        self._control = ours
        return ours, self._kept

    def _leave(self) -> None:
        """End the waiting interpreter."""
        if self._control is not None:
            self._control.close()
        if self._kept is not None:
            self._kept.end()
        self._control = self._kept = None

    def remove(self) -> None:
        """End the host, and take its room away."""
        self._leave()
        self.room.remove()


class Forked:
    """A fork of a host; that it has ended, the host says."""

    def __init__(
        self, pid: int, output: int, errors: int, control: socket.socket, host: Kept
    ) -> None:
        self.pid, self.output, self.errors = pid, output, errors
        self.returncode: int | None = None
        self._control, self._host = control, host

    @property
    def bound(self) -> str:
        """The limit on its family that was struck: the host goes with it then."""
        return self._host.bound

    def poll(self) -> int | None:
        """The exit status, negative for a signal; None while it runs."""
        self.wait(0)
        return self.returncode

    def wait(self, seconds: float) -> None:
        """Wait until it has ended, so long at most."""
        if self.returncode is not None:
            return
        ready, _, _ = select.select([self._control], [], [], seconds)
        if ready:
            status, strays = _number(self._control), _number(self._control)
            killed = -signal.SIGKILL
            self.returncode = killed if status is None else os.waitstatus_to_exitcode(status)
            if strays:
                _end_family(self._host.pid)
            elif status is None:
                self._host.wait(5.0)  # for why it has gone

    def end(self) -> None:
        """End it and whatever it started."""
        if self.returncode is None:
            for process in [self.pid, *family(self.pid)]:
                with contextlib.suppress(OSError):
                    os.kill(process, signal.SIGKILL)
        with contextlib.suppress(OSError):
            os.killpg(self.pid, signal.SIGKILL)
        self.wait(5)


_ROUNDS = 200  # looks at a family that goes on starting others while it is ended


def _end_family(process: int) -> None:
    """End all below a host: nothing of its own is there between two cases."""
    for _ in range(_ROUNDS):
        alive = family(process)
        if not alive:
            return
        for each in alive:
            with contextlib.suppress(OSError):
                os.kill(each, signal.SIGKILL)


def _begun(control: socket.socket) -> int | None:
    """The process that says it has begun, as it is known here; None where the host has gone."""
    data, extra, _, _ = control.recvmsg(WORD, socket.CMSG_SPACE(64))
    if not data:
        return None
    while len(data) < WORD:
        piece = control.recv(WORD - len(data))
        if not piece:
            return None
        data += piece
    return sender(extra) or int.from_bytes(data, "big")


def _number(control: socket.socket) -> int | None:
    """One number from the host; None where it has gone."""
    data = b""
    while len(data) < WORD:
        try:
            piece = control.recv(WORD - len(data))
        except OSError:
            return None
        if not piece:
            return None
        data += piece
    return int.from_bytes(data, "big")
