"""Odd programs, and what each must come to.

A name, the program, what is typed in, the outcome where ``15`` is expected, and words of what is
told. Time is bounded by the plan: 0.4 s of the processor. What a run may take is in docs/safety.md.
"""

from __future__ import annotations

from typing import NamedTuple

from conftest import MANY


class Odd(NamedTuple):
    source: str
    outcome: str
    words: str = ""
    stdin: str = ""


ODD: dict[str, Odd] = {
    # without end
    "goes round": Odd("while True:\n    pass", "endless", "in the loop on line 1"),
    "catches what would stop it": Odd(
        "while True:\n    try:\n        while True:\n            pass\n    except BaseException:\n"
        "        pass", "endless", "no end"),
    "will not hear of its time": Odd(
        "import signal\nsignal.signal(signal.SIGPROF, signal.SIG_IGN)\nwhile True:\n    pass",
        "endless", "no end"),
    "blocks every signal": Odd(
        "import signal\nsignal.pthread_sigmask(signal.SIG_SETMASK, range(1, 65))\n"
        "while True:\n    pass", "endless", "no end"),
    "ends its clock": Odd(
        "import signal\nsignal.setitimer(signal.ITIMER_PROF, 0)\nwhile True:\n    pass",
        "endless", "no end"),
    "sleeps": Odd("import time\ntime.sleep(1000)", "endless", "no end"),
    "waits for nobody": Odd(
        "import threading\nthreading.Event().wait()", "endless", "no end"),
    "locks itself in": Odd(
        "import threading\nlock = threading.Lock()\nlock.acquire()\nlock.acquire()",
        "endless", "no end"),
    "a thread without end": Odd(
        "import threading\n\ndef turn():\n    while True:\n        pass\n\n"
        "threading.Thread(target=turn).start()\nprint(15)", "endless", "no end"),
    "a thread that nobody waits for": Odd(
        "import threading, time\nthreading.Thread(target=time.sleep, args=(99,), daemon=True).start()\n"
        "print(15)", "agrees"),
    "one long step": Odd(
        "import re\nre.match('(a+)+$', 'a' * 60 + 'b')", "endless", "no end"),
    "a number without end": Odd("n = 3 ** (10 ** 9)", "endless", "no end"),
    "counts for ever": Odd("import itertools\nprint(sum(itertools.count()))", "endless", "no end"),
    "prints without end": Odd("while True:\n    print('tide')", "endless", "print"),
    "prints one endless line": Odd("print('x' * 3_000_000)", "endless", "print"),
    "tasks without end": Odd(
        "import asyncio\n\nasync def turn():\n    while True:\n        await asyncio.sleep(0)\n\n"
        "asyncio.run(turn())", "endless", "no end"),
    # too much
    "grows": Odd("rope = [0] * 1_000_000\nwhile True:\n    rope += rope", "stopped", "memory"),
    "asks for all at once": Odd("rope = bytearray(10 ** 12)", "stopped", "memory"),
    "calls itself": Odd("def deep(n):\n    return deep(n + 1)\n\ndeep(0)", "stopped", "Recursion"),
    "forks and forks": Odd(
        "import os, time\nwhile True:\n    if os.fork() == 0:\n        time.sleep(9)\n"
        "        os._exit(0)", "stopped", "processes"),
    "threads and threads": Odd(
        "import threading, time\nfor n in range(2000):\n"
        "    threading.Thread(target=time.sleep, args=(9,), daemon=True).start()",
        "stopped", "new thread"),
    "a file too large": Odd(
        "with open('big', 'wb') as file:\n    for n in range(120):\n"
        "        file.write(bytes(1 << 20))", "stopped", "File too large"),
    "opens and opens": Odd(
        "held = []\nwhile True:\n    held.append(open('ferry.py'))", "stopped", "open files"),
    "1,500 folders deep": Odd(
        "import os\nfor n in range(1500):\n    os.mkdir('d')\n    os.chdir('d')\nprint(15)", "agrees"),
    "many files": Odd(
        "for n in range(3000):\n    open(f'file{n}', 'w').close()\nprint(15)", "agrees"),
    # ends badly
    "the interpreter crashes": Odd("import ctypes\nctypes.string_at(0)", "stopped", "SIGSEGV"),
    "aborts": Odd("import os\nos.abort()", "stopped", "SIGABRT"),
    "kills itself": Odd("import os\nos.kill(os.getpid(), 9)", "stopped", ""),
    "ends its group": Odd("import os, signal\nos.killpg(0, signal.SIGTERM)", "stopped", "SIGTERM"),
    "goes deeper than there is stack": Odd(
        "import sys\nsys.setrecursionlimit(10 ** 9)\n\nclass Deep:\n    def __repr__(self):\n"
        "        return repr([self])\n\nprint(Deep())", "stopped", ""),
    "ends at once": Odd("import os\nprint(15, flush=True)\nos._exit(0)", "agrees"),
    "ends with a number": Odd("print(15)\nraise SystemExit(3)", "differs", "exit status 3"),
    "ends with a word": Odd("print(15)\nraise SystemExit('low tide')", "differs", "exit status 1"),
    "becomes another program": Odd(
        "import os, sys\nos.execv(sys.executable, [sys.executable, '-c', 'print(15)'])", "agrees"),
    "interrupts itself": Odd("raise KeyboardInterrupt", "stopped", "KeyboardInterrupt"),
    "raises what says nothing": Odd(
        "class Tide(Exception):\n    def __str__(self):\n        raise ValueError\n\nraise Tide",
        "stopped", "Tide"),
    "fails when it is over": Odd(
        "import atexit\n\n@atexit.register\ndef last():\n    raise ValueError('last')\n\nprint(15)",
        "agrees"),
    "fails when it is given up": Odd(
        "class Rope:\n    def __del__(self):\n        raise ValueError('gone')\n\nrope = Rope()\n"
        "print(15)", "agrees"),
    # odd to read
    "asks for more than there is": Odd("input()\ninput()", "stopped", "more input", "5\n"),
    "reads a line of a million": Odd("print(len(input()) - 999_985)", "agrees", "", "x" * 1_000_000 + "\n"),
    "prints what is no text": Odd(
        "import sys\nsys.stdout.buffer.write(b'\\xff\\xfe\\x00')", "differs", ""),
    "prints half a letter": Odd("print('\\ud800')", "stopped", "UnicodeEncodeError"),
    "prints into its errors": Odd("import sys\nprint(15, file=sys.stderr)", "differs", ""),
    "closes its output": Odd("import sys\nprint(15)\nsys.stdout.close()", "agrees"),
    "nested too deep": Odd("x = " + "(" * 400 + "15" + ")" * 400 + "\nprint(x)", "cannot start", ""),
    "an expression of 20,000 parts": Odd("x = " + "+".join(["0"] * 20_000) + " + 15\nprint(x)", ""),
    "20,000 signs": Odd("x = " + "-" * 20_000 + "15\nprint(x)", ""),
    "a hundred branches": Odd(
        "n = 15\n" + "if n == 0:\n    print(0)\n"
        + "".join(f"elif n == {k}:\n    print({k})\n" for k in range(1, 120)), "agrees"),
    "a line of 100,000 letters": Odd("x = '" + "x" * 100_000 + "'\nprint(15)", "agrees"),
    "a list that holds itself": Odd("rope = []\nrope.append(rope)\nprint(15)", "agrees"),
    "thousands of lists deep": Odd(
        f"rope = []\nfor n in range({20_000 if MANY else 4_000}):\n    rope = [rope]\nprint(15)", "agrees"),
    "values that will not be looked at": Odd(
        "class Shy:\n    def __repr__(self): raise RuntimeError\n    def __eq__(self, o): raise RuntimeError\n"
        "    __hash__ = None\n    def __getattr__(self, n): raise RuntimeError\n    def __len__(self): return -1\n"
        "\nshy = [Shy(), {1: Shy()}]\nprint(15)", "agrees"),
    "a value that says it for ever": Odd(
        "class Long:\n    def __repr__(self):\n        while True:\n            pass\n\nlong = Long()\n"
        "print(15)", "agrees"),
    "a class of its own making": Odd(
        "class Maker(type):\n    def __call__(cls, *a): return 15\n    def __getattribute__(cls, n):\n"
        "        return type.__getattribute__(cls, n)\n\nclass Made(metaclass=Maker): pass\n\nprint(Made())",
        "agrees"),
    "removes itself": Odd("import os\nos.remove('ferry.py')\nprint(15)", "agrees"),
    "removes where it stands": Odd(
        "import os, shutil\nshutil.rmtree(os.getcwd())\nprint(15)", "agrees"),
    "takes every right from its folder": Odd(
        "import os\nos.chmod('.', 0)\nos.chmod('ferry.py', 0)\nprint(15)", "agrees"),
    "a pipe that nobody reads": Odd("import os\nos.mkfifo('p')\nprint(15)", "agrees"),
    "leaves one behind that talks": Odd(
        "import os, time\nprint(15, flush=True)\nif os.fork() == 0:\n    time.sleep(30)\n"
        "    print(99)", "agrees"),
    "its own json": Odd("import sys\nsys.modules['json'] = None\nprint(15)", "agrees"),
}  # fmt: skip
