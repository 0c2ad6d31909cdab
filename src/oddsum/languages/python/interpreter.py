"""Which interpreter runs the learner's program."""

from __future__ import annotations

import json
import os
import shutil
import subprocess
import sys
from functools import lru_cache
from pathlib import Path

import msgspec

from oddsum.languages.language import Interpreter
from oddsum.model.errors import InterpreterError

OLDEST = (3, 9)
_NEWEST = 15  # of the minor versions that are looked for
_ASK = "import json,sys;print(json.dumps([sys.executable,list(sys.version_info[:3])]))"


def find_interpreter(program: Path, named: str | None = None) -> Interpreter:
    """Choose the interpreter: the one named, else the first of the learner's own that is usable.

    The order: the active virtual environment, a ``.venv`` beside the program, ``python3`` on PATH,
    our own. Raises InterpreterError where the named one cannot be used.
    """
    if named is not None:
        return _named(named)
    too_old = ""
    for candidate in _candidates(program):
        found = _ask(str(candidate))
        if found is None:
            continue
        if found.version[:2] >= OLDEST:
            return msgspec.structs.replace(found, remark=too_old)
        too_old = f"{candidate} is {found.title}, which is too old; 3.9 is needed."
    own = Interpreter(sys.executable, tuple(sys.version_info[:3]))  # type: ignore[arg-type]
    return msgspec.structs.replace(own, remark=too_old)


def interpreters() -> tuple[Interpreter, ...]:
    """Those that a program could be run with here: active, on PATH by any version, our own."""
    names = ["python3", *(f"python3.{minor}" for minor in range(OLDEST[1], _NEWEST + 1))]
    found = [
        *_candidates(Path()),
        *filter(None, map(shutil.which, names)),
        sys.executable,
    ]
    asked = (_ask(str(one)) for one in found)
    usable = {one.path: one for one in asked if one is not None and one.version[:2] >= OLDEST}
    return tuple(usable.values())


def _named(name: str) -> Interpreter:
    path = shutil.which(name) or name
    found = _ask(path)
    if found is None:
        raise InterpreterError(
            f"{name} is no Python interpreter that can be started.",
            hint="Give --python the path of one, for example --python /usr/bin/python3.",
        )
    if found.version[:2] < OLDEST:
        raise InterpreterError(
            f"{name} is {found.title}; Odd Sum runs programs on Python 3.9 and newer.",
            hint="Name a newer one with --python.",
        )
    return found


def _candidates(program: Path) -> list[Path]:
    places = []
    active = os.environ.get("VIRTUAL_ENV")
    if active:
        places.append(Path(active) / "bin" / "python")
    places.append(program.resolve().parent / ".venv" / "bin" / "python")
    on_path = shutil.which("python3")
    if on_path:
        places.append(Path(on_path))
    return [p for p in places if p.exists()]


@lru_cache(maxsize=32)
def _ask(path: str) -> Interpreter | None:
    """Ask an interpreter for its real path and version: `python3` may be a slow script."""
    if path == sys.executable:
        return Interpreter(path, tuple(sys.version_info[:3]))  # type: ignore[arg-type]
    try:
        answer = subprocess.run(
            [path, "-S", "-c", _ASK], capture_output=True, timeout=10, check=True
        ).stdout
        real, version = json.loads(answer)
    except (OSError, subprocess.SubprocessError, ValueError):
        return None
    return Interpreter(real, tuple(version))
