"""Which expressions are worked out inside a program that is recorded: such as run nothing of it.

They are worked out by the program's own interpreter, at each step. It would run what the program
itself defines for reading a property, or for making a text of an object.
"""

from __future__ import annotations

import re
from collections.abc import Iterable

from oddsum.languages.javascript.asking import Question
from oddsum.languages.questions import QuestionError
from oddsum.source.program import Source

_OWN_WAYS = re.compile(
    r"\bget\s+[\w$#\[]+[^=;\n]*\(|\b(?:definePropert\w+|Proxy|toString|valueOf|toJSON|"
    r"__defineGetter__|prototype)\b|\bSymbol\s*\.|\bwith\s*\("
)


def why_not(text: str, sources: Iterable[Source]) -> str:
    """Why an expression is not worked out in a program of these files; blank where it is."""
    try:
        Question(text)
    except QuestionError as fault:
        return fault.text
    for source in sources:
        found = _OWN_WAYS.search(source.text)
        if found is not None:
            line = source.text.count("\n", 0, found.start()) + 1
            return f"it could run the program itself: see line {line} of {source.name}"
    return ""
