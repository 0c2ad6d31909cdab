"""Narrows a fault down by questions about values that the learner can judge.

The method is E. Y. Shapiro's *divide and query* ("Algorithmic Program Debugging", MIT Press, 1983):
the calls of a run that gives a wrong result form a tree; one asks about the call that halves what
is left. A call judged right takes all that it did out of the question, one judged wrong takes the
rest out. When no call is left to ask about, the steps of the last wrong one are halved in the same
way.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from oddsum.model.answer import AT_LINE, Ends, Judged, Said
from oddsum.model.case import Case
from oddsum.model.trace import Step
from oddsum.trace.ask import Story
from oddsum.trace.calls import Call, calls
from oddsum.trace.words import answer_of, counted, ordinal, short

_MOST_STEPS = 50_000  # of a run that is asked about


@dataclass(frozen=True)
class Inquiry:
    """What to ask next, or where the answers lead; ``left`` counts the steps still in question."""

    question: Judged | None
    ends: Ends | None
    left: int


def inquire(story: Story, case: Case, answers: Mapping[str, Said]) -> Inquiry:
    """Go on from the answers given so far. The case must be one that came out wrong: where it is a
    call, its own result is what differs, and nobody has to be asked about that."""
    if not len(story) or len(story) > _MOST_STEPS:
        return Inquiry(None, None, 0)
    return _Inquiry(story, case, answers).next()


class _Inquiry:
    def __init__(self, story: Story, case: Case, answers: Mapping[str, Said]) -> None:
        self.story, self.case, self.answers = story, case.number, answers
        self.is_call = case.call is not None
        self.calls = {c.frame: c for c in calls(story, most=_MOST_STEPS)}
        self.under: dict[int, list[int]] = {}
        for call in self.calls.values():
            self.under.setdefault(call.parent, []).append(call.frame)
        self.own: dict[int, int] = {}
        for part in story.steps.parts:
            for frame in part.frame:
                self.own[frame] = self.own.get(frame, 0) + 1
        self.weights: dict[int, int] = {}
        for frame in sorted(self.calls, reverse=True):  # callers began before what they call
            self._weigh(frame)
        self._weigh(0)

    def _weigh(self, frame: int) -> None:
        inner = sum(self.weights.get(f, 0) for f in self.under.get(frame, ()))
        self.weights[frame] = self.own.get(frame, 0) + inner

    def next(self) -> Inquiry:
        """The next question, or the end."""
        wrong = self._innermost_wrong()
        open_calls = self._open(wrong)
        left = self.own.get(wrong, 0) + sum(self.own.get(f, 0) for f in open_calls)
        asked = [f for f in open_calls if self._said(f) is None]
        if asked:
            half = self.weights[wrong] / 2
            best = min(asked, key=lambda f: (abs(self.weights[f] - half), f))
            return Inquiry(self._question(best), None, left)
        return self._lines(wrong, left)

    def _said(self, frame: int) -> Said | None:
        return self.answers.get(_sentence(self.calls[frame]))

    def _innermost_wrong(self) -> int:
        """The call that is known to be wrong and makes no wrong one; at first, the main part."""
        outer = self.under.get(0, [])
        at = outer[-1] if self.is_call and outer else 0  # what runs ahead of the call comes before
        while True:
            deeper = next((f for f in self._below(at) if self._said(f) == "wrong"), None)
            if deeper is None:
                return at
            at = deeper

    def _below(self, frame: int) -> list[int]:
        """Calls made under one, except under those judged right."""
        found: list[int] = []
        todo = list(self.under.get(frame, ()))
        while todo:
            inner = todo.pop(0)
            if self._said(inner) == "right":
                continue
            found.append(inner)
            todo += self.under.get(inner, ())
        return found

    def _open(self, wrong: int) -> list[int]:
        """Calls under the wrong one that could be at fault; those that did not return are left."""
        return [f for f in self._below(wrong) if self.calls[f].result is not None]

    def _question(self, frame: int) -> Judged:
        call = self.calls[frame]
        step = self.story.step(call.ends or call.enters)
        return Judged(_sentence(call), self.case, step.number, step.line, call.function)

    # -- within one call -----------------------------------------------------------------------

    def _lines(self, frame: int, left: int) -> Inquiry:
        """Halve the steps of one call by what its variables got."""
        steps = self._inked(frame)
        low, high = 0, len(steps)  # the first wrong one is in between; high: only the result is
        unsure: set[int] = set()
        for at, (step, text) in enumerate(steps):
            said = self.answers.get(text)
            if said == "right":
                low = max(low, at + 1)
            elif said == "wrong" and at < high:
                high = at
            elif said == "unsure":
                unsure.add(step.number)
        ask = [n for n in range(low, high) if steps[n][0].number not in unsure]
        if ask:
            middle = (low + high) / 2
            best = min(ask, key=lambda n: (abs(n - middle), n))
            step, text = steps[best]
            return Inquiry(
                Judged(text, self.case, step.number, step.line, step.function), None, high - low
            )
        return Inquiry(None, self._ends(frame, steps, low, high), left)

    def _inked(self, frame: int) -> list[tuple[Step, str]]:
        """The steps of a call that can be judged, each with the sentence to judge."""
        found: list[tuple[Step, str]] = []
        rounds: dict[int, int] = {}  # of the loop on a line, so far
        for at in range(len(self.story)):
            part, row = self.story.steps.place(at)
            if part.frame[row] != frame:
                continue
            step = self.story.steps[at]
            text = "" if "call" in step.events else _sentence_of(step, rounds.get(step.line, 0))
            if step.round is not None:
                rounds[step.line] = step.round
            if text:
                found.append((step, text))
        return found

    def _ends(self, frame: int, steps: list[tuple[Step, str]], low: int, high: int) -> Ends:
        where = f"in {self.calls[frame].function}" if frame in self.calls else "in the main part"
        if high < len(steps):
            step, text = steps[high]
            before = f" What came before it was right: {steps[high - 1][1]}." if high else ""
            told = f"{text}, which you say is wrong.{before} Look at line {step.line}, {where}."
            return Ends(step.line, step.function, self.case, step.number, told)
        last = self._last_step(frame)
        settled = low == len(steps) and bool(steps)
        told = (
            f"All that its variables got was right, and what came of it is wrong: look at line "
            f"{last.line}, {where}, where it is put together."
            if settled
            else f"The fault lies {where}; what is left to look at ends on line {last.line}."
        )
        return Ends(last.line, last.function, self.case, last.number, told)

    def _last_step(self, frame: int) -> Step:
        for at in range(len(self.story) - 1, -1, -1):
            part, row = self.story.steps.place(at)
            if part.frame[row] == frame:
                return self.story.steps[at]
        return self.story.steps[len(self.story) - 1]


def _sentence(call: Call) -> str:
    inside = ", ".join(f"{n} = {short(v.text, 40)}" for n, v in call.arguments)
    came = short(call.result.text, 60) if call.result is not None else "nothing"
    return f"{call.function}({inside}) gave {came}"


def _sentence_of(step: Step, rounds: int) -> str:
    """What a step did: set variables, answered a condition, ended a loop; blank for nothing."""
    visit = f", the {ordinal(step.visit)} time," if step.visit and step.visit > 1 else ""
    line = f"{AT_LINE}{step.line}{visit}"
    if step.condition is not None:
        return f"{line} asks, and it is {answer_of(step)}"
    if step.round == 0:
        return f"{line} ends its loop after {counted(rounds, 'round')}"
    told = [
        f"{c.name.rpartition('.')[2]} to {short(c.after.text, 50)}"
        for c in step.changes[:3]
        if c.after is not None
    ]
    return f"{line} sets {' and '.join(told)}" if told else ""
