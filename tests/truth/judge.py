"""Holds what the tool says of a run against an account that was made apart from it."""

from __future__ import annotations

from dataclasses import dataclass

from account import FILE, Account, account, comparable

from oddsum.languages.python.loops import loops
from oddsum.model.trace import Trace
from oddsum.source.program import Source
from oddsum.trace.ask import Story
from oddsum.trace.calls import calls
from oddsum.trace.loops import ENDED, passes
from oddsum.trace.nodes import text_of
from oddsum.trace.search import Asking
from woven import steps_of, woven


@dataclass
class Verdict:
    """What was compared, and what is false: one sentence each."""

    visits: int = 0
    values: int = 0
    calls: int = 0
    loops: int = 0
    answers: int = 0
    false: tuple[str, ...] = ()


def story_of(source: str, stdin: str = "") -> Story:
    """A program recorded in this process."""
    import contextlib
    import io

    from account import _typed

    code, recorder, wire = woven(source)
    with contextlib.redirect_stdout(_Noting(recorder)), _typed(stdin):  # type: ignore[type-var]
        try:
            exec(code, {"__name__": "__main__"})
        except BaseException as error:
            recorder.raised(error)
    recorder.look_again()
    recorder.flush()
    assert io is not None
    return Story(Trace(program=FILE, case="one", number=1, steps=steps_of(wire), outcome="",
                       complete=True))  # fmt: skip


class _Noting:
    """Standard output that tells the recorder."""

    def __init__(self, recorder: object) -> None:
        self.recorder = recorder

    def write(self, text: str) -> int:
        self.recorder.printed(text)  # type: ignore[attr-defined]
        return len(text)

    def flush(self) -> None:
        pass


def judge(source: str, stdin: str = "", ask: tuple[str, ...] = ()) -> Verdict:
    """Compare visits, values before each, output, calls, loops, and what is true when."""
    told, story = account(source, stdin, ask), story_of(source, stdin)
    verdict, false = Verdict(), list[str]()
    steps = _visits(verdict, false, source, story, told)
    _values(verdict, false, story, told, steps)
    _answers(verdict, false, story, told, steps)
    _calls(verdict, false, story, told)
    _loops(verdict, false, source, story, told)
    if story.output_until(story.last) != told.output:
        false.append(f"printed {story.output_until(story.last)!r}, not {told.output!r}")
    verdict.false = tuple(false)
    return verdict


def _visits(
    verdict: Verdict, false: list[str], source: str, story: Story, told: Account
) -> list[int]:
    lines = comparable(source)
    mine = [s.number for s in story.steps if s.visit is not None and s.line in lines]
    said = [(story.step(n).line, story.step(n).function) for n in mine]
    true = [(m.line, m.function) for m in told.moments]
    verdict.visits += len(true)
    if said != true:
        at = next((n for n, (a, b) in enumerate(zip(said, true, strict=False)) if a != b),
                  min(len(said), len(true)))  # fmt: skip
        false.append(f"visit {at + 1} is said to be {said[at : at + 1]}, is {true[at : at + 1]}")
        return mine[:at]
    return mine


def _values(
    verdict: Verdict, false: list[str], story: Story, told: Account, steps: list[int]
) -> None:
    for number, moment in zip(steps, told.moments, strict=False):
        before = story.number(max(0, story.place(number) - 1))
        if before == number:
            continue
        frame = story.frame_at(number)
        seen = {name: text_of(part.node(ref)) for name, (part, ref) in
                story.refs_at(before, frame).items()}  # fmt: skip
        if story.output_until(before) != told.output[: moment.printed]:
            false.append(f"step {number}: printed so far {story.output_until(before)!r}")
        expected = {**moment.module, **moment.classes}
        for name, text in [*expected.items(), *moment.own.items()]:
            own = name in moment.own and expected.get(name) is not text
            columns = _columns(name, moment.function) if own else [name]
            column = next((c for c in columns if c in seen), None)
            verdict.values += 1
            if column is None:
                false.append(
                    f"step {number}, line {moment.line}: {name} is {text}, and not in sight"
                )
            elif seen[column][1] and seen[column][0] != text:
                false.append(f"step {number}, line {moment.line}: {name} is {text}, "
                             f"and shown as {seen[column][0]}")  # fmt: skip


def _answers(
    verdict: Verdict, false: list[str], story: Story, told: Account, steps: list[int]
) -> None:
    asked = {text: Asking(story, story.question(text)) for text in told.asked}
    for number, moment in zip(steps, told.moments, strict=False):
        before = story.number(max(0, story.place(number) - 1))
        if story.frame_at(before) != story.frame_at(number):
            continue  # the step before was in a call that an error left: other names are in sight
        for text, holds in moment.answers.items():
            verdict.answers += 1
            if asked[text].holds(before) != holds:
                false.append(f"step {before}: {text} is said to be {not holds}")


def _columns(name: str, function: str) -> list[str]:
    """The columns that a name can be in, seen from a function: its own, then those around."""
    found = []
    while function:
        found.append(f"{function}.{name}")
        function = function.rpartition(".")[0]
    return [*found, name]


def _calls(verdict: Verdict, false: list[str], story: Story, told: Account) -> None:
    found = calls(story, most=100_000)
    verdict.calls += len(told.calls)
    if [c.function for c in found] != [c.function for c in told.calls]:
        false.append(f"calls are {[c.function for c in found]}, not "
                     f"{[c.function for c in told.calls]}")  # fmt: skip
        return
    for mine, true in zip(found, told.calls, strict=True):
        given = {n: v.text for n, v in mine.arguments}
        if any(v not in (given.get(n), "?") for n, v in true.arguments.items()):
            false.append(f"{mine.words}: went in {true.arguments}, not {given}")
        if true.raised and (
            mine.result is not None or not str(mine.raised).startswith(true.raised)
        ):
            false.append(f"{mine.words}: was left by {true.raised}")
        if mine.raised is not None and not true.raised and true.gave is not None:
            false.append(f"{mine.words}: returned {true.gave}")
        if mine.result is not None and true.gave not in (None, "?", mine.result.text):
            false.append(f"{mine.words}: gave {true.gave}")


def _loops(verdict: Verdict, false: list[str], source: str, story: Story, told: Account) -> None:
    found = [p for loop in loops(Source(FILE, source)) for p in passes(story, loop)]
    found.sort(key=lambda p: p.enters)
    said = [(p.header.line, p.rounds, ENDED[p.ending]) for p in found]
    true = [tuple(row) for row in told.loops]
    verdict.loops += len(true)
    if len(said) != len(true):
        false.append(f"loops are {said}, not {true}")
    for one, other in zip(said, true, strict=False):
        same = one == other or (one[:2] == other[:2] and one[2] == "cut off")
        if not same:
            false.append(f"the loop is said to go {one}, goes {other}")
