"""The tool's side of the keeper: starts processes through it, and hears how they ended."""

from __future__ import annotations

import array
import atexit
import contextlib
import json
import marshal
import os
import select
import signal
import socket
import subprocess
import sys
import threading
import time
from collections.abc import Sequence
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

import oddsum
from oddsum.model.errors import RunError
from oddsum.run.fence.layers import Fence
from oddsum.run.rooms import leave_rooms, rooms_folder

HEAD = 8
_PATIENCE = 10.0  # seconds a start may take
_LEAVE = 3.0  # seconds that a killed program may take to be gone
_CREDENTIALS = 12  # bytes of the kernel's word on who sent something: process, user, group


@dataclass(frozen=True)
class Wish:
    """What is to be started: texts of the command, and places in ``passed`` as numbers.

    ``folder``: where it begins. ``cpu``: seconds of processor time, ``resident``: bytes that all
    its processes may really use; 0 for no limit. ``room``: the folder whose size is bounded.
    ``forks``: whether it begins cases by forking.
    """

    command: Sequence[str | int]
    folder: str
    environment: dict[str, str]
    streams: tuple[int, int, int]
    passed: tuple[int, ...] = ()
    fence: Fence | None = None
    cpu: int = 0
    resident: int = 0
    room: str = ""
    forks: bool = False


@dataclass
class Kept:
    """A process that was started through the keeper, and the warden's line to us."""

    line: socket.socket
    pid: int
    returncode: int | None = None
    bound: str = ""  # that was struck: "processes", "memory" or "written"
    _rest: bytes = field(default=b"", repr=False)

    def poll(self) -> int | None:
        """The exit status, negative for a signal; None while it runs."""
        self.wait(0)
        return self.returncode

    def wait(self, seconds: float) -> None:
        """Wait until it and all it started has ended, so long at most."""
        until = time.monotonic() + seconds
        while self.returncode is None:
            message = _message(self, max(0.0, until - time.monotonic()))
            if message is None:
                return
            if "status" in message:
                self.returncode = os.waitstatus_to_exitcode(message["status"])
                self.bound = message.get("bound", "")
            elif "gone" in message:
                self.returncode = -signal.SIGKILL

    def end(self) -> None:
        """End it and all it started, and wait until that has happened."""
        if self.returncode is None:
            with contextlib.suppress(OSError):
                self.line.send(b"k")
            self.wait(_LEAVE)
        if self.returncode is None or (self.returncode == -signal.SIGKILL and not self.bound):
            with contextlib.suppress(OSError):
                os.killpg(self.pid, signal.SIGKILL)  # its warden may have been killed
        self.line.close()


