"""How the process of a case begins."""

from __future__ import annotations

import os
from collections.abc import Callable, Sequence
from typing import Protocol

from oddsum.languages import language_named, of_the_network
from oddsum.languages.language import Interpreter
from oddsum.run.keeper.client import KEEPER, Wish
from oddsum.run.removable import Removable
from oddsum.run.rooms import Room
from oddsum.run.terms import Terms


class Started(Protocol):
    """A process that has begun. ``output`` and ``errors`` are descriptors to read from.

    ``bound`` names the limit on its family of processes that was struck, blank for none.
    """

    pid: int
    output: int
    errors: int

    @property
    def bound(self) -> str:
        """The limit on its family that was struck."""

    @property
    def returncode(self) -> int | None:
        """The exit status, negative for a signal; None while it runs."""

    def poll(self) -> int | None:
        """The exit status, negative for a signal; None while it runs."""

    def wait(self, seconds: float) -> None:
        """Wait until it has ended, so long at most."""

    def end(self) -> None:
        """End it and whatever it started, and wait until that has happened."""


# request, standard input and wire as descriptors, and the room it begins in
Starter = Callable[[int, int, int, Room], Started]


def environment(room: Room) -> dict[str, str]:
    """The environment of a run: the learner's, with what would make runs differ fixed.

    What matters to the network alone is left out where the run cannot reach it.
    """
    out = frozenset() if room.terms.reaches_out else of_the_network()
    kept = {
        name: value
        for name, value in os.environ.items()
        if (not name.startswith("PYTHON") or name == "PYTHONPATH") and name not in out
    }
    return {
        **kept,
        "TMPDIR": str(room.temporary),
        "PYTHONHASHSEED": "0",
        "PYTHONUTF8": "1",
        "PYTHONIOENCODING": "utf-8:surrogateescape",
        "PYTHONDONTWRITEBYTECODE": "1",
    }


class Child:
    """A process of ours in a room of its own, started the ordinary way."""

    def __init__(
        self,
        command: Sequence[str | int],
        room: Room,
        given: int,
        passed: tuple[int, ...],
        cpu: int = 0,
    ) -> None:
        out_in, out = os.pipe()
        err_in, err = os.pipe()
        try:
            self._kept = KEEPER.start(
                Wish(
                    command=command,
                    folder=str(room.work),
                    environment=environment(room),
                    streams=(given, out, err),
                    passed=passed,
                    fence=room.fence,
                    cpu=cpu,
                    resident=room.terms.resident,
                    room=str(room.folder),
                )
            )
        except BaseException:
            os.close(out_in)
            os.close(err_in)
            raise
        finally:
            os.close(out)
            os.close(err)
        self.pid, self.output, self.errors = self._kept.pid, out_in, err_in

    @property
    def bound(self) -> str:
        """The limit on its family that was struck."""
        return self._kept.bound

    @property
    def returncode(self) -> int | None:
        """The exit status, None while it runs."""
        return self._kept.returncode

    def poll(self) -> int | None:
        """The exit status, negative for a signal; None while it runs."""
        return self._kept.poll()

    def wait(self, seconds: float) -> None:
        """Wait until it has ended, so long at most."""
        self._kept.wait(seconds)

    def end(self) -> None:
        """End it and whatever it started."""
        self._kept.end()


def probe_of(interpreter: Interpreter) -> list[str | int]:
    """The command that starts its language's probe, without the descriptors it is given."""
    probe = language_named(interpreter.language).running.probe()
    return [interpreter.path, *probe.options, probe.script]


def fresh(interpreter: Interpreter) -> Starter:
    """Begin each case in an interpreter of its own."""
    probe = probe_of(interpreter)

    def start(asked: int, given: int, wire: int, room: Room) -> Started:
        return Child([*probe, 0, 1], room, given, (asked, wire))

    return start


class Begins(Removable):
    """Begins many cases, one after the other; a context manager.

    The scratch copies of these cases are made in its ``room``.
    """

    room: Room

    def start(self, asked: int, given: int, wire: int, room: Room) -> Started:
        """Begin a case; a ``Starter``."""
        raise NotImplementedError

    def warm(self) -> None:
        """Let what the first case would wait for begin already; raises RunError."""


class Fresh(Begins):
    """Begins each case in an interpreter of its own, all in one room."""

    def __init__(self, interpreter: Interpreter, terms: Terms) -> None:
        self._start, self.room = fresh(interpreter), Room(terms)

    def start(self, asked: int, given: int, wire: int, room: Room) -> Started:
        """Begin a case in a new interpreter."""
        return self._start(asked, given, wire, room)

    def remove(self) -> None:
        """Take the room away."""
        self.room.remove()
