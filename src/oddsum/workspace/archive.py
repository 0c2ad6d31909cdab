"""The record as the stations write to it and read from it: apart, in order, never in the way."""

from __future__ import annotations

from collections.abc import Callable
from typing import TypeVar

from oddsum.model.errors import OddSumError
from oddsum.record.history import History
from oddsum.workspace.interface import Interface
from oddsum.workspace.jobs import Job, Jobs

T = TypeVar("T")
_LANE = "record"  # what is written is written in the order in which it happened


def _nothing(_: object) -> None:
    """Nobody waits for it."""


class Archive:
    """Nothing that is recorded may stop a check: what the record refuses is told once, and the
    rest goes on. ``fault`` is what was told last.
    """

    def __init__(self, history: History, jobs: Jobs, interface: Interface) -> None:
        self.history = history
        self._jobs, self._interface = jobs, interface
        self.fault = ""

    def write(
        self, work: Callable[[History, Job], T], then: Callable[[T], None] = _nothing
    ) -> None:
        """Write, after whatever was to be written before; a closing window lets it end."""
        self._jobs.start(
            "record",
            lambda job: work(self.history, job),
            done=then,
            failed=self.say,
            lane=_LANE,
        )

    def read(
        self,
        name: str,
        work: Callable[[History], T],
        then: Callable[[T], None],
        replaces: Job | None = None,
    ) -> Job:
        """Read, beside what is written."""
        return self._jobs.start(
            name, lambda job: work(self.history), done=then, failed=self.say, replaces=replaces
        )

    def say(self, fault: OddSumError) -> None:
        """The record could not be had: told once, for nothing else depends on it."""
        if str(fault) != self.fault:
            self.fault = str(fault)
            self._interface.say(str(fault), "warning", 15)
