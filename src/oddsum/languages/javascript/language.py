"""JavaScript, as the other rooms see it. Each part is loaded when it is first asked for."""

from __future__ import annotations

from functools import cached_property
from typing import ClassVar

from oddsum.languages.language import Asking, Edits, Reading, Running, Station, Writing


class JavaScript:
    """See ``languages/language.py`` for what the parts must do; they are modules beside this."""

    name: str = "JavaScript"
    suffixes: ClassVar[frozenset[str]] = frozenset({".js", ".mjs", ".cjs"})
    can: ClassVar[frozenset[Station]] = frozenset({"check", "trace", "pinpoint", "mend", "advice"})
    setting: str = "node"
    grammar: str = "javascript"

    @cached_property
    def running(self) -> Running:
        """Node, and the probe."""
        from oddsum.languages.javascript import running

        return running

    @cached_property
    def reading(self) -> Reading:
        """From its syntax tree."""
        from oddsum.languages.javascript import reading

        return reading

    @cached_property
    def asking(self) -> Asking:
        """Expressions, and literals."""
        from oddsum.languages.javascript import expressions

        return expressions

    @cached_property
    def edits(self) -> Edits:
        """Some twenty kinds."""
        from oddsum.languages.javascript import editing

        return editing

    @cached_property
    def writing(self) -> Writing:
        """Blocks by their braces, comments by ``//``."""
        from oddsum.languages.javascript import writing

        return writing
