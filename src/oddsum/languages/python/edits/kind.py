"""What a kind of slip is: its name, what it is called, why it happens, and where it could be."""

from __future__ import annotations

from collections.abc import Iterator
from typing import ClassVar

from oddsum.languages.python.edits.scene import Scene
from oddsum.model.lead import Slip


class Kind:
    """One kind of slip that beginners make. A new kind is a class and a line in the registry.

    ``title`` names it in a sentence ("a limit ..."); ``explanation`` tells a learner how it comes
    about, without a word of this program.
    """

    name: ClassVar[str]
    title: ClassVar[str]
    explanation: ClassVar[str]

    def slips(self, scene: Scene) -> Iterator[Slip]:
        """Each place of a program where it could have been made, as an edit that undoes it."""
        raise NotImplementedError
