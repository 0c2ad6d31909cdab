"""JavaScript: see ``language.py``."""

from __future__ import annotations

from oddsum.languages.javascript.language import JavaScript

JAVASCRIPT = JavaScript()
