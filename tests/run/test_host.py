"""Cases that fork from one host: as apart from each other as fresh interpreters, and as faithful."""

from __future__ import annotations

import pytest

from conftest import OWN
from oddsum.check.plan import check_all
from oddsum.model.case import Case, Plan
from oddsum.run.begin import fresh
from oddsum.run.case import run_case
from oddsum.run.host import Host
from oddsum.run.scratch import Scratch, bundle
from oddsum.run.terms import UNFENCED

AT_THE_END = """
import atexit, sys
class Rope:
    def __init__(self, name): self.name = name
    def __del__(self): print("let go", self.name)
log = open("log.txt", "w")
log.write("left open")
ropes = [Rope("bow")]
ropes[0].itself = ropes[0]
atexit.register(print, "the last ferry has left")
print("moored", len(sys.argv))
"""
PROGRAMS = {
    "end": AT_THE_END,
    "exit": "import sys\nprint('full')\nsys.exit(3)\n",
    "raise": "import atexit\natexit.register(print, 'bye')\nprint(int('three'))\n",
    "streams": "import sys\nprint(sys.stdin.seekable(), sys.stdout.isatty(), sys.stdout.seekable())\n",
    "names": "import socket, json\nprint(socket.WHAT, json.WHAT, __name__, 'gc' in dir())\n",
    "warns": "import warnings\nprint(1 is 1)\n",
    "bytes": "import sys\nsys.stdout.buffer.write(b'\\xff\\n')\nprint(input('deck? '))\n",
    "hash": "print(hash('ferry'), sorted({'a', 'b', 'c'}, key=hash))\nimport random\nprint(random.random())\n",
}


@pytest.mark.parametrize("name", PROGRAMS)
def test_a_fork_does_what_a_fresh_interpreter_does(tmp_path, name):
    path = tmp_path / "ferry.py"
    path.write_text(PROGRAMS[name])
    (tmp_path / "socket.py").write_text("WHAT = 'a socket of our own'\n")
    (tmp_path / "json.py").write_text("WHAT = 'a json of our own'\n")
    case = Case(number=1, name="one", stdin="7\n", writes={"log.txt": ""})
    plan = Plan(program=path, cases=(case,))
    runs = []
    with Host(OWN, UNFENCED) as host, Scratch(bundle(plan), host.room) as scratch:
        for start in (fresh(OWN), host.start, host.start):
            run = run_case(plan, case, scratch, start)
            error = run.error and (run.error.type, run.error.line)
            runs.append(
                (run.ending, run.exit_status, run.output, run.errors, run.asked, run.written, error)
            )
    assert runs[1] == runs[0]
    assert runs[2] == runs[0]


def test_what_one_case_changes_no_other_sees(tmp_path):
    path = tmp_path / "ferry.py"
    path.write_text(
        "import math, os, builtins\n"
        "waiting = []\n"
        "def load(car):\n"
        "    waiting.append(car)\n"
        "    math.pi = builtins.total = os.environ['TIDE'] = car\n"
        "    open('seen.txt', 'a').write(car)\n"
        "    return waiting, open('seen.txt').read()\n"
    )
    cases = tuple(
        Case(number=n, name=str(n), before="import math, builtins, os\n"
             "clean = math.pi != 'x' and not hasattr(builtins, 'total') and 'TIDE' not in os.environ",
             call="(clean, load('x'))", returns="(True, (['x'], 'x'))")
        for n in range(1, 31)
    )  # fmt: skip
    results = check_all(Plan(program=path, cases=cases), OWN)
    assert {r.outcome.value for r in results} == {"agrees"}


def test_a_program_that_ends_its_parent_does_not_stop_the_others(tmp_path):
    path = tmp_path / "ferry.py"
    path.write_text(
        "import os, signal\nif input() == 'sink':\n    os.kill(os.getppid(), 9)\nprint('ok')\n"
    )
    cases = tuple(
        Case(number=n, name=str(n), stdin="sink\n" if n == 2 else "sail\n", stdout="ok\n")
        for n in range(1, 7)
    )
    results = check_all(Plan(program=path, cases=cases), OWN)
    assert [r.outcome.value for r in results if r.number != 2] == ["agrees"] * 5
