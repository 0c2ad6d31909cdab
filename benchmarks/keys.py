"""How long a key takes, from the terminal's side: to the end of the picture that answers it."""

from __future__ import annotations

import os
import statistics
import tempfile

from figures import Figure

from oddsum.demo.copy import copy_demo
from terminal import Terminal

DOWN, UP = b"\x1b[B", b"\x1b[A"


def measure() -> list[Figure]:
    os.environ["XDG_DATA_HOME"] = os.environ["XDG_CONFIG_HOME"] = tempfile.mkdtemp()
    with Terminal(str(copy_demo("fares"))) as terminal:
        terminal.until(b"2 differ")
        check = _each(terminal, [DOWN if n % 2 else UP for n in range(30)])
        terminal.key(b"t")
        terminal.until(b"TRACE TABLE")
        trace = _each(terminal, [DOWN if n % 16 < 12 else UP for n in range(40)])
        terminal.key(b"4")
        terminal.until(b"BEFORE")
        mend = _each(terminal, [bytes([c]) for c in b"# how long may a"], pace=0.2)
    how = "160x47, the demo; the median"
    return [
        Figure(f"a key in {name}", statistics.median(taken) * 1000, "ms", "under 50", how)
        for name, taken in (("Check", check), ("Trace", trace), ("Mend", mend))
    ]


def _each(terminal: Terminal, keys: list[bytes], pace: float = 0.1) -> list[float]:
    terminal.quiet(3)
    return [terminal.typed(key, gap=0.015, pace=pace) for key in keys]
