"""A process that only begins cases: each runs in a fork of it, so that none pays for the start.

The host itself never runs a line of the learner's program, and a fork shares nothing with its
sisters: what one case changes, no other sees.

Protocol, on one socket: the tool sends a byte with five descriptors (request, standard input,
output, errors, wire); the byte is ``n`` where the host was begun for this very case. The fork
answers with its process id, so that the kernel can tell the tool who it is, and when it has ended,
the host with its wait status and with 1 where it has left processes behind, else 0; each as eight
bytes. The C module is used and not ``socket``, so that a learner's own ``socket.py`` finds its name
free.
"""

from __future__ import annotations

import _socket
import atexit
import fcntl
import gc
import io
import os
import resource
import sys

TYPE_CHECKING = False  # importing typing would cost every run some milliseconds
if TYPE_CHECKING:
    from typing import Any

WORD = 8  # bytes of a number on the socket
COUNT = 5  # descriptors that come with a case
NEW = b"n"  # the host was begun for this case
_INT = 4


def serve(control: int, take: Any) -> Any:
    """Begin cases until the tool goes away.

    ``take(request, wire)`` is given two descriptors, reads the request and makes ready what can
    be made ready without running the program: every page of memory that a fork need not write to
    is time saved. Returns in each fork what was taken; in the host, at its end, None. It ends as
    well where something was installed meanwhile: what an interpreter reads as it starts, a new one
    has to read. One that was begun for the case at hand has just done so, however often a folder
    changes that ``PYTHONPATH`` names.
    """
    socket = _socket.socket(fileno=control)
    places = list(sys.path)  # as it began: a program's own folder comes to it
    changed = _changed(places)
    gc.collect()
    gc.freeze()  # what is loaded is never collected: forks need not copy its memory to look at it
    while True:
        word, given = _receive(socket)
        if not given or (word != NEW and _changed(places) != changed):
            return None
        given[-1] = _out_of_the_way(given[-1])
        taken = take(given[0], given[-1])
        child = os.fork()
        if child == 0:
            _answer(socket, os.getpid())
            socket.close()
            os.close(given[0])  # the request has been read
            _become_a_case(given[1:])
            return taken
        for descriptor in given:
            os.close(descriptor)
        _answer(socket, _ended(child))
        _answer(socket, int(_others_are_left()))


def _changed(folders: list[str]) -> list[int]:
    """When each of these folders was changed last; 0 for one that is not there."""
    found = []
    for folder in folders:
        try:
            found.append(os.stat(folder).st_mtime_ns)
        except OSError:
            found.append(0)  # most interpreters name an archive that nobody has
    return found


def _ended(child: int) -> int:
    """Wait for a fork; returns its wait status. Orphans of cases before it may end meanwhile."""
    while True:
        ended, status = os.waitpid(-1, 0)
        if ended == child:
            return status


def _others_are_left() -> bool:
    """Whether a case has left processes: orphans come to the host, where the system lets them."""
    while True:
        try:
            if os.waitpid(-1, os.WNOHANG)[0] == 0:
                return True
        except ChildProcessError:
            return False


def _receive(socket: object) -> tuple[bytes, list[int]]:
    """What the tool says, and its descriptors; none of them where it has gone."""
    data, extra, _, _ = socket.recvmsg(1, _socket.CMSG_SPACE(COUNT * _INT))  # type: ignore[attr-defined]
    if not data or not extra:
        return data, []
    numbers = extra[0][2]
    return data, [
        int.from_bytes(numbers[at : at + _INT], sys.byteorder)
        for at in range(0, COUNT * _INT, _INT)
    ]


_PLACES = 40  # below the most that may be open; the keeper's own are above


def _out_of_the_way(descriptor: int) -> int:
    """The wire, far above the numbers that a program's own files get."""
    most = resource.getrlimit(resource.RLIMIT_NOFILE)[0]
    try:
        moved = fcntl.fcntl(descriptor, fcntl.F_DUPFD_CLOEXEC, max(min(most, 1024) - _PLACES, 3))
    except OSError:
        return descriptor
    os.close(descriptor)
    return moved


def _answer(socket: object, number: int) -> None:
    socket.sendall(number.to_bytes(WORD, "big"))  # type: ignore[attr-defined]


def _become_a_case(given: list[int]) -> None:
    """Take the case's own streams and a process group of its own."""
    *streams, _ = given
    os.setsid()
    for descriptor, place in zip(streams, (0, 1, 2)):
        os.dup2(descriptor, place)
        os.close(descriptor)


def leave(status: int, known: frozenset[str]) -> None:
    """End a fork: all that the interpreter does at its end for the program, nothing for itself.

    Taking the whole interpreter down takes some five times as long as a small case, since it
    writes to every page that was shared with the host. What a program can notice is done: its
    functions for the end are called, its objects given up, its files flushed. ``known`` are the
    modules that were there before it.
    """
    try:
        atexit._run_exitfuncs()
        for name in ["__main__", *(n for n in sys.modules if n not in known)]:
            sys.modules.pop(name, None)
        _flush_files()
        gc.collect()
    except BaseException:
        sys.excepthook(*sys.exc_info())
    for stream in (sys.stdout, sys.stderr):
        try:
            stream.flush()
        except (AttributeError, OSError, ValueError):
            pass  # closed, taken away, or nobody reads it
    os._exit(status & 0xFF)


def _flush_files() -> None:
    """Write out what open files still hold: given up all at once, the lowest layer may go first."""
    for thing in gc.get_objects():
        if type(thing) in (io.TextIOWrapper, io.BufferedWriter, io.BufferedRandom):
            try:
                thing.flush()
            except (OSError, ValueError):
                pass  # closed, or its disk is full: as at the interpreter's own end
