"""Checks of the small pieces of the language that a plan holds."""

from __future__ import annotations

import ast
from collections.abc import Callable
from typing import Any

from oddsum.languages.outline import CallText
from oddsum.languages.python.parsing import expression_of, literal, module_of
from oddsum.languages.questions import Question


def expression_fault(text: str) -> str | None:
    """Say what is wrong with an expression, None where it can be read."""
    return _fault(text.strip(), expression_of)


def statements_fault(text: str) -> str | None:
    """Say what is wrong with statements, None where they can be read."""
    return _fault(text, module_of)


def _fault(text: str, read: Callable[[str], Any]) -> str | None:
    try:
        read(text)
    except (SyntaxError, ValueError) as error:
        return getattr(error, "msg", None) or str(error)
    return None


def call_of(text: str) -> CallText | None:
    """A call taken apart; None where it is none, or one with a star in it."""
    try:
        tree = expression_of(text.strip())
    except (SyntaxError, ValueError):
        return None
    if not isinstance(tree, ast.Call) or any(isinstance(a, ast.Starred) for a in tree.args):
        return None
    return CallText(getattr(tree.func, "id", ""), tuple(ast.unparse(a) for a in tree.args))


def names_in(expression: str) -> tuple[str, ...]:
    """The names in an expression, each once."""
    nodes = ast.walk(module_of(expression))
    return tuple(dict.fromkeys(n.id for n in nodes if isinstance(n, ast.Name)))


def with_argument(call: str, at: int, argument: str) -> str:
    """A call with another argument at a place, from 0; raises SyntaxError where one is none."""
    tree = expression_of(call.strip())
    assert isinstance(tree, ast.Call)
    tree.args[at] = expression_of(argument)
    return ast.unparse(tree)


def question(text: str) -> Question:
    """A question as it was typed; raises QuestionError where it cannot be asked."""
    from oddsum.languages.python.asking import Question as Asked

    return Asked(text)


def value_of(text: str) -> Any:
    """Plain data from a literal; raises ValueError, SyntaxError or TypeError."""
    return literal(text)


nothing = "None"


def as_number(kind: str, text: str) -> int | float | None:
    """The number that a recorded value is compared as; None for any other."""
    try:
        return int(text) if kind == "int" else float(text) if kind == "float" else None
    except ValueError:
        return None


def length_of(text: str) -> str:
    """How the number of items of an expression is asked."""
    return f"len({text})"


def type_words(value: Any) -> str:
    """What the type of plain data is called: a ``str`` is a text."""
    name = type(value).__name__
    return {"str": "text", "NoneType": "None"}.get(name, name)


def text_of(value: Any) -> str:
    """The text of plain data."""
    return repr(value)
