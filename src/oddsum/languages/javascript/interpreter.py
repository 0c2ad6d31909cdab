"""Which node runs the learner's program."""

from __future__ import annotations

import re
import shutil
import subprocess
from functools import lru_cache
from pathlib import Path

from oddsum.languages.language import Interpreter
from oddsum.model.errors import InterpreterError

OLDEST = 18  # its first version with all that the probe asks of it
NAMES = ("node", "nodejs")
_INSTALL = "Install node 18 or newer, or name one with --node."
_VERSION = re.compile(r"v(\d+)\.(\d+)\.(\d+)")


def find_interpreter(program: Path, named: str | None = None) -> Interpreter:
    """The node that is named, else the first on the PATH that is new enough.

    Raises InterpreterError where there is none; a plan without one can still be read and edited.
    """
    if named is not None:
        return _named(named)
    old = None
    for name in NAMES:
        path = shutil.which(name)
        found = _ask(path) if path else None
        if found is not None and found.version[0] >= OLDEST:
            return found
        old = old or found
    if old is not None:
        raise _too_old(old)
    raise InterpreterError(
        f"{program.name} is JavaScript, and node, which runs it, is not on the PATH.", hint=_INSTALL
    )


def interpreters() -> tuple[Interpreter, ...]:
    """Those on the PATH that are new enough, each once."""
    asked = (_ask(path) for name in NAMES if (path := shutil.which(name)))
    return tuple({i.path: i for i in asked if i and i.version[0] >= OLDEST}.values())


def _named(name: str) -> Interpreter:
    found = _ask(shutil.which(name) or name)
    if found is None:
        raise InterpreterError(f"{name} is no node that can be started.", hint=_INSTALL)
    if found.version[0] < OLDEST:
        raise _too_old(found)
    return found


def _too_old(found: Interpreter) -> InterpreterError:
    version = ".".join(map(str, found.version))
    return InterpreterError(
        f"{found.path} is node {version}; Odd Sum runs programs on node {OLDEST} and newer.",
        hint=_INSTALL,
    )


@lru_cache(maxsize=16)
def _ask(path: str) -> Interpreter | None:
    try:
        answer = subprocess.run([path, "--version"], capture_output=True, timeout=10, check=True)
    except (OSError, subprocess.SubprocessError):
        return None
    told = _VERSION.match(answer.stdout.decode("utf-8", "replace").strip())
    if told is None:
        return None
    major, minor, last = map(int, told.groups())
    return Interpreter(str(Path(path).resolve()), (major, minor, last), language="JavaScript")
