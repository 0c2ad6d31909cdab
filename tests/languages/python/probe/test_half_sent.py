"""What a signal brings about is not written between the parts of a message."""

from __future__ import annotations

import json
import os
import subprocess
import sys
import time

PROBE = """
import sys
from oddsum.languages.python.probe.guards import EndlessWatch
from oddsum.languages.python.probe.wire import Channel

channel = Channel(None, int(sys.argv[1]))
watch = EndlessWatch(channel.aside, lambda name: True)
watch.start(0.01)
while not watch.frames:  # until the time is over, and it is watched where the program is
    sum(range(1000))
channel.send("log", text="x" * 3_000_000)
while True:
    sum(range(1000))
"""


def test_a_report_waits_until_a_message_is_sent():
    ours, theirs = os.pipe()
    with subprocess.Popen([sys.executable, "-c", PROBE, str(theirs)], pass_fds=[theirs]) as probe:
        os.close(theirs)
        with os.fdopen(ours, "rb") as wire:
            first = wire.read(1)
            time.sleep(0.6)  # the pipe is full by now, and the report due
            lines = (first + wire.read()).splitlines()
    assert probe.returncode == 71
    kinds = [json.loads(line)["k"] for line in lines]
    assert kinds == ["log", "looping"]
