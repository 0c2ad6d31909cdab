"""Limits of a run: memory, processor time, and a fence around the scratch folder for trials."""

from __future__ import annotations

# The one in C: the other is Python, and looks up names of the built-ins.
import _signal as signal  # type: ignore[import-not-found]
import os
import sys
import time

from .wire import is_writing

TYPE_CHECKING = False  # importing typing would cost every run some milliseconds
if TYPE_CHECKING:
    from collections.abc import Callable
    from typing import Any

    from .wire import Aside

    Request = dict[str, Any]

MOST_LOOKS = 400  # lines at which an endless program's variables are noted
LAST_ROUNDS = 3  # rounds that are told of it
_WAITS, _WAIT = 3, 0.25  # how often, and seconds, a trial is waited for that may be held up
WATCH = 0.1  # processor seconds an endless program is watched, to see where it goes round
_SPAWNING = frozenset({"subprocess.Popen", "os.fork", "os.forkpty", "os.posix_spawn", "os.system",
                       "os.exec", "os.spawn", "pty.spawn"})  # fmt: skip
_REACHING = frozenset({"socket.connect", "socket.bind", "socket.sendto", "socket.getaddrinfo",
                       "socket.gethostbyname", "os.kill", "os.killpg"})  # fmt: skip
_WRITING = {"os.remove", "os.rename", "os.rmdir", "os.mkdir", "os.link", "os.symlink",
            "os.truncate", "os.chmod", "os.chown", "os.utime", "shutil.rmtree",
            "shutil.move", "shutil.copyfile"}  # fmt: skip
_WITHOUT_A_WORD = {"sqlite3.connect", "dbm.open"}  # these write files that nobody is told of
_SPOILING = {
    "os.chdir",
    "signal.signal",
    "_thread.start_new_thread",
    "ctypes.dlopen",
    "mmap.__new__",
}
_DEVICES = ("/dev/null", "/dev/zero", "/dev/full")
_REFUSAL = {
    **dict.fromkeys(_SPAWNING, "behind the fence a run starts no other programs"),
    **dict.fromkeys(_REACHING, "behind the fence a run reaches no network and no other program"),
}
_KIND = {**dict.fromkeys(_SPAWNING, "processes"), **dict.fromkeys(_REACHING, "network")}


def limit_memory(megabytes: float) -> None:
    """Cap the address space, so that a program that allocates for ever gets a MemoryError."""
    try:
        import resource
    except ImportError:
        return
    size = int(megabytes * 1024 * 1024)
    for kind, value in (("RLIMIT_AS", size), ("RLIMIT_CORE", 0)):
        try:
            resource.setrlimit(getattr(resource, kind), (value, value))
        except (AttributeError, ValueError, OSError):
            pass  # a system without this limit: the tool watches from outside as well


def limit_growth(more: int | None) -> None:
    """Let the process grow by so many bytes from now on; None: as far as it may at all.

    Where a system does not tell its size, it may grow as ever.
    """
    try:
        import resource

        hard = soft = resource.getrlimit(resource.RLIMIT_AS)[1]
        if more is not None:
            with open("/proc/self/statm", "rb") as file:
                soft = int(file.read().split()[0]) * resource.getpagesize() + more
        if hard == resource.RLIM_INFINITY or soft <= hard:
            resource.setrlimit(resource.RLIMIT_AS, (soft, hard))
    except (ImportError, OSError, ValueError, AttributeError):
        pass


def most_used() -> int:
    """The most memory that the process had so far, in bytes; on a Mac it is told in these."""
    try:
        import resource
    except ImportError:
        return 0
    most = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss
    return most if sys.platform == "darwin" else most * 1024


