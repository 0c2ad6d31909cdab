"""A case to begin with, for a program that has none: something that lets it run at all."""

from __future__ import annotations

from oddsum.advise.seen import Forks
from oddsum.languages import language_of
from oddsum.languages.language import plain_functions
from oddsum.languages.outline import Function, Limit
from oddsum.model.case import Case, Plan
from oddsum.source.program import Source


def first_case(plan: Plan, known: Forks) -> Case:
    """A call of the last function one can call, else a line typed in; nothing is expected."""
    source = known.sources[0] if known.sources else None
    if source is not None and not language_of(source.name).reading.asks_for_input(source):
        functions = [
            f
            for f in plain_functions(language_of(source.name), source)
            if not f.name.startswith("_")
        ]
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
            return language_of(source.name).asking.text_of(limit.value)
    return language_of(source.name).reading.example_of(function, parameter, source)
