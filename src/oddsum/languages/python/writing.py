"""What an editor and an importer ask of Python."""

from __future__ import annotations

from oddsum.languages.python.examples import examples
from oddsum.languages.python.indent import commented, next_indent
from oddsum.languages.python.switch import off_lines, switched

__all__ = ["commented", "examples", "next_indent", "off_lines", "switched"]
