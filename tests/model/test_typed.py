"""A type is worked out by one thread, whole, before another holds data against it."""

from __future__ import annotations

import subprocess
import sys
from pathlib import Path

import oddsum

# While the fields of `Pier` are worked out, a second thread comes by with data for a `Harbour`.
MEETING = """
import sys, threading
import msgspec
from oddsum.model import typed

def slowly(kind):
    half_way.set()
    second.join(0.5)
    return kind

class Pier(msgspec.Struct):
    boats: "slowly(int)"

class Harbour(msgspec.Struct):
    pier: Pier
    name: str

def take(read):
    taken.append(read({"pier": {"boats": 3}, "name": "north"}, Harbour))

read = {"ours": typed.convert, "bare": msgspec.convert}[sys.argv[1]]
half_way, taken = threading.Event(), []
first = threading.Thread(target=take, args=(read,))
second = threading.Thread(target=lambda: half_way.wait() and take(read))
second.start()
first.start()
first.join()
second.join()
print(taken[0] == taken[1] == Harbour(Pier(3), "north"), len(taken))
"""


def met(read: str) -> subprocess.CompletedProcess[str]:
    source = str(Path(oddsum.__file__).parent.parent)
    command = [sys.executable, "-c", MEETING, read]
    here = {"PYTHONPATH": source}
    return subprocess.run(command, check=False, capture_output=True, text=True, env=here)


def test_two_threads_that_meet_a_type_for_the_first_time():
    done = met("ours")
    assert (done.returncode, done.stdout, done.stderr) == (0, "True 2\n", "")


def test_the_meeting_is_one_that_kills_where_nobody_sees_to_it():
    """Else the test above would hold nothing."""
    assert met("bare").stdout != "True 2\n"


def test_nobody_else_asks_msgspec_to_read():
    rooms = Path(oddsum.__file__).parent
    readers = ("msgspec.convert(", "msgspec.json.decode(", "msgspec.json.Decoder(")
    found = [
        path.relative_to(rooms).as_posix()
        for path in rooms.rglob("*.py")
        if any(r in path.read_text("utf-8") for r in readers)
    ]
    assert found == ["model/typed.py"]
