"""Reader's notes: what someone who reads the program would question, found without running it.

A rule is a function and a line in one of the tables; every note is worded as a question.
"""

from __future__ import annotations

from collections.abc import Iterable

from oddsum.languages.javascript.edits.scene import Scene
from oddsum.languages.javascript.notes import branches, conditions, loops, statements
from oddsum.languages.javascript.notes.rule import Rule
from oddsum.languages.noting import noted
from oddsum.model.lead import Note

RULES: dict[str, Rule] = {
    one.name: one for one in (*conditions.RULES, *branches.RULES, *loops.RULES, *statements.RULES)
}


def notes_on(scenes: Iterable[Scene]) -> tuple[Note, ...]:
    """Every note on these files, in the order of their lines, one a line and rule."""
    return noted(scenes, RULES.values())
