"""Hosts that wait for somebody: begun ahead of the first check, or kept from the one before.

A host never runs a line of a program, so it is as good for the next check as it was for the last:
what a check after a save would wait for longest is there already.
"""

from __future__ import annotations

import contextlib
import os
import threading
from collections.abc import Callable

from oddsum.languages import language_named
from oddsum.languages.language import Interpreter
from oddsum.model.errors import OddSumError
from oddsum.run.begin import Begins, Fresh, Started
from oddsum.run.cores import cores
from oddsum.run.host import Host
from oddsum.run.keeper.client import KEEPER
from oddsum.run.rooms import Room
from oddsum.run.terms import UNFENCED, Terms


class Spares:
    """Hosts of this process that nobody needs now. From any thread."""

    def __init__(self, most: int) -> None:
        self._most = most
        self._lock = threading.Lock()
        self._hosts: list[Host] = []  # the newest last

    def begin(self, interpreter: Interpreter, terms: Terms, number: int) -> None:
        """Let so many hosts begin for what is to come; raises RunError."""
        for _ in range(number if _forks(interpreter) else 0):
            host = Host(interpreter, terms)
            host.warm()
            self._keep(host)

    def take(self, interpreter: Interpreter, terms: Terms) -> Host:
        """One that waits on these terms, with the environment that there is now; else a new one."""
        while (host := self._fitting(interpreter, terms)) is not None:
            if host.idle and host.room.temporary.exists():
                return host
            host.remove()
        return Host(interpreter, terms)

    def _fitting(self, interpreter: Interpreter, terms: Terms) -> Host | None:
        """The newest on these terms, no longer among them; None for none."""
        wanted = interpreter.path, terms, dict(os.environ)
        with self._lock:
            for host in reversed(self._hosts):
                if (host.interpreter.path, host.room.terms, host.begun_in) == wanted:
                    self._hosts.remove(host)
                    return host
        return None

    def give_back(self, host: Host) -> None:
        """Keep one that is as it was when it began; take any other down, and those of a keeper that
        has gone."""
        if KEEPER.at_work and host.idle and host.room.clear():
            self._keep(host)
        else:
            host.remove()

    def _keep(self, host: Host) -> None:
        with self._lock:
            self._hosts.append(host)
            old = self._hosts[: -self._most]
            del self._hosts[: -self._most]
        for one in old:
            one.remove()


_CORES = cores()
SPARES = Spares(most=2 * _CORES)  # for plain runs, and for fenced ones


class Lent(Begins):
    """A host for as long as somebody needs it."""

    def __init__(self, interpreter: Interpreter, terms: Terms) -> None:
        self._host = SPARES.take(interpreter, terms)
        self.room = self._host.room

    def start(self, asked: int, given: int, wire: int, room: Room) -> Started:
        """Begin a case in a fork of it."""
        return self._host.start(asked, given, wire, room)

    def warm(self) -> None:
        """Start the interpreter, where it does not wait already."""
        self._host.warm()

    def remove(self) -> None:
        """Give it back."""
        SPARES.give_back(self._host)


def begin_ahead(find: Callable[[], Interpreter]) -> Interpreter:
    """Begin what a first check on the usual terms waits for, while others read the plan.

    ``find`` asks which interpreter it is, and what it raises is raised; what goes wrong later is
    told where it is needed.
    """
    KEEPER.begin()
    interpreter = find()
    with contextlib.suppress(OddSumError, OSError):
        SPARES.begin(interpreter, UNFENCED, _CORES)
    return interpreter


def beginning(interpreter: Interpreter, terms: Terms) -> Begins:
    """What begins many cases of one plan, as its language can: by forks, or each by itself."""
    return Lent(interpreter, terms) if _forks(interpreter) else Fresh(interpreter, terms)


def _forks(interpreter: Interpreter) -> bool:
    return language_named(interpreter.language).running.probe().forks
