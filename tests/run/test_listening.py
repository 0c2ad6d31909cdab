"""What a process wrote is read to its end, though it is over long before the tool has come so far."""

from __future__ import annotations

import contextlib
import json
import os
import socket
import threading
import time

from oddsum.run.messages import Hearing
from oddsum.run.process import Limits, Listener, open_wire

MESSAGES = 2_100


class Over:
    """A process that has ended, with all it wrote still in its pipes."""

    returncode, bound, pid = 0, "", os.getpid()

    def __init__(self, output: bytes) -> None:
        self.output, given = os.pipe()
        os.write(given, output)
        os.close(given)
        self.errors, held = os.pipe()
        self.held = held  # by a child that lives on

    def poll(self):
        return 0

    def wait(self, _seconds):
        return 0

    def end(self):
        pass


def test_all_that_was_written_is_read_by_a_tool_that_lags_behind():
    hearing = Hearing()
    wire_in, wire_out = open_wire()
    for end, size in ((wire_in, socket.SO_RCVBUF), (wire_out, socket.SO_SNDBUF)):
        with socket.socket(fileno=os.dup(end)) as one:  # small on some systems
            one.setsockopt(socket.SOL_SOCKET, size, 1 << 18)
    line = hearing.nonce + json.dumps({"k": "read", "text": "Skerry"}) + "\n"
    written = line.encode() * MESSAGES
    os.set_blocking(wire_out, False)
    assert os.write(wire_out, written) == len(written) > 2 * (1 << 16)  # three reads, and in one go
    os.close(wire_out)

    def lagging(_message):
        time.sleep(0.0005)

    limits = Limits(cpu=2, wall=10, output=100_000)
    over = Over(b"x" * 60_000)
    heard = Listener(over, wire_in, hearing, "", limits, None, lagging).listen()  # type: ignore[arg-type]
    os.close(over.held)
    assert len(heard.messages) == MESSAGES and len(heard.output) == 60_000


def test_a_child_that_goes_on_writing_is_not_waited_for():
    wire_in, wire_out = open_wire()
    over = Over(b"x")

    def go_on():
        with contextlib.suppress(BrokenPipeError):
            while True:
                os.write(over.held, b"still here\n")

    writing = threading.Thread(target=go_on)
    writing.start()
    limits = Limits(cpu=2, wall=10, output=100_000)
    Listener(over, wire_in, Hearing(), "", limits, None, None).listen()  # type: ignore[arg-type]
    writing.join()
    os.close(over.held)
    os.close(wire_out)
