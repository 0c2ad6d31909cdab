"""Every call of the learner's functions: what went in, what came out, and who called whom."""

from __future__ import annotations

from dataclasses import dataclass

from oddsum.model.column import short_name
from oddsum.model.trace import Step, Value
from oddsum.trace.ask import Story
from oddsum.trace.store import EVENTS
from oddsum.trace.words import short

_RETURN, _RAISE = 1 << EVENTS.index("return"), 1 << EVENTS.index("raise")


@dataclass(frozen=True)
class Call:
    """A call: the step it begins and ends in, how deep, and the call that made it.

    ``result`` is None where it did not return, ``raised`` the exception that it was left by, as
    text, if any; without either it has not ended. ``back`` is the step where its caller goes on.
    ``parent`` is the frame number of the caller, 0 for the module.
    """

    frame: int
    parent: int
    function: str
    enters: int
    ends: int | None
    depth: int
    arguments: tuple[tuple[str, Value], ...]
    result: Value | None
    back: int | None = None
    raised: str | None = None

    @property
    def words(self) -> str:
        """``fare(age = 16) → 6``, ``fare(age = -1) → left by ValueError: no such age``."""
        inside = ", ".join(f"{n} = {short(v.text, 30)}" for n, v in self.arguments)
        came = "has not ended"
        if self.result is not None:
            came = short(self.result.text, 40)
        elif self.raised is not None:
            came = f"left by {short(self.raised, 40)}"
        return f"{self.function}({inside}) → {came}"


def calls(story: Story, function: str | None = None, most: int = 5_000) -> list[Call]:
    """The calls in the order they began: of one function, or all; at most so many."""
    returns = _returns(story)
    found: list[Call] = []
    under_way: list[tuple[int, int]] = []  # of (depth, frame)
    for at in story.calls:
        part, row = story.steps.place(at)
        frame, depth = part.frame[row], part.depth[row]
        while under_way and under_way[-1][0] >= depth:
            under_way.pop()
        parent = under_way[-1][1] if under_way else 0
        under_way.append((depth, frame))
        title = story.steps.statement_table[part.statement[row]].function
        if function is not None and title != function:
            continue
        found.append(_call(story, at, frame, parent, returns.get(frame)))
        if len(found) == most:
            break
    return found


def _returns(story: Story) -> dict[int, int]:
    """The place at which each call returned."""
    found: dict[int, int] = {}
    start = 0
    for part in story.steps.parts:
        for row, flags in enumerate(part.flags):
            if flags & _RETURN:
                found[part.frame[row]] = start + row
        start += len(part)
    return found


def _call(story: Story, at: int, frame: int, parent: int, end: int | None) -> Call:
    step = story.steps[at]
    last = story.steps[end] if end is not None else None
    back, raised = _left_by(story, step, last is not None)
    return Call(
        frame=frame,
        parent=parent,
        function=step.function,
        enters=step.number,
        ends=last.number if last is not None else None,
        depth=step.depth,
        arguments=tuple(
            (short_name(c.name), c.after)
            for c in step.changes
            if c.after is not None and c.frame == frame
        ),
        result=last.value if last is not None else None,
        back=back,
        raised=raised,
    )


def _left_by(story: Story, call: Step, returned: bool) -> tuple[int | None, str | None]:
    """Where the caller of a call goes on, and the exception that the call was left by, as text.

    Both are None of a call that is not over, and of a generator that was asked for no more.
    """
    out = story.out(call.number)
    back = out if out is not None and "back" in story.step(out).events else None
    if returned or (out is None and not story.trace.complete):
        return back, None
    last = story.place(out) - 1 if out is not None else len(story.steps) - 1
    for at in range(last, story.place(call.number) - 1, -1):
        step = story.steps[at]
        if "raise" in step.events and step.value is not None:
            return back, step.value.text
        if step.frame == call.frame:
            break
    return back, None
