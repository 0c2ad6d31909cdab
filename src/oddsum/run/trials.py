"""Screens trial edits: many to a process, restarted when one hangs or spoils its process."""

from __future__ import annotations

import base64
import contextlib
import os
import select
import threading
from collections import deque
from collections.abc import Callable, Iterator, Mapping, Sequence
from typing import Any, Generic, Literal, TypeVar

import msgspec

from oddsum.languages import language_for
from oddsum.languages.language import Gap, Interpreter
from oddsum.model.case import Allow, Case, Plan
from oddsum.model.errors import RunError
from oddsum.model.outcome import ErrorInfo, Returned, Run
from oddsum.model.picture import Picture
from oddsum.model.typed import convert
from oddsum.run.begin import environment, probe_of
from oddsum.run.case import case_request
from oddsum.run.keeper.client import KEEPER, Kept, Wish
from oddsum.run.messages import Hearing, Message
from oddsum.run.output import as_text
from oddsum.run.process import as_line, open_wire, read_some
from oddsum.run.removable import Removable
from oddsum.run.scratch import Bundle, Scratch
from oddsum.run.terms import MB, terms_of
from oddsum.run.waiting import Waiting

_HANG = 1.0  # seconds beyond a trial's own limit after which its process is ended
_SPEND = 0.2  # seconds of trials after which the process says how far it is
_LOOK = 0.1  # seconds between looks at how long it takes
_BUILD = 30.0  # seconds in which some hundred edits are put together, at the very most

Verdict = TypeVar("Verdict")
Splices = tuple[tuple[int, int, str], ...]  # characters from, to, and what stands there instead


class Allowance(msgspec.Struct, frozen=True):
    """How much one trial of a case may take: rounds and calls counted, seconds, bytes printed.

    ``depth``: calls inside of calls, where a language counts them; what is endless ends there.
    ``memory``: bytes by which trials may make their process grow; None: as far as it may at all.
    """

    rounds: int
    seconds: float
    output: int
    depth: int = 100_000
    memory: int | None = None


class Spot(msgspec.Struct, frozen=True):
    """An expression of the program: offsets in characters from 0, its line from 1.

    Or a gap ``before`` or ``behind`` the statement that stands there: what would be right is a text
    that is printed in it.
    """

    file: str
    start: int
    stop: int
    line: int
    gap: Gap | Literal[""] = ""
    prints: bool = False  # of a gap: whether other lines are printed in its function


class Valued(msgspec.Struct, Generic[Verdict], frozen=True):
    """A value put in the place of another, and what came of it.

    ``row`` and ``place`` are the process's numbers for it and for the expression. ``visit`` counts
    from 1; 0: at every visit, and ``gave`` and ``would`` are those of the first: at those where
    ``when`` holds, if that is not blank. ``sort`` is the same for conditions of one sort, which
    differ in a limit.
    """

    row: int
    place: int
    spot: Spot
    visit: int
    gave: str
    would: str
    verdict: Verdict
    when: str = ""
    sort: str = ""


