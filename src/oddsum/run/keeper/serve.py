"""The keeper: waits for what is to be started, and forks a warden for it.

A request is eight digits, the length of what follows, with the descriptors; then, packed:
``command`` (texts, and numbers that stand for a descriptor of those from the fifth on), ``folder``,
``environment``, ``fence`` (None, or ``folders`` and ``allow``), ``forks`` (whether it begins cases
by forking), ``cpu`` (seconds), ``resident`` (bytes that all its processes may use; 0 for no limit),
``room`` (the folder whose size is bounded, or blank). Descriptors: the line to the tool, standard
input, output, errors, and whatever the command is given.
"""

from __future__ import annotations

import _signal as signal  # type: ignore[import-not-found]
import _socket
import marshal
import os
import sys

from oddsum.run.keeper.warden import Order, guard

TYPE_CHECKING = False  # typing takes longer to load than all of this
if TYPE_CHECKING:
    from typing import Any

HEAD = 8  # digits of the length
MOST = 16  # descriptors that may come with a request
_INT = 4


def serve(control: int, rooms: str) -> None:
    """Serve until the tool goes away; then wait for the wardens and take its rooms away."""
    # Wardens are not waited for one by one: what they have to say they tell the tool.
    signal.signal(signal.SIGCHLD, signal.SIG_IGN)
    line = _socket.socket(fileno=control)
    while True:
        request, given = _receive(line)
        if request is None:
            break
        for descriptor in given:
            os.set_inheritable(descriptor, False)
        order = Order(request, given)
        if order.fork() == 0:
            line.close()
            os._exit(guard(order))
        for descriptor in given:
            os.close(descriptor)
    try:
        while True:
            os.wait()
    except ChildProcessError:
        pass
    from pathlib import Path  # at the end alone: a start need not wait for these

    from oddsum.run.restore import remove_tree

    remove_tree(Path(rooms))


def _receive(line: Any) -> tuple[Any, list[int]]:
    try:
        data, extra, _, _ = line.recvmsg(HEAD, _socket.CMSG_SPACE(MOST * _INT))
        if not data:
            return None, []
        given = []
        for level, kind, numbers in extra:
            if level == _socket.SOL_SOCKET and kind == _socket.SCM_RIGHTS:
                given += [
                    int.from_bytes(numbers[at : at + _INT], sys.byteorder)
                    for at in range(0, len(numbers) - _INT + 1, _INT)
                ]
        data += _exactly(line, HEAD - len(data))
        return marshal.loads(_exactly(line, int(data))), given
    except (OSError, EOFError):
        return None, []


def _exactly(line: Any, count: int) -> bytes:
    data = b""
    while len(data) < count:
        piece = line.recv(count - len(data))
        if not piece:
            raise EOFError
        data += piece
    return data