class EndlessWatch:
    """Ends a program whose processor time is over, and says which loop it went round in.

    A single look at the stack would name whatever happened to run. So every frame of the learner's
    files is watched for a moment: the outermost one in which lines come by is where the loop is,
    for the frames outside of it only wait.
    """

    def __init__(self, channel: Aside, is_own: Callable[[str], bool]) -> None:
        self.channel, self.is_own = channel, is_own
        self.watched: dict[int, list[int]] = {}
        self.frames: list[Any] = []
        self.first: dict[int, Any] = {}  # by frame: variables when they were first seen,
        self.changed: dict[int, Any] = {}  # names that have changed since,
        self.rounds: dict[int, Any] = {}  # and by line the variables at its last visits
        self.pid = os.getpid()
        self.heard: Callable[[], None] | None = None  # told first, once the time is over

    def start(self, seconds: float) -> None:
        """Allow so many seconds of processor time from now on."""
        signal.signal(signal.SIGPROF, self._time_is_over)
        signal.setitimer(signal.ITIMER_PROF, seconds)

    @staticmethod
    def stop() -> None:
        """The program has ended by itself."""
        signal.setitimer(signal.ITIMER_PROF, 0)
        signal.signal(signal.SIGPROF, signal.SIG_IGN)

    def _time_is_over(self, _signal: int, frame: Any) -> None:
        if os.getpid() != self.pid:
            os._exit(1)  # a child of the program: its own clock is not ours to report
        if self.heard is not None:
            self.heard()
        if is_writing():  # a report between the parts of a message would spoil both
            self._look_again()
            return
        if self.frames:
            self._report()
        while frame is not None:
            if self.is_own(frame.f_code.co_filename):
                self.frames.append(frame)
                self.watched[id(frame)] = [frame.f_lineno]
                frame.f_trace = self._line
            frame = frame.f_back
        if not self.frames:
            self._report()
        sys.settrace(lambda *_: None)
        self._look_again()

    def _look_again(self) -> None:
        signal.signal(signal.SIGPROF, self._time_is_over)
        # Wall clock as well: a program that sleeps uses no processor time.
        signal.signal(signal.SIGALRM, self._time_is_over)
        signal.setitimer(signal.ITIMER_REAL, 2 * WATCH)
        signal.setitimer(signal.ITIMER_PROF, WATCH)

    def _line(self, frame: Any, event: str, _arg: object) -> Any:
        if event == "line":
            lines = self.watched[id(frame)]
            if len(lines) < 5000:
                lines.append(frame.f_lineno)
            if len(lines) < MOST_LOOKS:
                self._look(frame)
        return self._line

    def _look(self, frame: Any) -> None:
        """Note the variables of a frame, and which of them have changed since the first look."""
        from .summary import fingerprints, variables

        key, now = id(frame), variables(frame.f_locals)
        marks = fingerprints(frame.f_locals)
        first = self.first.setdefault(key, marks)
        changed = self.changed.setdefault(key, set())
        changed.update(name for name, mark in marks.items() if first.get(name) != mark)
        visits = self.rounds.setdefault(key, {}).setdefault(frame.f_lineno, [])
        visits.append(now)
        del visits[:-LAST_ROUNDS]

    def _report(self) -> None:
        sys.settrace(None)
        frames = [
            [
                f.f_code.co_filename,
                sorted(set(self.watched[id(f)])),
                len(self.watched[id(f)]),
                sorted(self.changed.get(id(f), ())),
                list(self.rounds.get(id(f), {}).items()),
                f.f_code.co_name if f.f_code.co_flags & 2 else "",  # a function's, not a module's
                self.watched[id(f)][-1],
            ]
            for f in reversed(self.frames)
        ]
        self.channel.send("looping", frames=frames)
        os._exit(71)


class Fence:
    """The innermost layer of the fence: says in words what a run may not do, and notices what has
    to be put back.

    What a program could get round here is held by the layers outside (``run/fence``). ``dirty`` is
    set when files were touched, ``spoilt`` when a process that runs many trials should not be used
    again.
    """

    def __init__(self, folder: str, allow: list[str]) -> None:
        self.room = os.path.dirname(os.path.realpath(folder)) + os.sep
        self.files = "files" in allow
        self.barred = (frozenset() if "processes" in allow else _SPAWNING) | (
            frozenset() if "network" in allow else _REACHING
        )
        self.refused: set[str] = set()  # what it wanted, in the words of ``allow``
        self.up, self.dirty, self.spoilt = False, False, False
        sys.addaudithook(self._hook)

    def _hook(self, event: str, args: Any) -> None:
        if not self.up:
            return
        if event == "open":
            path, mode, flags = args
            writes = flags & (os.O_WRONLY | os.O_RDWR) if isinstance(flags, int) else False
            if writes or (isinstance(mode, str) and set(mode) & set("wax+")):
                self._allow_inside(path)
        elif event in _WRITING:
            for path in args[:2] if event in ("os.rename", "os.link", "shutil.move") else args[:1]:
                self._allow_inside(path)
        elif event in _WITHOUT_A_WORD:
            self.dirty = True
        elif event in self.barred:
            self.spoilt = True
            self.refused.add(_KIND[event])
            raise PermissionError(_REFUSAL[event])
        elif event in _SPOILING:
            self.spoilt = True

    def _allow_inside(self, path: Any) -> None:
        self.dirty = True
        if isinstance(path, int) or self.files:
            return
        real = os.path.realpath(os.fsdecode(path))
        if not (real + os.sep).startswith(self.room) and real not in _DEVICES:
            self.refused.add("files")
            raise PermissionError(f"behind the fence a run writes in its own folder, not to {real}")


class Cut(BaseException):
    """A recording reached its limit; the program is ended with it."""


class OutputFull(BaseException):
    """A trial printed past its limit."""


class GuardStop(BaseException):
    """A trial ran for too many rounds or too long."""


class RoundGuard:
    """Counts rounds and calls of a trial: the same on every machine, unlike a clock."""

    def __init__(self) -> None:
        self.left, self.tripped = 0, False
        self.waits, self.busy = 0, 0.0

    def start(self, rounds: int, seconds: float) -> None:
        """Allow a trial so many rounds and calls, and so many seconds of the clock; some more where
        it got less than half of them from the processor: it may have been held up.
        """
        self.left, self.tripped = rounds, False
        self.waits, self.busy = _WAITS, cpu_seconds() + seconds / 2
        signal.setitimer(signal.ITIMER_REAL, seconds)

    def stop(self) -> None:
        """The trial has ended."""
        self.waits = 0
        signal.setitimer(signal.ITIMER_REAL, 0)

    def tick(self) -> None:
        """One round of a loop, or one call, of the program."""
        self.left -= 1
        if self.left < 0:
            self.tripped = True
            raise GuardStop

    def alarm(self, _signal: int, _frame: object) -> None:
        """Stop a trial that is busy where no round is counted."""
        if self.waits and cpu_seconds() < self.busy:
            self.waits -= 1
            signal.setitimer(signal.ITIMER_REAL, _WAIT)
            return
        self.tripped = True
        raise GuardStop


def cpu_seconds() -> float:
    """Processor seconds this process has used."""
    return time.process_time()
