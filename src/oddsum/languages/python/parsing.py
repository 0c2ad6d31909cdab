"""The one door to the parser: text becomes a tree one caller at a time.

Interpreter 3.11 counts the depth of the tree it builds in one place for all threads. Where a
garbage collection in the middle of a parse lets another thread parse, the counts mix and the parse
fails with "AST constructor recursion depth mismatch" (5 % of parses in a test made to provoke it;
none with this lock). Cases are compared and trials judged in several threads, so all of them
parse here.
"""

from __future__ import annotations

import ast
from collections.abc import Iterator
from contextlib import contextmanager
from threading import RLock
from typing import Any, cast

from oddsum.source.program import Source

# Re-entrant: a finalizer that runs during a parse may itself parse.
_one_at_a_time = RLock()


@contextmanager
def _alone() -> Iterator[None]:
    """Parse alone; what is nested deeper than the parser goes is a fault of the text as well."""
    with _one_at_a_time:
        try:
            yield
        except (MemoryError, RecursionError) as error:
            raise SyntaxError("too deeply nested to be read") from error


def module_of(text: str) -> ast.Module:
    """Return the tree of a program's text. Raises SyntaxError, or ValueError for a NUL in it."""
    with _alone():
        return ast.parse(text)


def expression_of(text: str) -> ast.expr:
    """Return the tree of one expression. Raises SyntaxError, or ValueError for a NUL in it."""
    with _alone():
        return ast.parse(text, mode="eval").body


def literal(text: str | ast.expr) -> Any:
    """Return the value a literal stands for. Raises ValueError where it is more than a literal."""
    try:
        with _alone():
            return ast.literal_eval(text)
    except SyntaxError as error:
        raise ValueError(str(error)) from error


def tree_of(source: Source) -> ast.Module | None:
    """The syntax tree as our own interpreter reads it, None where it cannot; made once a source.

    Whether the program can start is for the learner's interpreter to say; this one is only for
    what we look up in it.
    """
    kept = source.kept
    if "tree" not in kept:
        try:
            kept["tree"] = module_of(source.text)
        except (SyntaxError, ValueError):
            kept["tree"] = None
    return cast("ast.Module | None", kept["tree"])
