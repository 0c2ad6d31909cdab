"""A reader's notes, in whichever language: a rule asks of a program what a reader would."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass
from typing import Generic, TypeVar

from oddsum.languages.scene import Scene
from oddsum.model.lead import Note

Seen = TypeVar("Seen", bound=Scene)
Found = Iterator[tuple[int, str]]  # lines, from 1, with the question to ask there


@dataclass(frozen=True)
class Rule(Generic[Seen]):
    """One thing a reader would question.

    ``explanation`` tells a learner, kindly, why one may stumble there; ``example`` is a short
    program in which the rule finds something; ``kinds`` are the kinds of edit it speaks for.
    """

    name: str
    explanation: str
    example: str
    kinds: tuple[str, ...]
    find: Callable[[Seen], Found]

    def notes(self, scene: Seen) -> Iterator[Note]:
        """What the rule finds in a program."""
        for line, text in self.find(scene):
            yield Note(scene.source.name, line, self.name, text, self.kinds)


def noted(scenes: Iterable[Seen], rules: Iterable[Rule[Seen]]) -> tuple[Note, ...]:
    """Every note on some files, in the order of their lines, one a line and rule."""
    every = [*rules]
    found = [note for scene in scenes for rule in every for note in rule.notes(scene)]
    once = {(n.file, n.line, n.rule): n for n in found}
    return tuple(sorted(once.values(), key=lambda n: (n.file, n.line)))
