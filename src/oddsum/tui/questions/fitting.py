"""Every question in a learner's words; those that fit the thing in hand first."""

from __future__ import annotations

from dataclasses import dataclass

from oddsum.model.column import short_name
from oddsum.trace.words import short
from oddsum.tui.actions import TRACE, Action
from oddsum.tui.glyphs import own
from oddsum.tui.widgets.ruled_table import Column
from oddsum.tui.writing import Cell, cell, clean
from oddsum.workspace.tracing import Traced
from oddsum.workspace.workspace import Workspace

QUESTION_COLUMNS = (
    Column("what can be asked here", 58, ruled=False),
    Column("key", 7),
    Column("shows", 76),
)


@dataclass(frozen=True)
class Asked:
    """A question as it reads here, and the action that asks it."""

    words: str
    action: Action
    fits: bool = False  # whether it is about the very thing in hand


def fitting(work: Workspace) -> list[Asked]:
    """All questions, the ones about the thing in hand first and worded for it."""
    traced = work.tracing.walked
    every = {a.action: a for a in TRACE if a.question}
    if traced is None:
        return []
    worded = _about_what_is_in_hand(work, traced)
    first = [Asked(words, every[name], True) for name, words in worded if name in every]
    taken = {a.action.action for a in first}
    return [*first, *(Asked(a.question, a) for a in every.values() if a.action not in taken)]


def _about_what_is_in_hand(work: Workspace, traced: Traced) -> list[tuple[str, str]]:
    """Actions with the words that fit the step, the value, the loop and the run in hand."""
    found: list[tuple[str, str]] = []
    story, step = traced.story, traced.story.step(traced.step)
    if traced.broken is not None or traced.result.outcome.odd:
        found.append(("walk('odd_place')", "Where does it first go odd?"))
    if step.condition is not None:
        found.append(("ask('apart')", f"Why was this {step.condition}?"))
    name = work.walking.variable_in_hand()
    if name:
        value = next((c.after for c in step.changes if c.name == name), None)
        what = short(value.text, 30) if value is not None else short_name(name)
        found.append(("ask('lineage')", f"Where does {what} come from?"))
    if story.passes.around(traced.step) is not None:
        found.append(("ask('loops')", "How often does this loop go round?"))
    if "call" in step.events or "back" in step.events:
        found.append(("ask('calls')", "What went into this call, and what did it give?"))
    return found


def question_rows(asked: list[Asked], columns: int) -> list[list[Cell]]:
    """A row a question: its words, the key that asks it the next time, and what it shows."""
    return [
        [
            cell(clean(own(one.words)), "strong", one.fits),
            cell(own(one.action.label), "blue"),
            cell(own(one.action.tip), "quiet"),
        ][:columns]
        for one in asked
    ]
