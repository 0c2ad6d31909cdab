"""Screens trial edits: many to a process, restarted when one hangs or spoils its process."""

from __future__ import annotations

import base64
import contextlib
import os
import select
import time
from collections import deque
from typing import Any

import msgspec

from oddsum.languages.language import Interpreter
from oddsum.model.case import Allow, Case, Plan
from oddsum.model.errors import RunError
from oddsum.model.outcome import ErrorInfo, Returned, Run
from oddsum.model.picture import Picture
from oddsum.run.begin import environment, probe_of
from oddsum.run.case import case_request
from oddsum.run.keeper.client import KEEPER, Kept, Wish
from oddsum.run.messages import Hearing, Message
from oddsum.run.output import as_text
from oddsum.run.process import as_line, open_wire, read_some
from oddsum.run.removable import Removable
from oddsum.run.scratch import Bundle, Scratch
from oddsum.run.terms import MB, terms_of

_HANG = 1.0  # seconds beyond a trial's own limit after which its process is ended


class Allowance(msgspec.Struct, frozen=True):
    """How much one trial of a case may take: rounds and calls counted, seconds, bytes printed."""

    rounds: int
    seconds: float
    output: int


class Screened(msgspec.Struct, frozen=True):
    """What a trial did. ``ticks`` counts the rounds and calls it took.

    ``same``: it did what the program does without the edit, and ``run`` is that run. ``refused`` is
    what the fence refused it, in the words of a plan's ``allow``.
    """

    run: Run
    ticks: int
    same: bool = False
    refused: tuple[Allow, ...] = ()


class TrialBench(Removable):
    """A process for trials, with a scratch folder of its own; a context manager."""

    def __init__(self, plan: Plan, bundle: Bundle, interpreter: Interpreter) -> None:
        self.plan, self.interpreter = plan, interpreter
        self.scratch = Scratch(bundle, terms=terms_of(plan, fenced=True))
        self._process: Kept | None = None
        self._to = self._from = -1
        self._hearing, self._waiting, self._id = Hearing(), deque[Message](), 0
        self._unedited: dict[int, Run] = {}

    def remove(self) -> None:
        """End the process and take its folder away."""
        self._end()
        self.scratch.remove()

    def run(self, case: Case, edits: dict[str, str], allowed: Allowance) -> Screened:
        """Run a case with files replaced by edited texts; raises RunError when that fails twice.

        A trial that hangs counts as endless, one whose process died as crashed.
        """
        if self._process is None:
            self._start()
        self.scratch.lay(case)
        self._id += 1
        request = {
            "id": self._id,
            "case": case.number,
            "edits": edits,
            "rounds": allowed.rounds,
            "seconds": allowed.seconds,
            "output": allowed.output,
        }
        self._write(request)
        answer = self._answer(time.monotonic() + allowed.seconds + _HANG)
        if isinstance(answer, str):
            self._end()
            self.scratch.put_back()
            return Screened(Run(ending="time" if answer == "hangs" else "crashed"), 0)
        if answer["spoilt"]:
            self._end()
        if answer["spoilt"] or answer["dirty"] or case.files:
            self.scratch.put_back()
        if answer.get("same") and case.number in self._unedited:
            return Screened(self._unedited[case.number], answer["ticks"], True)
        run = _run_of(answer)
        if not edits:
            self._unedited[case.number] = run
        return Screened(run, answer["ticks"], refused=tuple(answer.get("refused", ())))

    def _start(self) -> None:
        read_end, self._to = os.pipe()
        self._from, write_end = open_wire()
        self._hearing, self._waiting = Hearing(), deque()
        settings = self.plan.settings_of(Case(number=0, name=""))
        room = self.scratch.room
        try:
            with open(os.devnull, "r+b") as nothing:
                self._process = KEEPER.start(
                    Wish(
                        command=[*probe_of(self.interpreter), 0, 1],
                        folder=str(self.scratch.folder),
                        environment=environment(room.temporary),
                        streams=(nothing.fileno(),) * 3,
                        passed=(read_end, write_end),
                        fence=room.fence,
                        resident=room.terms.resident,
                        room=str(room.folder),
                    )
                )
        except BaseException:
            os.close(self._to)
            os.close(self._from)
            raise
        finally:
            os.close(read_end)
            os.close(write_end)
        self._write(
            {
                **self._hearing.texts(),
                "mark": "",
                "mode": "trials",
                "folder": str(self.scratch.folder),
                "program": self.scratch.bundle.program,
                "top_level": self.plan.top_level,
                "memory": settings.memory,
                "allow": list(room.terms.allow),
                "cases": [case_request(self.plan, c) for c in self.plan.active()],
            }
        )
        hello = self._read(time.monotonic() + 20)
        if isinstance(hello, str):
            self._end()
            raise RunError("The interpreter for the trials did not start.")

    def _write(self, request: dict[str, Any]) -> None:
        with contextlib.suppress(BrokenPipeError):  # it died: reading will say so
            data = as_line(request)
            while data:
                data = data[os.write(self._to, data) :]

    def _answer(self, deadline: float) -> Message | str:
        """The answer to the request under way; whatever else comes was not asked for."""
        while True:
            message = self._read(deadline)
            if isinstance(message, str) or (message["k"], message.get("id")) == ("trial", self._id):
                return message

    def _read(self, deadline: float) -> Message | str:
        """The next message; "hangs" past the deadline, "died" at the end of the pipe."""
        while not self._waiting:
            left = deadline - time.monotonic()
            if left <= 0 or not select.select([self._from], [], [], left)[0]:
                return "hangs"
            data = read_some(self._from)
            if not data:
                return "died"
            self._waiting += self._hearing.take(data)
        return self._waiting.popleft()

    def _end(self) -> None:
        if self._process is None:
            return
        self._process.end()
        for pipe in (self._to, self._from):
            with contextlib.suppress(OSError):
                os.close(pipe)
        self._process = None


def _run_of(answer: Message) -> Run:
    asked = tuple((a, b, t) for a, b, t in answer.get("asked", ()))
    text, asked, _ = as_text(base64.b64decode(answer.get("output", "")), asked)
    ending = answer.get("ending", "crashed")
    return Run(
        ending="crashed" if ending == "syntax" else ending,
        exit_status=answer.get("status", 0),
        output=text,
        asked=asked,
        error=msgspec.convert(answer["error"], ErrorInfo) if answer.get("error") else None,
        starved=answer.get("starved", False),
        unread=answer.get("unread", ""),
        returned=msgspec.convert(answer["returned"], Returned) if answer.get("returned") else None,
        checked=answer.get("checked"),
        check_error=answer.get("check_error", ""),
        written=answer.get("written", {}),
        drawn=msgspec.convert(answer["drawn"], Picture) if answer.get("drawn") else None,
    )


def allowance(seconds: float, ticks: int, timeout: float, output: float) -> Allowance:
    """What a trial of a case may take, from what the unedited program took there.

    Ten times its rounds and calls and some more: an edit may make a loop longer, and still end.
    """
    return Allowance(
        rounds=10 * ticks + 10_000,
        seconds=min(timeout, max(0.25, 20 * seconds)),
        output=int(output * MB),
    )
