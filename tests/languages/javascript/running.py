"""What tests of JavaScript need: a program as node runs it by itself, and as it is recorded."""

from __future__ import annotations

import shutil
import subprocess
from functools import lru_cache
from pathlib import Path

from conftest import MANY
from oddsum.check.traced import trace_case
from oddsum.languages.javascript.interpreter import find_interpreter
from oddsum.languages.language import Interpreter
from oddsum.model.case import Case, Plan
from oddsum.trace.ask import Story

COMMAND = shutil.which("node") or shutil.which("nodejs") or "node"


def tries(usual: int) -> int:
    """How many examples of a property that starts node for each: fewer than of others in a soak."""
    return max(usual, MANY // 40)


@lru_cache(maxsize=1)
def node() -> Interpreter:
    return find_interpreter(Path("x.js"))


def bare(program: Path, typed: str = "", *args: str) -> subprocess.CompletedProcess[str]:
    """What node does by itself."""
    return subprocess.run([COMMAND, program.name, *args], cwd=program.parent, input=typed,
                          capture_output=True, text=True, timeout=60, check=False)  # fmt: skip


def recorded(folder: Path, text: str, typed: str = "", **case: str) -> Story:
    """A program's text recorded, with what is typed in or what is called."""
    program = folder / "ferry.js"
    program.write_text(text, encoding="utf-8")
    made = Case(number=1, name="one", stdin=typed, **case)
    trace, _ = trace_case(Plan(program=program, cases=(made,)), made, node())
    return Story(trace)
