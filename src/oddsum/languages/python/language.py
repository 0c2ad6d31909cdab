"""Python, as the other rooms see it. Each part is loaded when it is first asked for."""

from __future__ import annotations

from functools import cached_property
from typing import ClassVar

from oddsum.languages.language import Asking, Edits, Reading, Running, Station, Writing


class Python:
    """See ``languages/language.py`` for what the parts must do; they are modules beside this."""

    name: str = "Python"
    suffixes: ClassVar[frozenset[str]] = frozenset({".py"})
    can: ClassVar[frozenset[Station]] = frozenset({"check", "trace", "pinpoint", "mend", "advice"})
    setting: str = "interpreter"
    grammar: str = "python"

    @cached_property
    def running(self) -> Running:
        """The learner's interpreter, and the probe."""
        from oddsum.languages.python import running

        return running

    @cached_property
    def reading(self) -> Reading:
        """From its syntax tree."""
        from oddsum.languages.python import reading

        return reading

    @cached_property
    def asking(self) -> Asking:
        """Expressions, and literals."""
        from oddsum.languages.python import expressions

        return expressions

    @cached_property
    def edits(self) -> Edits:
        """Thirty kinds of edits, forty rules of notes."""
        from oddsum.languages.python import editing

        return editing

    @cached_property
    def writing(self) -> Writing:
        """Blocks by their indent, comments by ``#``."""
        from oddsum.languages.python import writing

        return writing
