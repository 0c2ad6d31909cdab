"""A terminal of our own with the application in it: started, typed into, timed."""

from __future__ import annotations

import fcntl
import os
import pty
import re
import select
import signal
import struct
import sys
import termios
import time

ESCAPES = re.compile(rb"\x1b(?:\[[0-9;?]*[a-zA-Z]|[()][A-Z0-9]|[=>])")


class Terminal:
    """160 by 47 cells; a context manager that ends the application."""

    def __init__(self, *args: str) -> None:
        self.started = time.perf_counter()
        self.pid, self.end = pty.fork()
        if self.pid == 0:
            os.environ.update(TERM="xterm-256color", COLUMNS="160", LINES="47")
            os.execv(sys.executable, [sys.executable, "-m", "oddsum", *args])
        fcntl.ioctl(self.end, termios.TIOCSWINSZ, struct.pack("HHHH", 47, 160, 0, 0))
        self.seen = b""

    def __enter__(self) -> Terminal:
        return self

    def __exit__(self, *_: object) -> None:
        os.kill(self.pid, signal.SIGTERM)
        os.close(self.end)
        os.waitpid(self.pid, 0)

    def until(self, *words: bytes, most: float = 60.0) -> float:
        """Seconds since the start at which all words have been shown."""
        stop = time.perf_counter() + most
        while time.perf_counter() < stop:
            if select.select([self.end], [], [], 0.05)[0]:
                self.seen += os.read(self.end, 1 << 16)
            text = ESCAPES.sub(b"", self.seen)
            if all(w in text for w in words):
                return time.perf_counter() - self.started
        raise SystemExit(f"The application never showed {words}: {text[-500:]!r}")

    def key(self, data: bytes) -> float:
        """Seconds from a key to the end of the picture that answers it."""
        self.quiet()
        start = time.perf_counter()
        os.write(self.end, data)
        last = start
        while select.select([self.end], [], [], 0.12)[0]:
            os.read(self.end, 1 << 16)
            last = time.perf_counter()
        return last - start

    def typed(self, data: bytes, gap: float, pace: float) -> float:
        """Seconds from a key to the end of the first picture after it; then waits for the next.

        A picture ends where nothing more comes for ``gap`` seconds. ``pace``: seconds a key.
        """
        start = last = time.perf_counter()
        os.write(self.end, data)
        while last == start or select.select([self.end], [], [], gap)[0]:
            os.read(self.end, 1 << 16)
            last = time.perf_counter()
        while (left := start + pace - time.perf_counter()) > 0:
            if select.select([self.end], [], [], left)[0]:
                os.read(self.end, 1 << 16)
        return last - start

    def quiet(self, most: float = 5.0) -> None:
        """Wait until nothing is drawn any more."""
        stop = time.perf_counter() + most
        while time.perf_counter() < stop and select.select([self.end], [], [], 0.3)[0]:
            os.read(self.end, 1 << 16)
