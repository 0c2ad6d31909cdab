"""The warden of one start: puts the fence on, starts the program, and ends all that is left of it.

Fenced in, the warden is the first process of its own namespace, and all end with it. Else it is
the one that orphans come to (a "child subreaper"), and it looks for them. On its line it tells the
tool, a line of json each: ``{"pid"}`` (from the program's process itself, so that the kernel adds
how the tool knows it), ``{"begun": 1}`` or ``{"failed": errno}``, and at the end ``{"status",
"strays", "bound"}``: the wait status, how many processes were left, and the bound that was struck.
A byte from the tool, or the end of the line, ends the program.
"""

from __future__ import annotations

import _signal as signal  # type: ignore[import-not-found]
import _socket
import fcntl
import os
import resource
import select
import sys
import time

from oddsum.model.limits import MOST_OPEN
from oddsum.run.fence import bounds, kernel, namespaces
from oddsum.run.fence.layers import Fence, put_on
from oddsum.run.keeper.family import family

TYPE_CHECKING = False  # typing takes longer to load than all of this
if TYPE_CHECKING:
    from typing import Any

_LINUX = sys.platform == "linux"
_FIRST_LOOK, _LOOK = 0.3, 0.1  # seconds until the bounds are looked at, and between two looks
_HIGH = 16  # places kept for our descriptors at the top of those that may be open
_RESET = ("SIGPIPE", "SIGXFSZ", "SIGXFZ", "SIGCHLD", "SIGINT", "SIGTERM", "SIGHUP", "SIGQUIT")


class Order:
    """What is to be started."""

    def __init__(self, request: dict[str, Any], given: list[int]) -> None:
        self.request = request
        self.line, self.streams, self.passed = given[0], given[1:4], given[4:]
        self.separate = False
        fence = request["fence"]
        self.fence = None
        if fence is not None:
            self.fence = Fence(tuple(fence["folders"]), tuple(fence["allow"]), request["forks"])

    def fork(self) -> int:
        """Fork the warden, into namespaces of its own where that is asked for and can be."""
        if self.fence is not None and kernel.known():
            self.separate = True
            try:
                return namespaces.fork(self.fence.files, self.fence.network)
            except OSError:
                self.separate = False
        return os.fork()


_ME = (os.getuid(), os.getgid())


def guard(order: Order) -> int:
    """Be the warden of an order; returns its exit status."""
    line = _socket.socket(fileno=order.line)
    try:
        _settle(order)
        program = _begin(order, line)
    except OSError as error:
        _tell(line, failed=error.errno or -1)
        return 1
    if program < 0:
        _tell(line, failed=-program)
        return 1
    for descriptor in (*order.streams, *order.passed):
        os.close(descriptor)
    _tell(line, begun=True)
    status, bound = _watch(order, line, program)
    strays = _end_all(order)
    _tell(line, status=status, strays=strays, bound=bound)
    return 0


def _settle(order: Order) -> None:
    signal.signal(signal.SIGCHLD, signal.SIG_DFL)
    if not order.separate:
        if _LINUX:
            kernel.control(kernel.SUBREAPER, 1)
        return
    namespaces.settle(*_ME)
    if order.fence is not None and not order.fence.files:
        namespaces.read_only(order.fence.folders)


def _begin(order: Order, line: Any) -> int:
    """Start the program; returns its process, or the negative number of what went wrong."""
    failed, fails = os.pipe()
    program = os.fork()
    if program == 0:
        try:
            os.close(failed)
            _become(order, line)
        except OSError as error:
            os.write(fails, str(error.errno or 1).encode())
        except BaseException:
            os.write(fails, b"1")
        os._exit(127)
    os.close(fails)
    with os.fdopen(failed, "rb") as said:
        number = said.read()
    if number:
        os.waitpid(program, 0)
        return -int(number)
    return program


