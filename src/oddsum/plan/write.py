"""Writes plans: a case as text, and the file replaced in one move."""

from __future__ import annotations

import contextlib
import os
import tempfile
from pathlib import Path
from typing import Any

import tomlkit
from tomlkit.items import String, StringType, Table, Trivia

from oddsum.model.case import Case
from oddsum.model.errors import PlanError

# The keys of a case in the order in which they are written; what has its default is left out.
_ORDER = ("name", "kind", "note", "disabled", "args", "files", "stdin", "before", "call", "stdout",
          "returns", "raises", "exit", "writes", "check")  # fmt: skip


def values_of(case: Case) -> dict[str, object]:
    """A case's keys and values as a plan has them; None where it says nothing."""
    found: dict[str, object] = {}
    for key in _ORDER:
        value = getattr(case, key)
        if key == "args":
            value = list(value)
        found[key] = value if value or (value == 0 and value is not False) else None
    if case.stdin == "" and case.call is None:
        found["stdin"] = ""
    if case.stdout == "":
        found["stdout"] = ""
    settings = case.settings
    return found | {f: getattr(settings, f) for f in settings.__struct_fields__}


def case_text(case: Case) -> str:
    """One case as it stands in a plan, from its ``[[case]]`` on."""
    table = new_table()
    for key, value in values_of(case).items():
        if value is not None:
            put_value(table, key, value)
    document = tomlkit.document()
    cases = tomlkit.aot()
    cases.append(table)
    document.append("case", cases)
    return tomlkit.dumps(document)


def new_table() -> Table:
    """An empty case."""
    return tomlkit.table()


def put_value(table: Any, key: str, value: object) -> None:
    """Set a key: texts of several lines as such, files in one line."""
    item: Any = value
    if isinstance(value, str) and "\n" in value:
        item = _lines(value) if _may_stand_as_is(value) else value
    elif isinstance(value, dict):
        item = tomlkit.inline_table()
        item.update(value)
    table[key] = item


def _lines(text: str) -> String:
    """A text of several lines, each on a line of its own.

    TOML drops the line end right after the opening quotes.
    """
    escaped = tomlkit.string(text, multiline=True).as_string()[3:-3]
    return String(StringType.MLB, text, "\n" + escaped, Trivia())


def _may_stand_as_is(text: str) -> bool:
    """Whether a text of several lines reads back as it is: control characters need escapes."""
    return all(c in {"\n", "\t"} or c.isprintable() for c in text)


def read_text(path: Path) -> str:
    """A plan's text as it is on disk, blank where there is none; raises PlanError."""
    try:
        return path.read_text(encoding="utf-8-sig") if path.exists() else ""
    except (OSError, UnicodeDecodeError) as error:
        raise PlanError(f"{path} cannot be read: {error}.", file=path.name) from error


def write_text(path: Path, text: str) -> None:
    """Replace a file in one move: a crash leaves the old one or the new one, never half of it.

    Raises PlanError where it cannot be written; the old file is then as it was.
    """
    path = path.resolve()  # the file itself where the name is a link to it
    temporary = ""
    try:
        handle, temporary = tempfile.mkstemp(dir=path.parent, prefix=f".{path.name}.")
        with os.fdopen(handle, "w", encoding="utf-8", newline="\n") as file:
            file.write(text)
            file.flush()
            os.fsync(file.fileno())
        os.chmod(temporary, path.stat().st_mode & 0o777 if path.exists() else 0o644)
        os.replace(temporary, path)
    except OSError as error:
        if temporary:
            with contextlib.suppress(OSError):
                os.unlink(temporary)
        raise PlanError(
            f"{path} cannot be written: {(error.strerror or str(error)).lower()}. "
            "Nothing in it has changed.",
            hint="Make room, or check that you may write in that folder; then try once more.",
            file=path.name,
        ) from error
