"""An interpreter that waits with everything loaded, and forks for each case; the tool's side."""

from __future__ import annotations

import contextlib
import os
import select
import signal
import socket
import sys
import tempfile

from oddsum.languages.language import Interpreter
from oddsum.model.errors import RunError
from oddsum.run.begin import Begins, Started, environment, probe_of
from oddsum.run.keeper.client import KEEPER, Kept, Wish, sender
from oddsum.run.keeper.family import family
from oddsum.run.rooms import Room
from oddsum.run.terms import Terms
from oddsum.run.wire import WORD


class Host(Begins):
    """An interpreter that waits with everything loaded and forks for each case.

    One case at a time. Where the host has gone (a program can end its parent), the next case gets
    a new one.
    """

    def __init__(self, interpreter: Interpreter, terms: Terms) -> None:
        self.room, self.interpreter = Room(terms), interpreter
        self._kept: Kept | None = None
        self._control: socket.socket | None = None
        self._last: Forked | None = None
        self.begun_in: dict[str, str] = {}  # the environment of ours that it began in

    def start(self, asked: int, given: int, wire: int, room: Room) -> Started:
        """Begin a case in the host's room; a ``Starter``."""
        for _ in range(2):
            begun_before = self._kept
            control, kept = self._waiting()
            word = _WAITED if kept is begun_before else _NEW
            out_in, out = os.pipe()
            err_in, err = os.pipe()
            try:
                socket.send_fds(control, [word], [asked, given, out, err, wire])
                pid = _begun(control)
            except OSError:
                pid = None
            finally:
                os.close(out)
                os.close(err)
            if pid is not None:
                self._last = Forked(pid, out_in, err_in, control, kept)
                return self._last
            os.close(out_in)
            os.close(err_in)
            self._leave()
        raise RunError(f"{self.interpreter.path} ends, or stands still, before a case can begin.")

    def warm(self) -> None:
        """Start the interpreter, for the cases to come."""
        self._waiting()

    @property
    def idle(self) -> bool:
        """Whether it waits, with no case under way."""
        waits = self._kept is not None and self._kept.poll() is None
        return waits and (self._last is None or self._last.returncode is not None)

    def _waiting(self) -> tuple[socket.socket, Kept]:
        if self._kept is not None and self._control is not None:
            if self._kept.poll() is None:
                return self._control, self._kept
            self._leave()
        ours, theirs = socket.socketpair()
        self._last, self.begun_in = None, dict(os.environ)
        if sys.platform == "linux":
            ours.setsockopt(socket.SOL_SOCKET, socket.SO_PASSCRED, 1)
        # Streams of the kinds that a case has: the interpreter remembers what they are.
        out_in, out = os.pipe()
        with tempfile.TemporaryFile() as nothing, theirs, os.fdopen(out, "wb"):
            try:
                self._kept = KEEPER.start(
                    Wish(
                        command=[*probe_of(self.interpreter), "host", 0],
                        folder=str(self.room.folder),
                        environment=environment(self.room),
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


# Said with a case: one that waited ends where folders of its path have changed since it began. One
# that was begun for the case has read them just now, and some folders change all the time.
_WAITED, _NEW = b"c", b"n"
_PATIENCE = 20.0  # seconds in which a host begins a case: one that was stopped never would


def _begun(control: socket.socket) -> int | None:
    """The process that says it has begun, as it is known here; None where the host has gone, or
    does nothing."""
    if not select.select([control], [], [], _PATIENCE)[0]:
        return None
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
