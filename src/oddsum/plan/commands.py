"""How a program of a language that is only checked is built and run, as the head of its plan."""

from __future__ import annotations

import shlex
from pathlib import Path

from oddsum.languages.tools import Commands, tool_of
from oddsum.model.errors import OddSumError, PlanError
from oddsum.source.program import read_source


def offered(program: Path) -> Commands | None:
    """The commands that fit a program, None for one of a language that needs none."""
    tool = tool_of(program)
    if tool is None:
        return None
    try:
        text = read_source(program).text
    except OddSumError:
        text = ""  # what is wrong with the file is said where it is read for its own sake
    return tool.commands(program, text)


def head_of(commands: Commands) -> str:
    """The lines of a plan that say how its program is built and run."""
    import tomlkit  # 9 ms, for the plan of a language that is only checked

    document = tomlkit.document()
    for key, words in (("build", commands.build), ("run", commands.run)):
        if words:
            document.add(key, list(words))
    return tomlkit.dumps(document)


def head_for(program: Path) -> str:
    """The lines that the plan of a program begins with; blank where it needs none."""
    commands = offered(program)
    return head_of(commands) + "\n" if commands is not None else ""


def typed_commands(build: str, run: str) -> Commands:
    """Commands from two lines as one types them, words in quotes kept whole.

    Raises PlanError where the second is empty, or a quote is not closed.
    """
    if not run.strip():
        raise PlanError("Say how the program is run: a command, such as ./fares.")
    found = []
    for line in (build, run):
        try:
            found.append(tuple(shlex.split(line)))
        except ValueError as error:
            raise PlanError(f"A quote is not closed in: {line}") from error
    return Commands(*found)


def unsaid(plan: str, program: Path) -> PlanError | None:
    """What is wrong with a plan that has cases and does not say how they run; None where the
    program needs no saying. ``plan`` is the name of its file.
    """
    tool = tool_of(program)
    if tool is None:
        return None
    return PlanError(
        f"{plan}: {program.name} is in {tool.name}, and the plan does not say how that is run.",
        hint=f"Put this above the first [[case]]:\n{head_for(program).strip()}",
        file=plan,
        line=1,
    )
