"""How the process of a case begins: as a fresh interpreter, or as a fork of a waiting host."""

from __future__ import annotations

import contextlib
import os
import secrets
import select
import signal
import socket
import subprocess
import tempfile
from collections.abc import Callable, Sequence
from typing import Protocol

from oddsum.languages import language_named
from oddsum.languages.language import Interpreter
from oddsum.model.errors import RunError
from oddsum.run.scratch import Removable
from oddsum.run.wire import WORD

RUN_NAME = "ODDSUM_RUN"  # in the environment of a run and of all that it starts: its token


class Started(Protocol):
    """A process that has begun. ``output`` and ``errors`` are descriptors to read from.

    ``token`` stands in the environment of all it starts, and of nothing else but ``spared``.
    """

    pid: int
    output: int
    errors: int
    token: str
    spared: frozenset[int]

    @property
    def returncode(self) -> int | None:
        """The exit status, negative for a signal; None while it runs."""

    def poll(self) -> int | None:
        """The exit status, negative for a signal; None while it runs."""

    def wait(self, seconds: float) -> None:
        """Wait until it has ended, so long at most."""


# request, standard input and wire as descriptors, and the folder it begins in
Starter = Callable[[int, int, int, str], Started]


def environment(token: str) -> dict[str, str]:
    """The environment of a run: the learner's, with what would make runs differ fixed."""
    kept = {k: v for k, v in os.environ.items() if not k.startswith("PYTHON") or k == "PYTHONPATH"}
    return {
        **kept,
        RUN_NAME: token,
        "PYTHONHASHSEED": "0",
        "PYTHONUTF8": "1",
        "PYTHONIOENCODING": "utf-8:surrogateescape",
        "PYTHONDONTWRITEBYTECODE": "1",
    }


class Child:
    """A process of ours, started the ordinary way."""

    def __init__(
        self,
        command: Sequence[str],
        folder: str,
        given: int,
        passed: tuple[int, ...],
        extra: dict[str, str] | None = None,
    ) -> None:
        self.token, self.spared = secrets.token_hex(8), frozenset[int]()
        try:
            self._process = subprocess.Popen(
                command,
                stdin=given,
                stdout=subprocess.PIPE,
                stderr=subprocess.PIPE,
                pass_fds=passed,
                cwd=folder,
                env={**environment(self.token), **(extra or {})},
                start_new_session=True,
            )
        except OSError as error:
            raise RunError(f"{command[0]} cannot be started: {error.strerror}.") from error
        assert self._process.stdout is not None and self._process.stderr is not None
        self.pid = self._process.pid
        with self._process.stdout as out, self._process.stderr as err:
            self.output, self.errors = os.dup(out.fileno()), os.dup(err.fileno())

    @property
    def returncode(self) -> int | None:
        """The exit status, None while it runs."""
        return self._process.returncode

    def poll(self) -> int | None:
        """The exit status, negative for a signal; None while it runs."""
        return self._process.poll()

    def wait(self, seconds: float) -> None:
        """Wait until it has ended, so long at most."""
        with contextlib.suppress(subprocess.TimeoutExpired):
            self._process.wait(seconds)


def probe_of(interpreter: Interpreter) -> list[str]:
    """The command that starts its language's probe, without the descriptors it is given."""
    return [interpreter.path, language_named(interpreter.language).running.probe().script]


def fresh(interpreter: Interpreter) -> Starter:
    """Begin each case in an interpreter of its own."""
    probe = probe_of(interpreter)

    def start(asked: int, given: int, wire: int, folder: str) -> Started:
        command = [*probe, str(asked), str(wire)]
        return Child(command, folder, given, (asked, wire))

    return start


class Fresh(Removable):
    """Begins each case in an interpreter of its own: nothing waits, so there is nothing to end."""

    def __init__(self, interpreter: Interpreter) -> None:
        self.start = fresh(interpreter)

    def remove(self) -> None:
        """End nothing."""


def beginning(interpreter: Interpreter) -> Host | Fresh:
    """What begins many cases, one after the other; a context manager whose ``start`` begins one."""
    forks = language_named(interpreter.language).running.probe().forks
    return Host(interpreter) if forks else Fresh(interpreter)


class Host(Removable):
    """An interpreter that waits with everything loaded and forks for each case.

    One case at a time. Where the host has gone (a program can end its parent), the next case gets
    a new one.
    """

    def __init__(self, interpreter: Interpreter) -> None:
        self._interpreter = interpreter
        self._process: subprocess.Popen[bytes] | None = None
        self._control: socket.socket | None = None
        self._token = ""

    def start(self, asked: int, given: int, wire: int, folder: str) -> Started:
        """Begin a case; a ``Starter``."""
        for _ in range(2):
            control, process = self._waiting()
            out_in, out = os.pipe()
            err_in, err = os.pipe()
            try:
                socket.send_fds(control, [b"c"], [asked, given, out, err, wire])
                pid = _number(control)
            except OSError:
                pid = None
            finally:
                os.close(out)
                os.close(err)
            if pid is not None:
                return Forked(pid, out_in, err_in, control, self._token, process.pid)
            os.close(out_in)
            os.close(err_in)
            self.remove()
        raise RunError(f"{self._interpreter.path} ends before a case can begin.")

    def _waiting(self) -> tuple[socket.socket, subprocess.Popen[bytes]]:
        if self._process is not None and self._control is not None:
            if self._process.poll() is None:
                return self._control, self._process
            self.remove()
        ours, theirs = socket.socketpair()
        self._token = secrets.token_hex(8)
        with tempfile.TemporaryFile() as nothing, theirs:
            try:
                # Streams of the kinds that a case has: the interpreter remembers what they are.
                self._process = subprocess.Popen(
                    [*probe_of(self._interpreter), "host", str(theirs.fileno())],
                    stdin=nothing,
                    stdout=subprocess.PIPE,
                    stderr=subprocess.PIPE,
                    pass_fds=(theirs.fileno(),),
                    env=environment(self._token),
                    start_new_session=True,
                )
            except OSError as error:
                ours.close()
                raise RunError(
                    f"{self._interpreter.path} cannot be started: {error.strerror}."
                ) from error
        self._control = ours
        return ours, self._process

    def remove(self) -> None:
        """End the host."""
        if self._control is not None:
            self._control.close()
        if self._process is not None:
            with contextlib.suppress(OSError):
                os.killpg(self._process.pid, signal.SIGKILL)
            self._process.wait()
            for pipe in (self._process.stdout, self._process.stderr):
                if pipe is not None:
                    pipe.close()
        self._control = self._process = None


class Forked:
    """A fork of a host; that it has ended, the host says."""

    def __init__(
        self, pid: int, output: int, errors: int, control: socket.socket, token: str, host: int
    ) -> None:
        self.pid, self.output, self.errors = pid, output, errors
        self.token, self.spared = token, frozenset({host})
        self.returncode: int | None = None
        self._control = control

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
            status = _number(self._control)
            killed = -signal.SIGKILL
            self.returncode = killed if status is None else os.waitstatus_to_exitcode(status)


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
