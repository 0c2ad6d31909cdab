"""Expressions of a plan, and values, in JavaScript."""

from __future__ import annotations

import math
from typing import Any

from tree_sitter import Node

from oddsum.languages.javascript import literals
from oddsum.languages.javascript.names import read_in
from oddsum.languages.javascript.parsing import Tree
from oddsum.languages.outline import CallText
from oddsum.languages.questions import Question, QuestionError, Unanswered

__all__ = ["as_number", "call_of", "expression_fault", "length_of", "names_in", "nothing",
           "question", "statements_fault", "text_of", "type_words", "value_of",
           "with_argument"]  # fmt: skip

nothing = "undefined"
text_of, value_of = literals.text_of, literals.value_of


def expression_fault(text: str) -> str | None:
    """What is wrong with an expression, None where it can be read."""
    tree = Tree(f"({text}\n)")
    if tree.fault is None and _expression(tree) is not None:
        return None
    return "this cannot be read as an expression of JavaScript"


def statements_fault(text: str) -> str | None:
    """What is wrong with statements, None where they can be read."""
    return None if Tree(text).fault is None else "this cannot be read as JavaScript"


def _expression(tree: Tree) -> Node | None:
    statements = [n for n in tree.root.named_children if n.type != "comment"]
    if len(statements) != 1 or statements[0].type != "expression_statement":
        return None
    around = statements[0].named_children[0]
    inner = [n for n in around.named_children if n.type != "comment"]
    return inner[0] if around.type == "parenthesized_expression" and inner else None


def call_of(text: str) -> CallText | None:
    """A call taken apart; None where it is none, or one with dots in it."""
    tree = Tree(f"({text.strip()}\n)")
    node = _expression(tree) if tree.fault is None else None
    if node is None or node.type != "call_expression":
        return None
    called, given = node.child_by_field_name("function"), node.child_by_field_name("arguments")
    if (
        called is None
        or given is None
        or any(n.type == "spread_element" for n in given.named_children)
    ):
        return None
    name = tree.of(called) if called.type == "identifier" else ""
    return CallText(name, tuple(tree.of(n) for n in given.named_children if n.type != "comment"))


def with_argument(call: str, at: int, argument: str) -> str:
    """A call with another argument at a place, from 0."""
    text = f"({call.strip()}\n)"
    tree = Tree(text)
    node = _expression(tree)
    given = node.child_by_field_name("arguments") if node is not None else None
    assert given is not None
    old = [n for n in given.named_children if n.type != "comment"][at]
    made = text[: tree.start(old)] + argument + text[tree.stop(old) :]
    return made[1:].removesuffix("\n)")


def names_in(expression: str) -> tuple[str, ...]:
    """The variables in an expression, each once."""
    tree = Tree(expression)
    return tuple(dict.fromkeys(n for n in read_in(tree.root, tree) if n != "this"))


def question(text: str) -> Question:
    """A question as it was typed; raises QuestionError where it cannot be asked."""
    from oddsum.languages.javascript.asking import Question as Asked

    return Asked(text)


def as_number(kind: str, text: str) -> int | float | None:
    """The number that a recorded value is compared as: a text too, where it can be read as one."""
    try:
        if kind == "number":
            return int(text) if text.lstrip("-").isdecimal() else float(text)
        made = question(f"+{text}").ask({}) if kind == "string" else None
    except (ValueError, QuestionError, Unanswered):
        return None
    return made if isinstance(made, (int, float)) and not math.isnan(made) else None


def length_of(text: str) -> str:
    """How the number of items of an expression is asked."""
    return f"{text}.length"


def type_words(value: Any) -> str:
    """What the type of plain data is called, for people."""
    names = {
        bool: "boolean",
        int: "number",
        float: "number",
        str: "text",
        list: "array",
        dict: "object",
    }
    return names.get(type(value), text_of(value))
