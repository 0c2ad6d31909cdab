"""Runs the plan on a copy in which one file has another text."""

from __future__ import annotations

import threading
from collections.abc import Iterator

from oddsum.check.plan import check
from oddsum.languages.language import Interpreter
from oddsum.model.case import Plan
from oddsum.model.errors import ProgramError
from oddsum.model.outcome import CaseResult
from oddsum.run.scratch import bundle
from oddsum.source.program import Source


def encoded(source: Source, text: str) -> bytes:
    """A text as the file's bytes; raises ProgramError where its encoding has no such character."""
    try:
        return source.edited(text).encoded()
    except UnicodeEncodeError as error:
        line = text.count("\n", 0, error.start) + 1
        raise ProgramError(
            f"{source.name} is kept as {source.encoding}, which has no "
            f"{text[error.start]!r} (line {line}).",
            hint="Write it in another way, or change the encoding that the file's first line names "
            "to utf-8.",
            file=source.name,
            line=line,
        ) from error


def attempt(
    plan: Plan,
    source: Source,
    text: str,
    interpreter: Interpreter,
    *,
    stop: threading.Event | None = None,
) -> Iterator[CaseResult]:
    """Run every case on a copy in which one file has another text; yields results as they come.

    Raises StartError where the program cannot start with it, ProgramError where it cannot be
    written down in the file's encoding.
    """
    copied = bundle(plan).edited({source.name: encoded(source, text)})
    return check(plan, interpreter, stop=stop, files=copied)
