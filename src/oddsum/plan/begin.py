"""Begins a plan: a file with a heading that says how it goes on, and a first case to fill in."""

from __future__ import annotations

from pathlib import Path

from oddsum.languages import language_of
from oddsum.languages.language import plain_functions
from oddsum.model.errors import PlanError
from oddsum.plan.commands import head_for
from oddsum.plan.find import default_plan
from oddsum.plan.write import write_text
from oddsum.source.program import find_program, read_source

_HEAD = """\
# The test plan of {name}. A case is what goes in, and what should come out: work that
# out by hand. Try everyday data (normal), both sides of every limit (boundary), and data that
# should be refused (invalid).

"""
_TYPED = '''\
[[case]]
name = "{title}"
kind = "normal"
stdin = """
"""
# stdout = """
# """
'''
_CALLED = """\
[[case]]
name = "{title}"
kind = "normal"
call = "{call}"
# returns = ""
"""


def begin_plan(program: Path, named: Path | None) -> Path:
    """Write a plan for a program that has none; returns its path. Raises PlanError."""
    source, language = read_source(find_program(program)), language_of(program)
    path = named or default_plan(program)
    if path.exists():
        raise PlanError(
            f"There is a plan already: {path}.",
            hint="Open the program to add cases, or name another file with --plan.",
            file=path.name,
        )
    functions = plain_functions(language, source)
    title = "to be filled in"
    if functions and not language.reading.asks_for_input(source):
        first = functions[0]
        text = _CALLED.format(title=title, call=f"{first.name}({', '.join(first.parameters)})")
    else:
        text = _TYPED.format(title=title)
    head = _HEAD.format(name=program.name) + head_for(program)
    write_text(path, head + text)
    return path
