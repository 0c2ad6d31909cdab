"""What takes its time: run apart, told of as it goes on, dropped once it was replaced.

Every job has a number and a ``Job`` of its own. What it tells is carried to the interface's thread
and passed on there only while the job is not over: a result that comes late, from a job that was
stopped or replaced meanwhile, has nobody left to reach.
"""

from __future__ import annotations

import threading
from collections import deque
from collections.abc import Callable
from typing import TypeVar

from oddsum.model.errors import OddSumError

T = TypeVar("T")
V = TypeVar("V")
Call = Callable[[], None]


class Unforeseen(OddSumError):
    """An exception of our own, put into a sentence: the work in hand is not lost by it."""


class Job:
    """One piece of work. ``number`` is its own; ``stop`` is set where it is to end early.

    ``over`` says that nothing of it is told any more: it has ended, was stopped, or was replaced.
    It is read and set on the interface's thread alone.
    """

    def __init__(self, number: int, name: str, post: Callable[[Call], None]) -> None:
        self.number, self.name = number, name
        self.stop = threading.Event()
        self.over = False
        self._post = post
        self._waiting: dict[object, Call] = {}  # the newest progress by its receiver
        self._lock = threading.Lock()

    def tell(self, take: Callable[[V], None], value: V) -> None:
        """From the job's thread: hand a value to ``take`` on the interface's thread, in order."""
        self._post(lambda: None if self.over else take(value))

    def went(self, take: Callable[[V], None], value: V) -> None:
        """The same for progress: where one still waits to be taken, the newest stands for it."""
        with self._lock:
            posted = take in self._waiting
            self._waiting[take] = lambda: take(value)
        if not posted:
            self._post(lambda: self._take_newest(take))

    def _take_newest(self, take: object) -> None:
        with self._lock:
            call = self._waiting.pop(take)
        if not self.over:
            call()

    def cancel(self) -> None:
        """End it, and hear no more of it."""
        self.over = True
        self.stop.set()


def under_way(job: Job | None) -> bool:
    """Whether there is a job, and something of it is still to come."""
    return job is not None and not job.over


def _on_a_thread(name: str, work: Call) -> None:
    threading.Thread(target=work, name=name).start()


class Jobs:
    """Starts jobs and keeps count of them.

    ``post`` carries a call to the interface's thread and may be called from any; ``spawn`` runs
    work apart, under a name. Both are plain functions, so that a test can stand in for threads.
    """

    def __init__(
        self, post: Callable[[Call], None], spawn: Callable[[str, Call], None] = _on_a_thread
    ) -> None:
        self._post, self._spawn = post, spawn
        self._count = 0
        self.running: set[Job] = set()
        self.unforeseen: list[BaseException] = []  # exceptions of ours, as they were
        self._lanes: dict[str, deque[Call]] = {}
        self._lock = threading.Lock()

    def start(
        self,
        name: str,
        work: Callable[[Job], T],
        *,
        done: Callable[[T], None],
        failed: Callable[[OddSumError], None],
        replaces: Job | None = None,
        lane: str = "",
    ) -> Job:
        """Run ``work`` apart; exactly one of ``done`` and ``failed`` hears how it ended.

        Neither does where the job was cancelled or replaced meanwhile. Jobs of one ``lane`` run
        one after the other, in the order in which they were started.
        """
        if replaces is not None:
            self.cancel(replaces)
        self._count += 1
        job = Job(self._count, name, self._post)
        self.running.add(job)

        def run() -> None:
            fault: OddSumError
            try:
                result = work(job)
            except OddSumError as error:
                fault = error
            except Exception as error:  # ours: it must not take the user's work along
                self.unforeseen.append(error)
                fault = unforeseen(name, error)
            else:
                self._post(lambda: self._end(job, lambda: done(result)))
                return
            self._post(lambda: self._end(job, lambda: failed(fault)))

        if lane:
            self._queue(lane, run)
        else:
            self._spawn(name, run)
        return job

    def _end(self, job: Job, tell: Call) -> None:
        self.running.discard(job)
        if not job.over:
            job.over = True
            tell()

    def _queue(self, lane: str, run: Call) -> None:
        with self._lock:
            waiting = self._lanes.get(lane)
            if waiting is not None:
                waiting.append(run)
                return
            self._lanes[lane] = deque([run])
        self._spawn(lane, lambda: self._drain(lane))

    def _drain(self, lane: str) -> None:
        while True:
            with self._lock:
                waiting = self._lanes[lane]
                if not waiting:
                    del self._lanes[lane]
                    return
                run = waiting.popleft()
            run()

    def cancel(self, job: Job | None) -> None:
        """Stop a job, where there is one; nothing of it is told any more."""
        if job is not None:
            job.cancel()
            self.running.discard(job)

    def close(self, but_not: frozenset[str] = frozenset()) -> None:
        """The interface goes away: stop everything but what has one of these names."""
        for job in tuple(self.running):
            job.over = True
            if job.name not in but_not:
                job.stop.set()
        self.running.clear()


def unforeseen(name: str, error: BaseException) -> Unforeseen:
    """What to say of an exception of our own."""
    return Unforeseen(
        f"Something went wrong inside Odd Sum ({name}: {type(error).__name__}: {error}).",
        hint="Your files are as they were; try it once more.",
    )
