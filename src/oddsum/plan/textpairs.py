"""Reads cases kept as two text files each, by patterns of names that the user gives."""

from __future__ import annotations

import re
from pathlib import Path

from oddsum.model.case import Case
from oddsum.model.errors import PlanError
from oddsum.plan.imported import Imported, numbered


def read_pairs(folder: Path, inputs: str, outputs: str) -> Imported:
    """Pair files by what stands for ``*`` in both patterns, such as ``in*.txt``, ``out*.txt``.

    An input without an output becomes an open case; an output without an input cannot be run and
    is told. Patterns may name folders below ``folder``. Raises PlanError.
    """
    for pattern in (inputs, outputs):
        if pattern.count("*") != 1:
            raise PlanError(
                f"The pattern {pattern!r} has {pattern.count('*') or 'no'} *.",
                hint="Each has one *, for what two files that belong together share: "
                "'in*.txt' and 'out*.txt'.",
            )
    typed, printed = _found(folder, inputs), _found(folder, outputs)
    if not typed:
        raise PlanError(
            f"No file in {folder} is named like {inputs!r}.",
            hint="Patterns are seen from the program's folder. Put them in quotes.",
        )
    told = [f"{inputs.replace('*', k)} has no {outputs.replace('*', k)}: its case is left open."
            for k in typed if k not in printed]  # fmt: skip
    told += [f"{outputs.replace('*', k)} has no {inputs.replace('*', k)}: it was left out."
             for k in printed if k not in typed]  # fmt: skip
    cases = [_case(key, path, printed.get(key)) for key, path in typed.items()]
    return Imported(numbered(cases), tuple(told))


def _found(folder: Path, pattern: str) -> dict[str, Path]:
    """What stands for the star to the file, numbers in the order of numbers."""
    before, _, after = pattern.partition("*")
    shape = re.compile(re.escape(before) + "(.*)" + re.escape(after), re.DOTALL)
    found = {}
    for path in (folder / pattern).parent.glob(Path(pattern).name):
        match = shape.fullmatch(path.relative_to(folder).as_posix()) if path.is_file() else None
        if match is not None:
            found[match.group(1)] = path
    return dict(sorted(found.items(), key=lambda f: _natural(f[0])))


def _natural(text: str) -> list[tuple[int, str]]:
    return [(int(t) if t.isdigit() else -1, t) for t in re.split(r"(\d+)", text) if t]


def _case(key: str, typed: Path, printed: Path | None) -> Case:
    name = key.strip(" -_.") or typed.name
    stdout = None if printed is None else _text(printed)
    return Case(number=1, name=f"{typed.stem}" if name.isdigit() else name, stdin=_text(typed),
                stdout=stdout)  # fmt: skip


def _text(path: Path) -> str:
    try:
        return path.read_text(encoding="utf-8-sig")
    except UnicodeDecodeError as error:
        raise PlanError(
            f"{path.name} is not text in UTF-8.", hint="Save it as UTF-8.", file=path.name
        ) from error
    except OSError as error:
        raise PlanError(f"{path} cannot be read: {error.strerror}.", file=path.name) from error
