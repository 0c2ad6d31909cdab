"""Python: all that knows the language is in this folder."""

from __future__ import annotations

from oddsum.languages.python.language import Python

PYTHON = Python()
