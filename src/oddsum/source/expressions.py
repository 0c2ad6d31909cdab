"""Checks of the small pieces of the language that a plan holds."""

from __future__ import annotations

import ast


def expression_fault(text: str) -> str | None:
    """Say what is wrong with an expression, None where it can be read."""
    return _fault(text.strip(), "eval")


def statements_fault(text: str) -> str | None:
    """Say what is wrong with statements, None where they can be read."""
    return _fault(text, "exec")


def _fault(text: str, mode: str) -> str | None:
    try:
        compile(text, "<plan>", mode, ast.PyCF_ONLY_AST)
    except (SyntaxError, ValueError) as error:
        return getattr(error, "msg", None) or str(error)
    return None