def _become(order: Order, line: Any) -> None:
    """In the program's process: take its place, put the fence on, and start it."""
    request = order.request
    os.setsid()
    for name in _RESET:
        if hasattr(signal, name):
            signal.signal(getattr(signal, name), signal.SIG_DFL)
    signal.pthread_sigmask(signal.SIG_SETMASK, [])
    _tell(line, pid=os.getpid())
    for descriptor, place in zip(order.streams, range(3), strict=True):
        os.dup2(descriptor, place)
    if os.isatty(0):
        _own_the_terminal()
    bounds.restrict(request["cpu"])
    numbers = [_out_of_the_way(d, n) for n, d in enumerate(order.passed)]
    command = [c if isinstance(c, str) else str(numbers[c]) for c in request["command"]]
    os.chdir(request["folder"])
    if _LINUX:
        kernel.control(kernel.PDEATHSIG, signal.SIGKILL)
        if request["forks"]:  # what a case leaves behind comes to the process that began the case
            kernel.control(kernel.SUBREAPER, 1)
        if order.fence is not None:
            put_on(order.fence, order.separate)
    os.execvpe(command[0], command, request["environment"])


def _own_the_terminal() -> None:
    """Ctrl+C on the terminal of a live run is for the program on it."""
    import termios  # few runs have one

    try:
        fcntl.ioctl(0, termios.TIOCSCTTY, 0)
    except OSError:
        pass  # it cannot be: then it comes as a letter


def _out_of_the_way(descriptor: int, place: int) -> int:
    """A descriptor of ours at the top of those that there can be: a program's own count from 3."""
    top = min(resource.getrlimit(resource.RLIMIT_NOFILE)[0], MOST_OPEN)
    moved = fcntl.fcntl(descriptor, fcntl.F_DUPFD, max(top - _HIGH + place, 3))
    os.set_inheritable(moved, True)
    return moved


def _watch(order: Order, line: Any, program: int) -> tuple[int, str]:
    """Wait for the end of the program, or bring it about; its wait status, and the bound struck."""
    woken, wakes = os.pipe()
    os.set_blocking(woken, False)
    os.set_blocking(wakes, False)
    signal.signal(signal.SIGCHLD, _nothing)
    signal.set_wakeup_fd(wakes, warn_on_full_buffer=False)
    struck, heard = "", [line, woken]
    look_at = time.monotonic() + _FIRST_LOOK
    while True:
        status = _reap(program)
        if status is not None:
            return status, struck
        ready = select.select(heard, [], [], max(0.0, look_at - time.monotonic()))[0]
        if woken in ready:
            os.read(woken, 4096)
        if line in ready:  # it asks for the end, or it is gone
            heard = [woken]
            _kill_all(order)
        if time.monotonic() >= look_at:
            look_at = time.monotonic() + _LOOK
            struck = struck or _struck(order)
            if struck:
                _kill_all(order)


def _struck(order: Order) -> str:
    alive = family(own())
    return bounds.struck(alive, order.request["room"], order.request["resident"])


def own() -> int:
    """This process as ``/proc`` names it: inside of a namespace that is another number."""
    try:
        return int(os.readlink("/proc/self"))
    except (OSError, ValueError):
        return os.getpid()


def _reap(program: int) -> int | None:
    """Take what has ended off the system's list; the program's wait status once it is over."""
    found = None
    while True:
        try:
            ended, status = os.waitpid(-1, os.WNOHANG)
        except ChildProcessError:
            return found
        if not ended:
            return found
        if ended == program:
            found = status


_PATIENCE = 2.0  # seconds that killed processes may take to be gone


def _end_all(order: Order) -> int:
    """End whatever is left of the run; returns how many processes that were."""
    strays, until = 0, time.monotonic() + _PATIENCE
    while time.monotonic() < until:
        strays += _kill_all(order)
        try:
            ended, _ = os.waitpid(-1, os.WNOHANG)
        except ChildProcessError:
            return strays
        if not ended:
            time.sleep(0.002)
    return strays


def _kill_all(order: Order) -> int:
    """Kill every process below this one; returns how many, as far as that is known."""
    if order.separate and os.getpid() == 1:  # of its own view: -1 is everybody in it but itself
        alive = family(own())
        _kill(-1)
        return len(alive)
    alive = family(own())
    for process in alive:
        _kill(process)
    return len(alive)


def _kill(process: int) -> None:
    try:
        os.kill(process, signal.SIGKILL)
    except OSError:
        pass  # it has gone


def _nothing(*_: object) -> None:
    """Being woken is all that is wanted."""


def _tell(line: Any, **fields: int | str) -> None:
    """A line of json to the tool, numbers and words alone; it may be gone."""
    told = ", ".join(f'"{k}": "{v}"' if isinstance(v, str) else f'"{k}": {v:d}'
                     for k, v in fields.items())  # fmt: skip
    try:
        line.sendall(b"{%s}\n" % told.encode())
    except OSError:
        pass
