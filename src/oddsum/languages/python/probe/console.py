"""Where a program reads and prints: ``input()`` and its streams, prompts told apart."""

from __future__ import annotations

import builtins
import io
import os
import sys

from . import wire
from .guards import OutputFull

TYPE_CHECKING = False  # importing typing would cost every run some milliseconds
if TYPE_CHECKING:
    from typing import Any

    from .wire import Aside, Channel

    Request = dict[str, Any]


class Terminal:
    """The real streams of a program that runs alone in its process."""

    def __init__(self, channel: Channel, recorder: Any = None) -> None:
        self.channel, self.recorder = channel.aside, recorder
        self.stdin, self.starved = sys.stdin, False
        if recorder is not None:
            sys.stdout = _Telling(sys.stdout, recorder.printed)
            setattr(sys, "__stdout__", sys.stdout)  # noqa: B010  (typed as final)
        self.stdout = sys.stdout

    def mark(self, sign: bytes) -> None:
        """Put a mark into the program's real output, after all it has printed so far."""
        if sign == wire.FRESH and self.recorder is not None:
            self.recorder.fresh_start()
        try:
            self.stdout.flush()
            os.write(1, wire.marked(self.channel.mark, sign))
        except (OSError, ValueError):
            pass  # the program has closed its output: nothing of it is left to mark

    def input(self, prompt: object = "", /) -> str:
        """Stand for the built-in ``input``: same text, same errors, and the place is marked."""
        out = sys.stdout
        if out is None:
            raise RuntimeError("input(): lost sys.stdout")
        if sys.stdin is None:
            raise RuntimeError("input(): lost sys.stdin")
        self._show(out, str(prompt))
        line = sys.stdin.readline()
        self.starved = not line
        if not line:
            raise EOFError("EOF when reading a line")
        answer = line[:-1] if line.endswith("\n") else line
        self.channel.send("read", text=answer)
        if self.recorder is not None:
            self.recorder.read(answer)
        return answer

    def _show(self, out: Any, prompt: str) -> None:
        """Print a prompt between its marks, in one go where the output is the real one."""
        if out is self.stdout and self.recorder is None and out.encoding == "utf-8":
            out.flush()
            data = prompt.encode("utf-8", out.errors or "strict")
            start, stop = (wire.marked(self.channel.mark, s) for s in (wire.OPEN, wire.CLOSE))
            os.write(1, start + data + stop)
            return
        self.mark(wire.OPEN)
        out.write(prompt)
        out.flush()
        self.mark(wire.CLOSE)

    def install(self) -> None:
        """Make the program's ``input`` ours."""
        builtins.input = self.input

    def unread(self) -> str:
        """Return what was typed in and never read."""
        try:
            return self.stdin.read()
        except (OSError, ValueError):
            return ""  # the program closed it


class _Telling(io.TextIOWrapper):
    """Standard output that tells the recorder each piece of text as it is printed."""

    def __init__(self, stream: Any, told: Any) -> None:
        super().__init__(stream.buffer, encoding=stream.encoding, errors=stream.errors)
        self._told, self._kept = told, stream  # kept: else its end would close the descriptor

    def write(self, text: str) -> int:
        count = super().write(text)
        if text:
            self._told(text)
        return count


