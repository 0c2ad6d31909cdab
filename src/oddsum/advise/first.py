"""A case to begin with, for a program that has none: something that lets it run at all."""

from __future__ import annotations

import ast

from oddsum.advise.seen import Forks
from oddsum.model.case import Case, Plan
from oddsum.source.limits import Limit
from oddsum.source.outline import Function, asks_for_input, plain_functions
from oddsum.source.program import Source


def first_case(plan: Plan, known: Forks) -> Case:
    """A call of the last function one can call, else a line typed in; nothing is expected."""
    source = known.sources[0] if known.sources else None
    if source is not None and not asks_for_input(source):
        functions = [f for f in plain_functions(source) if not f.name.startswith("_")]
        if functions:
            return Case(number=1, name="to begin with", call=_call(functions[-1], source, known))
    return Case(number=1, name="to begin with", stdin="1\n" if source else "")


def _call(function: Function, source: Source, known: Forks) -> str:
    arguments = ", ".join(_guess(p, function, source, known.limits) for p in function.parameters)
    return f"{function.name}({arguments})"


def _guess(parameter: str, function: Function, source: Source, limits: tuple[Limit, ...]) -> str:
    """A value of the sort that the function's text treats the parameter as."""
    for limit in limits:
        if limit.function == function.name and limit.subject == parameter:
            return repr(limit.value)
    for node in ast.walk(source.tree or ast.Module([], [])):
        if not function.line <= getattr(node, "lineno", 0) <= function.end:
            continue
        if isinstance(node, ast.For) and getattr(node.iter, "id", "") == parameter:
            return "[3, 1, 2]"
        if isinstance(node, ast.Subscript) and getattr(node.value, "id", "") == parameter:
            return "[3, 1, 2]"
        if isinstance(node, ast.Call) and getattr(node.func, "id", "") == "len" and node.args:
            measured = getattr(node.args[0], "id", "")
            if measured == parameter:
                return "[3, 1, 2]"
        if isinstance(node, ast.Attribute) and getattr(node.value, "id", "") == parameter:
            return "'pier'"
    return "10"
