"""Claims held against a trace: where is the first one broken?"""

from __future__ import annotations

from collections.abc import Iterable, Iterator

from oddsum.languages.questions import QuestionError, Unanswered
from oddsum.model.claim import Broken, Claim
from oddsum.trace.ask import Story
from oddsum.trace.nodes import Node, scalar_text
from oddsum.trace.plain import plain
from oddsum.trace.search import Asking
from oddsum.trace.words import short

RESULT = "result"  # what a function returned, in a claim at its return


def first_broken(story: Story, claims: Iterable[Claim]) -> Broken | None:
    """The first step of a trace at which one of these claims does not hold, None where all do."""
    found = [b for claim in claims if (b := _broken(story, claim)) is not None]
    return min(found, key=lambda b: b.step, default=None)


def claims_for(claims: Iterable[Claim], case: str) -> tuple[Claim, ...]:
    """Those that are meant for a case."""
    return tuple(c for c in claims if c.case in (None, case))


def _broken(story: Story, claim: Claim) -> Broken | None:
    try:
        question = story.question(claim.holds)
    except QuestionError as fault:
        return Broken(claim=claim, step=1, line=claim.line or 0, why=fault.text, unasked=True)
    asking = Asking(story, question)
    for number in _moments(story, claim):
        values = asking.values(number)
        if RESULT in question.names and claim.function is not None:
            values[RESULT] = plain(_returned(story, number))
        try:
            holds, why = bool(question.ask(values)), ""
        except Unanswered as unanswered:
            return Broken(claim=claim, step=number, line=story.step(number).line,
                          why=str(unanswered), unasked=True)  # fmt: skip
        if not holds:
            why = ", ".join(f"{n} is {short(scalar_text(v))}" for n, v in values.items())
            return Broken(claim=claim, step=number, line=story.step(number).line, why=why)
    return None


def _returned(story: Story, number: int) -> Node:
    part, row = story.steps.place(story.place(number))
    ref = part.given.get(row)
    return None if ref is None else part.node(ref)


def _moments(story: Story, claim: Claim) -> Iterator[int]:
    """The steps after which a claim must hold."""
    if claim.line is not None:
        files = {s.file for s in story.statements if s.file == claim.file or not claim.file}
        for number in story.visits({(file, claim.line) for file in files}):
            yield effect_of(story, number)
        return
    for at in story.calls:
        step = story.steps[at]
        if step.function == claim.function:
            end = story.out(step.number)
            last = story.number(story.place(end) - 1) if end is not None else story.last
            if "return" in story.step(last).events:
                yield last


def effect_of(story: Story, number: int) -> int:
    """The step that holds what a visit did: after the last call that its statement made."""
    here = number
    while story.into(here) is not None:
        after = story.over(here)
        if after is None or "back" not in story.step(after).events:
            return here
        here = after
    return here
