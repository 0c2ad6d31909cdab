"""What stopped a case, in plain words: its language knows them."""

from __future__ import annotations

from oddsum.languages import language_of
from oddsum.languages.registry import LANGUAGES
from oddsum.model.outcome import ErrorInfo


def plain_error(error: ErrorInfo) -> str:
    """What stopped a case, as a sentence without its end; blank where we know none."""
    languages = [language_of(error.file)] if error.file else LANGUAGES
    told = (one.reading.plain_stop(error.type, error.message) for one in languages)
    return next((words for words in told if words), "")
