"""Ends the application when its terminal has gone, or when it is asked to end.

A closed window says so by a signal, if the signal reaches us: started by another program it may
not, and then reading from a terminal that is gone returns at once, for ever. So the terminal is
asked itself. Leaving is given a few seconds to keep what is in hand; then the process ends.
"""

from __future__ import annotations

import os
import select
import signal
import sys
import threading
from collections.abc import Callable

_PATIENCE = 5.0  # seconds that leaving may take
_LOOK = 1.0  # seconds between two looks, where the system tells nothing by itself
_ENDED_BY = 128  # and the number of the signal: the exit status, as shells have it


class Hangup:
    """Watches a terminal, and the signals that ask for the end."""

    def __init__(self, leave: Callable[[], None], descriptor: int | None = None) -> None:
        """``leave`` is called once, on any thread."""
        self._leave = leave
        self._descriptor = sys.__stdin__.fileno() if descriptor is None else descriptor  # type: ignore[union-attr]
        self._leaving = threading.Lock()

    def begin(self) -> None:
        """From now on. Called on the main thread, which is the one that may take signals."""
        for number in (signal.SIGHUP, signal.SIGTERM):
            signal.signal(number, lambda given, _: self.end(given))
        threading.Thread(target=self._watch, name="hangup", daemon=True).start()

    def end(self, given: int = signal.SIGHUP) -> None:
        """Leave, and see to it that it comes to an end."""
        if not self._leaving.acquire(blocking=False):
            return
        deadline = threading.Timer(_PATIENCE, os._exit, (_ENDED_BY + given,))
        deadline.daemon = True
        deadline.start()
        self._leave()

    def _watch(self) -> None:
        while not self._gone():
            pass
        self.end()

    def _gone(self) -> bool:
        """Wait a while; whether the other end of the terminal is closed."""
        waiting = select.poll()
        waiting.register(self._descriptor, 0)  # that it was hung up is told unasked
        told = waiting.poll(_LOOK * 1000)
        return any(what & (select.POLLHUP | select.POLLERR | select.POLLNVAL) for _, what in told)
