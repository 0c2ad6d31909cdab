"""The clock goes on while a machine stands still; a program's time does not."""

from __future__ import annotations

import os
import time
from itertools import chain, repeat

from test_listening import Over

from oddsum.run.messages import Hearing
from oddsum.run.process import Limits, Listener, open_wire
from oddsum.run.waiting import Waiting


def test_of_a_long_time_between_two_looks_half_a_second_counts():
    waiting = Waiting(iter((10.0, 10.1, 10.3, 3610.3, 3610.4)).__next__)
    assert [round(waiting.so_far(), 3) for _ in range(4)] == [0.1, 0.3, 0.8, 0.9]


class HeldUp(Over):
    """A process that goes on for a moment; who asks for it is held up meanwhile."""

    pid = 1 << 30  # nobody's
    pauses = chain((1.2, 0.0), repeat(None))

    def poll(self):
        pause = next(self.pauses)
        time.sleep(pause or 0.0)
        return None if pause is not None else 0


def test_a_run_is_not_endless_because_the_tool_was_held_up():
    wire_in, wire_out = open_wire()
    os.close(wire_out)
    limits, process = Limits(cpu=2, wall=1.0, output=1000), HeldUp(b"24 seats")
    heard = Listener(process, wire_in, Hearing(), "", limits, None, None).listen()  # type: ignore[arg-type]
    os.close(process.held)
    assert (heard.stopped_for, heard.output) == ("", b"24 seats")
