"""Every question in a learner's words; those that fit the thing in hand first."""

from __future__ import annotations

from dataclasses import dataclass

from oddsum.tui.actions import TRACE, Action
from oddsum.tui.glyphs import own
from oddsum.tui.widgets.ruled_table import Column
from oddsum.tui.writing import Cell, cell, clean
from oddsum.workspace.fitting_questions import FITTING, fitting_questions
from oddsum.workspace.workspace import Workspace

QUESTION_COLUMNS = (
    Column("", 2, "right", ruled=False),
    Column("what can be asked here", 58, ruled=False),
    Column("key", 7),
    Column("shows", 76),
)
_DIGITS = 9  # rows that a digit asks


@dataclass(frozen=True)
class Asked:
    """A question as it reads here, and the action that asks it."""

    words: str
    action: Action
    fits: bool = False  # whether it is about the very thing in hand

    @property
    def searched(self) -> str:
        """What a typed word is looked for in."""
        return f"{self.words} {self.action.words} {self.action.tip}".casefold()


def fitting(work: Workspace) -> list[Asked]:
    """All questions, the ones about the thing in hand first and worded for it."""
    every = {a.action: a for a in TRACE if a.question}
    if work.tracing.walked is None:
        return []
    worded = [(FITTING[q.about], q.words) for q in fitting_questions(work)]
    first = [Asked(words, every[name], True) for name, words in worded if name in every]
    taken = {a.action.action for a in first}
    return [*first, *(Asked(a.question, a) for a in every.values() if a.action not in taken)]


def question_rows(asked: list[Asked], columns: int) -> list[list[Cell]]:
    """A row a question: its digit, its words, the key that asks it the next time, what it shows."""
    return [
        [
            cell(str(n) if n <= _DIGITS else "", "blue", True),
            cell(clean(own(one.words)), "strong", one.fits),
            cell(own(one.action.label), "blue"),
            cell(own(one.action.tip), "quiet"),
        ][:columns]
        for n, one in enumerate(asked, 1)
    ]
