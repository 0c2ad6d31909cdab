"""Writes plans: a case as text, and the file replaced in one move."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import tomlkit
from tomlkit.items import String, StringType, Table, Trivia

from oddsum.model.case import Case
from oddsum.model.errors import PlanError
from oddsum.source.save import SaveError, replace_file

# The keys of a case in the order in which they are written; what has its default is left out.
_ORDER = ("name", "kind", "note", "disabled", "args", "files", "stdin", "before", "call", "stdout",
          "returns", "raises", "exit", "writes", "draws", "check")  # fmt: skip


def values_of(case: Case) -> dict[str, object]:
    """A case's keys and values as a plan has them; None where it says nothing."""
    found: dict[str, object] = {}
    for key in _ORDER:
        value = getattr(case, key)
        if key == "args":
            value = list(value)
        if key == "draws" and value is not None:
            value = value.file or [[s.x1, s.y1, s.x2, s.y2, *([s.ink] if s.ink else [])]
                                   for s in value.lines]  # fmt: skip
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
    dropped = escaped.count("\n") > text.count("\n")  # it has been put there: see tomlkit 0.15
    return String(StringType.MLB, text, escaped if dropped else "\n" + escaped, Trivia())


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
    """Replace a plan's file in one move; raises PlanError, the old one being as it was then."""
    try:
        replace_file(path, text.encode("utf-8"))
    except SaveError as error:
        raise PlanError(error.text, hint=error.hint, file=path.name) from error