class Memory:
    """Streams of a trial: nothing leaves the process."""

    def __init__(self, typed: str, limit: int) -> None:
        self.raw: Any = _Limited(limit)
        self.stdout: Any = io.TextIOWrapper(self.raw, encoding="utf-8", errors="surrogateescape")
        data = io.BytesIO(typed.encode("utf-8", "surrogateescape"))
        self.stdin = io.TextIOWrapper(data, encoding="utf-8", errors="surrogateescape")
        errors: Any = _Limited(limit)
        self.stderr = io.TextIOWrapper(errors, encoding="utf-8", errors="backslashreplace")
        self.asked: list[tuple[int, int, str]] = []
        self.fresh, self.starved = 0, False

    def input(self, prompt: object = "", /) -> str:
        """Stand for the built-in ``input`` in a trial."""
        out = sys.stdout
        self.stdout.flush()
        start = self.raw.tell()
        out.write(str(prompt))
        self.stdout.flush()
        stop = self.raw.tell()
        line = sys.stdin.readline()
        self.starved = not line
        if not line:
            raise EOFError("EOF when reading a line")
        answer = line[:-1] if line.endswith("\n") else line
        self.asked.append((start, stop, answer))
        return answer

    def install(self) -> None:
        """Put these streams where the program looks for them; ``input`` is there already."""
        sys.stdin, sys.stdout, sys.stderr = self.stdin, self.stdout, self.stderr
        for name in ("stdin", "stdout", "stderr"):
            setattr(sys, f"__{name}__", getattr(self, name))

    def mark(self, sign: bytes) -> None:
        """Only the mark that forgets what was printed so far means anything here."""
        if sign == wire.FRESH:
            self.stdout.flush()
            self.fresh = self.raw.tell()

    def unread(self) -> str:
        """Return what was typed in and never read."""
        try:
            return self.stdin.read()
        except ValueError:
            return ""

    def output(self) -> tuple[bytes, list[tuple[int, int, str]]]:
        """Return the bytes printed, and the prompts as places in them."""
        try:
            self.stdout.flush()
        except (ValueError, OutputFull):
            pass  # closed by the program, or full: what got through counts
        data = self.raw.printed[self.fresh :]
        asked = [(a - self.fresh, b - self.fresh, t) for a, b, t in self.asked if a >= self.fresh]
        return bytes(data), asked


class _Limited(io.RawIOBase):
    """Bytes in memory up to a limit."""

    def __init__(self, limit: int) -> None:
        self.printed, self.limit = bytearray(), limit

    def writable(self) -> bool:
        return True

    def tell(self) -> int:
        return len(self.printed)

    def write(self, data: Any) -> int:
        self.printed += data
        if len(self.printed) > self.limit:
            raise OutputFull
        return len(data)

    def close(self) -> None:
        """Stay readable: a program that closes its output has still printed."""


class Live(Terminal):
    """The streams of a program that somebody sits before: a real terminal, and every byte told.

    What is typed and what is printed go over the wire apart; on the terminal they stand together.
    """

    def __init__(self, channel: Channel) -> None:
        super().__init__(channel)
        reader: Any = _HeardIn(0, self.channel)
        writer: Any = _HeardOut(1, self.channel)
        sys.stdin = io.TextIOWrapper(io.BufferedReader(reader), encoding="utf-8")
        sys.stdout = io.TextIOWrapper(
            io.BufferedWriter(writer), encoding="utf-8", line_buffering=True
        )
        setattr(sys, "__stdin__", sys.stdin)  # noqa: B010  (typed as final)
        setattr(sys, "__stdout__", sys.stdout)  # noqa: B010
        self.stdin, self.stdout = sys.stdin, sys.stdout

    def mark(self, sign: bytes) -> None:
        """No marks: the bytes are told as they come and go."""
        try:
            self.stdout.flush()
        except (OSError, ValueError):
            pass  # the program has closed it

    def _show(self, out: Any, prompt: str) -> None:
        out.write(prompt)
        out.flush()

    def unread(self) -> str:
        """Nothing: looking would wait for somebody to type."""
        return ""


class _HeardIn(io.FileIO):
    """Standard input that tells what was read of it."""

    def __init__(self, descriptor: int, channel: Aside) -> None:
        super().__init__(descriptor, "rb", closefd=False)
        self._channel = channel

    def readinto(self, buffer: Any) -> Any:
        count = super().readinto(buffer)
        self._channel.send("typed", data=bytes(buffer[: count or 0]).decode("latin-1"))
        return count


class _HeardOut(io.FileIO):
    """Standard output that tells what is printed."""

    def __init__(self, descriptor: int, channel: Aside) -> None:
        super().__init__(descriptor, "wb", closefd=False)
        self._channel = channel

    def write(self, data: Any) -> Any:
        self._channel.send("printed", data=bytes(data).decode("latin-1"))
        return super().write(data)