class TrialBench(Removable, Generic[Verdict]):
    """A process for trials, with a scratch folder of its own; a context manager.

    ``judge`` says what a run of a case is worth. Most edits do what another did before, so it is
    asked once for each run that is like no other, and the same object is given for all like it.
    """

    def __init__(
        self,
        plan: Plan,
        bundle: Bundle,
        interpreter: Interpreter,
        judge: Callable[[Case, Run], Verdict],
    ) -> None:
        self.plan, self.interpreter, self.judge = plan, interpreter, judge
        self.scratch = Scratch(bundle, terms=terms_of(plan, fenced=True))
        self._process: Kept | None = None
        self._to = self._from = -1
        self._hearing, self._unread, self._id = Hearing(), deque[Message](), 0
        self._building = 0.0  # seconds that putting edits together took at most
        self._edits: dict[str, Any] = {"texts": {}, "edits": [], "cases": []}
        self._loaded = False  # whether the process has them
        self._numbered: dict[int, list[Verdict]] = {}  # by case, as this process numbers them
        self._judged: dict[int, dict[bytes, Verdict]] = {}
        self._starting = threading.Lock()
        self.ticks = 0  # rounds and calls that the last trial took
        self.grew = 0  # bytes that a run needed which might make its process grow as ever
        self.refused: dict[int, tuple[Allow, ...]] = {}  # by case, what the fence refused it

    def remove(self) -> None:
        """End the process and take its folder away."""
        self._end()
        self.scratch.remove()

    def load(
        self,
        texts: Mapping[str, str],
        edits: Sequence[Mapping[str, Splices]],
        cases: Sequence[Case] = (),
    ) -> None:
        """Take other edits, counted from 0, each by file. ``texts`` are those of these files.

        ``cases`` are some beside the plan's, with numbers of their own.
        """
        made = [case_request(self.plan, c) for c in cases]
        self._edits = {"texts": dict(texts), "edits": list(edits), "cases": made}
        self._loaded = False

    def unedited(self, case: Case, allowed: Allowance) -> Verdict:
        """Run a case without an edit."""
        verdict = next(self.tried(case, ((),), allowed))
        assert verdict is not None  # nothing lies in one place with nothing
        return verdict

    def tried(
        self,
        case: Case,
        trials: Sequence[Sequence[int]],
        allowed: Allowance,
        halted: Callable[[], bool] = lambda: False,
        *,
        apart: bool = True,
    ) -> Iterator[Verdict | None]:
        """Run trials of a case, one after the other, until ``halted``. Each is the numbers of the
        edits that are made at once; none of them: the program as it is.

        Edits that lie in one place have to be compiled by themselves; where ``apart`` is False that
        is not done, and they have no verdict.

        A trial that hangs counts as endless, one whose process died as crashed. Raises RunError
        where no process can be started.
        """
        todo, alone = list(trials), False
        while todo and not halted():
            batch = todo[:1] if alone else todo
            answer = self._try(case, batch, allowed, apart)
            if isinstance(answer, str):
                self._end()
                self.scratch.put_back()
                if len(batch) == 1:  # else nobody knows which of them it was
                    run = Run(ending="time" if answer == "hangs" else "crashed")
                    todo.pop(0)
                    yield self._verdict(case, run, answer.encode())
                alone = len(batch) > 1
                continue
            self._tidy(case, answer)
            del todo[: len(answer["outcomes"])]
            yield from self._verdicts(case, answer)

    def values(
        self,
        case: Case,
        allowed: Allowance,
        seconds: float,
        only: Sequence[int] | None = None,
        share: tuple[int, int] = (0, 1),
    ) -> list[Valued[Verdict]]:
        """Put other values in the place of what expressions give on a case, for so many seconds.

        Of the places in ``only``, or of all of its ``share``, the how many-th (from 0) of so many;
        none where the process did not get over it.
        """
        request = {"do": "values", "expected": case.stdout, "only": only, "share": share}
        answer = self._searching(case, allowed, seconds, request)
        if answer is None:
            return []
        numbered = self._numbered_with(case, answer)
        when: dict[int, list[tuple[str, ...]]] = {}
        for row, *said in answer.get("when", ()):
            # Without words it is due in any round: it is told of by itself as well.
            when.setdefault(row, [] if said[0] else [()]).append(tuple(said))
        gaps = {number: gap for number, *gap in answer.get("gaps", ())}
        spots = [
            Spot(file, start, stop, line, *gaps.get(number, ()))
            for number, (file, start, stop, line) in enumerate(answer["places"])
        ]
        return [
            Valued(row, place, spots[place], visit, gave, would, numbered[outcome], *said)
            for row, place, visit, gave, would, outcome in answer["rows"]
            for said in when.get(row, [()])
        ]

    def express(
        self,
        case: Case,
        place: int,
        rows: Sequence[tuple[int, int]],
        agreeing: Sequence[int],
        allowed: Allowance,
        seconds: float,
        *,
        when: bool = False,
    ) -> list[tuple[str, float]]:
        """Expressions that give what ``rows`` (case and row each) found to be right at a place; or,
        where ``when`` is set, conditions that hold where these values are due, and nowhere else.

        With their size, the smallest first. ``case`` is the one whose files lie there meanwhile.
        """
        request = {
            "do": "express",
            "place": place,
            "rows": rows,
            "agreeing": agreeing,
            "when": when,
        }
        answer = self._searching(case, allowed, seconds, request)
        return [(text, size) for text, size in answer["texts"]] if answer is not None else []

    def _searching(
        self, case: Case, allowed: Allowance, seconds: float, request: dict[str, Any]
    ) -> Message | None:
        """The answer to a search in the process; None where it hangs or dies: it is ended then."""
        self._ready(case)
        request |= _limits(case, allowed, seconds)
        answer = self._ask(request, seconds + allowed.seconds + _HANG)
        if isinstance(answer, str):
            self._end()
            self.scratch.put_back()
            return None
        self._tidy(case, answer)
        return answer

    def _tidy(self, case: Case, answer: Message) -> None:
        """Put back what only the tool can; a process that says it is spoilt is ended."""
        spoilt = answer.get("spoilt", False)
        if spoilt:
            self._end()
        if spoilt or answer.get("dirty", False) or case.files:
            self.scratch.put_back()

    def _ready(self, case: Case) -> None:
        self.start()
        if not self._loaded:
            running = language_for(self.plan).running
            bundle = self.scratch.bundle
            more = running.loaded(
                self._edits["texts"], self._edits["edits"], bundle.program, bundle.files,
                self.plan.top_level,
            )  # fmt: skip
            self._write({"do": "load", **self._edits, **more})
            self._loaded = True
        self.scratch.lay(case)

    def _try(
        self, case: Case, numbers: Sequence[Sequence[int]], allowed: Allowance, apart: bool
    ) -> Message | str:
        self._ready(case)
        request: dict[str, Any] = {"do": "try", "numbers": numbers, "apart": apart}
        request |= _limits(case, allowed, _SPEND)
        # One by itself: some others with it had time enough, and one of them hung.
        patience = _HANG / 2 if len(numbers) == 1 else _SPEND + _HANG
        return self._ask(request, allowed.seconds + patience)

    def _verdicts(self, case: Case, answer: Message) -> list[Verdict | None]:
        """What each trial was worth; the probe tells each run once, and then its number."""
        numbered = self._numbered_with(case, answer)
        self.ticks, self.grew = answer["ticks"], answer.get("grew", 0)
        if answer["refused"]:
            self.refused[case.number] = tuple(answer["refused"])
        return [numbered[n] if n >= 0 else None for n in answer["outcomes"]]

    def _numbered_with(self, case: Case, answer: Message) -> list[Verdict]:
        """What this process has numbered on a case, what is new in an answer included."""
        numbered = self._numbered.setdefault(case.number, [])
        numbered += [self._verdict(case, told, msgspec.json.encode(told)) for told in answer["new"]]
        return numbered

    def _verdict(self, case: Case, told: Message | Run, key: bytes) -> Verdict:
        judged = self._judged.setdefault(case.number, {})
        if key not in judged:
            judged[key] = self.judge(case, told if isinstance(told, Run) else _run_of(told))
        return judged[key]

    def start(self) -> None:
        """Start the process, where there is none; raises RunError where it does not come up."""
        with self._starting:
            if self._process is None:
                self._start()

    def _start(self) -> None:
        read_end, self._to = os.pipe()
        self._from, write_end = open_wire()
        self._hearing, self._unread = Hearing(), deque()
        self._loaded = False
        self._numbered = {}
        settings = self.plan.settings_of(Case(number=0, name=""))
        room = self.scratch.room
        try:
            with open(os.devnull, "r+b") as nothing:
                self._process = KEEPER.start(
                    Wish(
                        command=[*probe_of(self.interpreter), 0, 1],
                        folder=str(self.scratch.folder),
                        environment=environment(room),
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
        hello = self._read(Waiting(), 20.0)
        if isinstance(hello, str):
            self._end()
            raise RunError("The interpreter for the trials did not start.")

    def _write(self, request: dict[str, Any]) -> None:
        with contextlib.suppress(BrokenPipeError):  # it died: reading will say so
            data = as_line(request)
            while data:
                data = data[os.write(self._to, data) :]

    def _ask(self, request: dict[str, Any], seconds: float) -> Message | str:
        """The answer to a request, in so many seconds once the edits are put together; what else
        comes was not asked for.
        """
        self._id += 1
        self._write({"id": self._id, **request})
        waiting, most = Waiting(), _BUILD + seconds
        while True:
            message = self._read(waiting, most)
            if isinstance(message, str):
                return message
            if message.get("id") != self._id:
                continue
            if message["k"] != "built":
                return message
            took = waiting.so_far()
            # What is compiled by itself, in between, takes no longer than all of it together.
            self._building = max(self._building, took)
            most = took + self._building + seconds

    def _read(self, waiting: Waiting, most: float) -> Message | str:
        """The next message; "hangs" once one has waited so long, "died" at the end of the pipe."""
        while not self._unread:
            left = most - waiting.so_far()
            if left <= 0:
                return "hangs"
            if select.select([self._from], [], [], min(left, _LOOK))[0]:
                data = read_some(self._from)
                if not data:
                    return "died"
                self._unread += self._hearing.take(data)
        return self._unread.popleft()

    def _end(self) -> None:
        if self._process is None:
            return
        self._process.end()
        for pipe in (self._to, self._from):
            with contextlib.suppress(OSError):
                os.close(pipe)
        self._process = None


def _limits(case: Case, allowed: Allowance, spend: float) -> dict[str, Any]:
    """The part of a request that says which case, and how much its runs may take."""
    return {
        "case": case.number,
        "rounds": allowed.rounds,
        "seconds": allowed.seconds,
        "output": allowed.output,
        "depth": allowed.depth,
        "memory": allowed.memory,
        "spend": spend,
    }


def _run_of(answer: Message) -> Run:
    asked = tuple((a, b, t) for a, b, t in answer.get("asked", ()))
    text, asked, _ = as_text(base64.b64decode(answer.get("output", "")), asked)
    ending = answer.get("ending", "crashed")
    return Run(
        ending="crashed" if ending == "syntax" else ending,
        exit_status=answer.get("status", 0),
        output=text,
        asked=asked,
        error=convert(answer["error"], ErrorInfo) if answer.get("error") else None,
        starved=answer.get("starved", False),
        unread=answer.get("unread", ""),
        returned=convert(answer["returned"], Returned) if answer.get("returned") else None,
        checked=answer.get("checked"),
        check_error=answer.get("check_error", ""),
        written=answer.get("written", {}),
        drawn=convert(answer["drawn"], Picture) if answer.get("drawn") else None,
    )


_GROWTH = 64 << 20  # bytes that any trial may make a process grow by


def allowance(
    seconds: float, ticks: int, timeout: float, output: float, grew: int = 0
) -> Allowance:
    """What a trial of a case may take, from what the unedited program took there.

    Ten times its rounds and calls and some more: an edit may make a loop longer, and still end.
    Of memory twice what it needed and some more: a text that an edit puts behind itself in a loop
    would fill all that there is, and take a second to do so.
    """
    return Allowance(
        rounds=10 * ticks + 3_000,
        depth=10 * ticks + 200,
        seconds=min(timeout, max(0.25, 20 * seconds)),
        output=int(output * MB),
        memory=_GROWTH + 2 * grew,
    )
