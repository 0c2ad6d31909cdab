"""Reader's notes: what someone who reads the program would question, found without running it.

A rule is a function and a line in one of the tables; every note is worded as a question.
"""

from __future__ import annotations

from collections.abc import Iterable

from oddsum.languages.noting import noted
from oddsum.languages.python.edits.scene import Scene
from oddsum.languages.python.notes import branches, conditions, loops, names, statements
from oddsum.languages.python.notes.rule import Rule
from oddsum.model.lead import Note

RULES: dict[str, Rule] = {
    rule.name: rule
    for rule in (
        *conditions.RULES,
        *branches.RULES,
        *loops.RULES,
        *names.RULES,
        *statements.RULES,
    )
}


def notes_on(scenes: Iterable[Scene]) -> tuple[Note, ...]:
    """Every note on these files, in the order of their lines, one a line and rule."""
    return noted(scenes, RULES.values())
