"""Which questions fit the thing in hand in Trace, in the words in which they fit it."""

from __future__ import annotations

from typing import Literal, NamedTuple

from oddsum.trace.words import answer_of, short
from oddsum.workspace.workspace import Workspace

About = Literal["odd", "condition", "value", "loop", "call"]
# The action that asks each of them, as the table of actions has it.
FITTING: dict[About, str] = {
    "odd": "walk('odd_place')",
    "condition": "ask('apart')",
    "value": "ask('lineage')",
    "loop": "ask('loops')",
    "call": "ask('calls')",
}


class Fitting(NamedTuple):
    """A question about what is in hand."""

    about: About
    words: str


def fitting_questions(work: Workspace) -> list[Fitting]:
    """Those about the step, the value, the loop and the run in hand, the most telling first."""
    traced = work.tracing.walked
    if traced is None:
        return []
    found: list[Fitting] = []
    story, step = traced.story, traced.story.step(traced.step)
    moments = traced.odd_moments()
    if moments and all(m.step != traced.step for m in moments):
        found.append(Fitting("odd", "Where does it first go odd?"))
    if step.condition is not None:
        found.append(Fitting("condition", f"Why was this {answer_of(step)}?"))
    title = work.walking.variable_in_hand()
    if title:
        changed = next((c for c in story.table.inner(traced.step) if c.column == title), None)
        value = changed.whole if changed is not None and not changed.fields else ""
        what = short(value, 30) or work.walking.column_of(traced, title).name
        found.append(Fitting("value", f"Where does {what} come from?"))
    elif step.output:
        found.append(Fitting("value", "Where does what was printed here come from?"))
    if {"call", "back", "return"} & {*step.events}:
        found.append(Fitting("call", "What went into this call, and what did it give?"))
    around = story.passes.around(traced.step)
    if around is not None and around.header.function == step.function:
        found.append(Fitting("loop", "How often does this loop go round?"))
    return found
