"""What an edit rule is: its name, what the mistake is called, why it happens, where it could be."""

from __future__ import annotations

from collections.abc import Iterator
from typing import ClassVar

from oddsum.languages.language import Invents
from oddsum.languages.python.edits.scene import Scene
from oddsum.model.lead import TrialEdit


class EditRule:
    """One kind of mistake that beginners make, and the edits that undo it.

    A new kind is a class and a line in the registry.

    ``title`` names it in a sentence ("a limit ..."); ``explanation`` tells a learner how it comes
    about, without a word of this program.
    """

    name: ClassVar[str]
    title: ClassVar[str]
    explanation: ClassVar[str]
    invents: ClassVar[Invents] = ""  # what it puts in, where it changes nothing that is there

    def edits(self, scene: Scene) -> Iterator[TrialEdit]:
        """Each place of a program where it could have been made, as an edit that undoes it."""
        raise NotImplementedError