class Keeper:
    """The keeper of this process: begun when it is first needed, and again where it has gone."""

    def __init__(self) -> None:
        self._lock = threading.Lock()
        self._process: subprocess.Popen[bytes] | None = None
        self._line: socket.socket | None = None

    def begin(self) -> None:
        """Let it begin already: the first start need not wait for it."""
        with self._lock:
            self._line_to_it()

    @property
    def at_work(self) -> bool:
        """Whether there is one, and it has not been killed."""
        return self._process is not None and self._process.poll() is None

    def start(self, wish: Wish) -> Kept:
        """Start a process; raises RunError where that cannot be done."""
        ours, theirs = socket.socketpair()
        with theirs:
            if sys.platform == "linux":
                ours.setsockopt(socket.SOL_SOCKET, socket.SO_PASSCRED, 1)
            self._ask(wish, theirs)
        kept = Kept(ours, 0)
        until = time.monotonic() + _PATIENCE
        while True:
            message = _message(kept, max(0.0, until - time.monotonic()))
            if message is not None and "begun" in message and kept.pid:
                return kept
            if message is not None and "pid" in message:
                kept.pid = message["pid"]
            elif message is None or "failed" in message or "gone" in message:
                kept.line.close()
                raise _cannot(wish, message or {})

    def _ask(self, wish: Wish, line: socket.socket) -> None:
        data = marshal.dumps(_request(wish))
        descriptors = array.array("i", [line.fileno(), *wish.streams, *wish.passed])
        for _ in range(2):
            with self._lock, contextlib.suppress(OSError):
                keeper = self._line_to_it()
                rights = [(socket.SOL_SOCKET, socket.SCM_RIGHTS, descriptors)]
                keeper.sendmsg([b"%0*d" % (HEAD, len(data))], rights)
                keeper.sendall(data)
                return
            self.end()
        raise RunError("The process that starts programs cannot be reached.")

    def _line_to_it(self) -> socket.socket:
        if self._line is not None and self.at_work:
            return self._line
        ours, theirs = socket.socketpair()
        with theirs:
            self._process = subprocess.Popen(
                [sys.executable, "-I", "-S", "-c", _BEGIN, _ROOT, str(theirs.fileno()),
                 str(rooms_folder())],
                stdin=subprocess.DEVNULL, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL,
                pass_fds=(theirs.fileno(),), start_new_session=True,
            )  # fmt: skip
        self._line = ours
        return ours

    def end(self) -> None:
        """End it; what it has started ends with its own line to us."""
        with self._lock:
            if self._line is not None:
                self._line.close()
            self._line = self._process = None


_ROOT = str(Path(oddsum.__file__).parents[1])
_BEGIN = (
    "import sys; sys.path.append(sys.argv[1]); "
    "from oddsum.run.keeper.serve import serve; serve(int(sys.argv[2]), sys.argv[3])"
)
KEEPER = Keeper()


@atexit.register
def _leave() -> None:
    KEEPER.end()
    leave_rooms()


def _request(wish: Wish) -> dict[str, Any]:
    fence = wish.fence
    return {
        "command": list(wish.command),
        "folder": wish.folder,
        "environment": wish.environment,
        "fence": fence and {"folders": list(fence.folders), "allow": list(fence.allow)},
        "forks": wish.forks,
        "cpu": wish.cpu,
        "resident": wish.resident,
        "room": wish.room,
    }


def _cannot(wish: Wish, message: dict[str, Any]) -> RunError:
    number = message.get("failed", 0)
    why = os.strerror(number) if number > 0 else "the process that starts it has ended"
    return RunError(f"{wish.command[0]} cannot be started: {why}.")


def _message(kept: Kept, seconds: float) -> dict[str, Any] | None:
    """The next message of a warden; None when there is none in time, "gone" where it has ended."""
    until = time.monotonic() + seconds
    while b"\n" not in kept._rest:
        left = max(0.0, until - time.monotonic())
        try:
            if not _ready(kept.line, left):
                return None
            data, extra, _, _ = kept.line.recvmsg(4096, socket.CMSG_SPACE(_CREDENTIALS))
        except (OSError, ValueError):
            return {"gone": True}
        if not data:
            return {"gone": True}
        kept._rest += data
        if not kept.pid:
            kept.pid = sender(extra)
    line, _, kept._rest = kept._rest.partition(b"\n")
    message: dict[str, Any] = json.loads(line)
    if "pid" in message and kept.pid:
        message["pid"] = kept.pid  # as we know it, which may be another number than its own
    return message


def _ready(line: socket.socket, seconds: float) -> bool:
    """Whether there is something to read, or the end; ``select`` knows no number above 1,023."""
    waiting = select.poll()
    waiting.register(line, select.POLLIN)
    return bool(waiting.poll(seconds * 1000))


def sender(extra: list[tuple[int, int, bytes]]) -> int:
    """The process that sent something, as the kernel says; 0 where it does not."""
    for level, kind, data in extra:
        if level == socket.SOL_SOCKET and kind == getattr(socket, "SCM_CREDENTIALS", -1):
            return int.from_bytes(data[:4], sys.byteorder)
    return 0
