"""Threads and coroutines: whose step it is that was just noted.

Only a program that has them pays for them. Where a program's own files import what starts threads,
every hook takes a lock and looks which thread it is in; the calls under way and the statement last
visited are kept for each. Coroutines take turns at ``await`` only: there the calls under way are
read off the interpreter's own frames.
"""

from __future__ import annotations

import ast
import sys

TYPE_CHECKING = False  # importing typing would cost every run some milliseconds
if TYPE_CHECKING:
    from collections.abc import Callable
    from typing import Any

_STARTERS = frozenset({"threading", "_thread", "concurrent", "multiprocessing", "asyncio"})
_COROUTINE = 0x80 | 0x200  # flags of code: a coroutine or an async generator


def starts_threads(tree: Any) -> bool:
    """Whether a module imports something that can start threads."""
    for node in ast.walk(tree):
        if isinstance(node, ast.Import):
            names = [a.name for a in node.names]
        elif isinstance(node, ast.ImportFrom):
            names = [node.module or ""]
        else:
            continue
        if any(name.partition(".")[0] in _STARTERS for name in names):
            return True
    return False


class Threads:
    """Keeps the threads of a program apart for a recorder."""

    def __init__(self, recorder: Any) -> None:
        import threading

        self.recorder, self._threading = recorder, threading
        self.lock = threading.RLock()
        self.main = self.current = threading.get_ident()
        self.numbers = {self.main: 0}
        self.waiting: dict[int, tuple[list[Any], int | None]] = {}  # stacks, last statements

    def guarded(self, hook: Callable[..., Any], begins: bool = False) -> Callable[..., Any]:
        """A hook that first says whose turn it is; ``begins``: it begins a step itself."""
        lock, ident = self.lock, self._threading.get_ident

        def guard(*args: Any) -> Any:
            with lock:
                if ident() != self.current:
                    self.switch(begins)
                return hook(*args)

        return guard

    def switch(self, begins: bool) -> None:
        """Another thread goes on."""
        recorder, now = self.recorder, self._threading.get_ident()
        if recorder.stack or self.current == self.main:  # else it is over; its number comes again
            self.waiting[self.current] = (recorder.stack[:], recorder.current_statement())
        stack, statement = self.waiting.pop(now, ([], None))
        recorder.stack[:] = stack
        recorder.resumed_at, self.current = statement, now
        number = self.numbers.setdefault(now, len(self.numbers))
        recorder.log.extend((number, self._name(now), "t"))
        if statement is not None and not begins:
            recorder.log.extend((statement, "back"))

    def _name(self, ident: int) -> str:
        if ident == self.main:
            return ""
        for thread in self._threading.enumerate():
            if thread.ident == ident:
                return str(thread.name)
        return "another thread"


class Coroutines:
    """Keeps the coroutines of a program apart for a recorder."""

    def __init__(self, recorder: Any) -> None:
        self.recorder = recorder
        self.records: dict[int, list[Any]] = {}  # by the id of the frame

    def begin(self, frame: Any) -> bool:
        """A coroutine begins; whether no other one waits for it."""
        above = self._own_frames(frame)[:-1]
        self._put(above)
        return not any(f.f_code.co_flags & _COROUTINE for f in above)

    def note(self, frame: Any) -> None:
        """The call that a coroutine's frame belongs to is the newest."""
        self.records[id(frame)] = self.recorder.stack[-1]

    def resume(self, frame: Any) -> bool:
        """A coroutine goes on after it waited; whether others ran meanwhile."""
        return self._put(self._own_frames(frame))

    def _own_frames(self, frame: Any) -> list[Any]:
        """Frames of the program's functions, the outermost first."""
        found = []
        while frame is not None:
            if self.recorder.is_call(frame.f_code):
                found.append(frame)
            frame = frame.f_back
        return found[::-1]

    def _put(self, frames: list[Any]) -> bool:
        """Make these the calls under way; the ordinary ones under the first coroutine are."""
        stack = self.recorder.stack
        plain = 0
        while plain < len(frames) and not frames[plain].f_code.co_flags & _COROUTINE:
            plain += 1
        now = stack[:plain] + [self.records[id(f)] for f in frames[plain:] if id(f) in self.records]
        if plain == len(frames):
            now = stack[:plain]
        if len(now) == len(stack) and all(a is b for a, b in zip(now, stack)):
            return False
        stack[:] = now
        self.recorder.log.extend(([record[2] for record in now], _task(), "k"))
        return True


def _task() -> str:
    """The name of the task that runs, blank outside of any."""
    asyncio: Any = sys.modules.get("asyncio")
    try:
        task = asyncio.current_task()
        return str(task.get_name()) if task is not None else ""
    except Exception:
        return ""
