"""Reads a test plan kept in a spreadsheet: a row a case, saved as CSV."""

from __future__ import annotations

import csv
import difflib
import io
from pathlib import Path
from typing import Any, get_args

from oddsum.languages.language import Asking
from oddsum.languages.notation import DEFAULT
from oddsum.model.case import Case, Kind
from oddsum.model.errors import PlanError
from oddsum.plan.imported import Imported, numbered

# The titles a column may have, in any case; the first is the one that is written.
COLUMNS: dict[str, tuple[str, ...]] = {
    "name": ("name", "case", "test", "title"),
    "kind": ("kind", "type", "type of data"),
    "input": ("input", "stdin", "typed in", "data"),
    "call": ("call",),
    "expected": ("expected", "expected output", "expected result", "stdout"),
    "returns": ("returns", "expected value"),
    "raises": ("raises", "expected error", "exception"),
    "before": ("before",),
    "check": ("check",),
    "exit": ("exit", "exit status"),
    "note": ("note", "notes", "reason", "comment"),
}
WRITTEN_BACK = ("number", "actual", "outcome", "difference")  # ours to write, never read
_KINDS = get_args(Kind)
_ALSO = {"valid": "normal", "typical": "normal", "extreme": "boundary", "limit": "boundary",
         "erroneous": "invalid", "": "normal"}  # fmt: skip


def read_sheet(path: Path, asking: Asking = DEFAULT) -> Imported:
    """Read the cases of a CSV file; raises PlanError with the row and the column.

    ``asking`` is the language of the program, in which calls and values are written.
    Rows are counted as a spreadsheet counts them, the titles being row 1. An empty expected cell
    leaves the case open.
    """
    rows = _rows(path)
    titles, unread = _titles(path, rows)
    cases = [
        _case(path, number, row, titles, asking)
        for number, row in enumerate(rows[1:], 2)
        if any(cell.strip() for cell in row)
    ]
    if not cases:
        raise PlanError(f"{path.name} has no row under its titles.", file=path.name)
    return Imported(numbered(cases), unread)


def _rows(path: Path) -> list[list[str]]:
    try:
        text = path.read_bytes().decode("utf-8-sig")
    except UnicodeDecodeError as error:
        line = error.object[: error.start].count(b"\n") + 1
        raise PlanError(
            f"{path.name}, line {line}: this is not text in UTF-8.",
            hint="Save the sheet as CSV in UTF-8.",
            file=path.name,
            line=line,
        ) from error
    except OSError as error:
        raise PlanError(f"{path} cannot be read: {error.strerror}.", file=path.name) from error
    first = text.split("\n", 1)[0]
    mark = max(",;\t", key=first.count)
    reader = csv.reader(io.StringIO(text, newline=""), delimiter=mark, strict=True)
    rows: list[list[str]] = []
    try:
        rows.extend(reader)
    except csv.Error as error:
        raise PlanError(
            f"{path.name}, row {len(rows) + 1} (line {reader.line_num}): this is not CSV: {error}.",
            hint='A quote within a cell is written twice: "".',
            file=path.name,
            line=reader.line_num,
        ) from error
    if not rows:
        raise PlanError(f"{path.name} is empty.", file=path.name)
    return rows


def _titles(path: Path, rows: list[list[str]]) -> tuple[list[str], tuple[str, ...]]:
    """For each column what it is, blank for those that are not read; and a sentence for each of
    these. A title that is nearly one that is known is no column of somebody's own: it is refused.
    """
    found: list[str] = []
    unread: list[str] = []
    for at, title in enumerate(rows[0], 1):
        plain = " ".join(title.strip().casefold().split())
        key = next((k for k, names in COLUMNS.items() if plain in names), "")
        if key and key in found:
            raise PlanError(
                f"{path.name}, row 1, column {at}: two columns are for {key}.", file=path.name
            )
        if not key and plain and plain not in WRITTEN_BACK:
            known = [n for names in COLUMNS.values() for n in names]
            close = difflib.get_close_matches(plain, known, n=1, cutoff=0.75)
            if close:
                raise PlanError(
                    f"{path.name}, row 1, column {at}: {title.strip()!r} is no title that is "
                    "known.",
                    hint=f"Did you mean {close[0]!r}?",
                    file=path.name,
                    line=1,
                    column=at,
                )
            unread.append(
                f"{path.name}, column {at}, {title.strip()!r}, was not read: "
                f"known are {', '.join(COLUMNS)}."
            )
        found.append(key)
    if "input" not in found and "call" not in found:
        raise PlanError(
            f"{path.name}, row 1: there is no column for the input.",
            hint="The titles are name, kind, input and expected; or call and returns.",
            file=path.name,
            line=1,
        )
    return found, tuple(unread)


def _case(path: Path, number: int, row: list[str], titles: list[str], asking: Asking) -> Case:
    if len(row) > len(titles) and any(cell.strip() for cell in row[len(titles) :]):
        raise PlanError(
            f"{path.name}, row {number}: it has {len(row)} cells, and there are {len(titles)} "
            "titles.",
            hint="A cell with a comma in it stands in quotes.",
            file=path.name,
            line=number,
        )
    cells = {t: c for t, c in zip(titles, row, strict=False) if t}
    values: dict[str, Any] = {"name": cells.get("name", "").strip() or f"row {number}"}
    values["kind"] = _kind(path, number, titles, cells.get("kind", ""))
    values["note"] = cells.get("note", "").strip()
    for key in ("raises", "before", "check"):
        if cells.get(key, "").strip():
            values[key] = cells[key].strip()
    if cells.get("exit", "").strip():
        values["exit"] = _status(path, number, titles, cells["exit"])
    if cells.get("call", "").strip():
        if cells.get("input", "").strip():
            values["stdin"] = _text(cells["input"])
        values["call"] = _expression(path, number, titles, "call", cells, asking)
        printed = "returns" in titles  # then what is expected beside it is what is printed
        wanted = "returns" if printed else "expected"
        if cells.get(wanted, "").strip():
            values["returns"] = _expression(path, number, titles, wanted, cells, asking)
        if printed and cells.get("expected", "").strip():
            values["stdout"] = _text(cells["expected"])
    else:
        values["stdin"] = _text(cells.get("input", ""))
        if cells.get("expected", "").strip():
            values["stdout"] = _text(cells["expected"])
    return Case(number=number, **values)


def _status(path: Path, number: int, titles: list[str], text: str) -> int:
    try:
        return int(text)
    except ValueError:
        raise PlanError(
            f"{path.name}, row {number}, column {titles.index('exit') + 1}: {text.strip()!r} is no "
            "whole number.",
            file=path.name,
            line=number,
            column=titles.index("exit") + 1,
        ) from None


def _kind(path: Path, number: int, titles: list[str], text: str) -> str:
    plain = text.strip().casefold()
    kind = _ALSO.get(plain, plain)
    if kind not in _KINDS:
        raise PlanError(
            f"{path.name}, row {number}, column {titles.index('kind') + 1}: {text.strip()!r} is "
            "no kind of case.",
            hint="It is one of normal, boundary, invalid.",
            file=path.name,
            line=number,
            column=titles.index("kind") + 1,
        )
    return kind


def _expression(
    path: Path, number: int, titles: list[str], title: str, cells: dict[str, str], asking: Asking
) -> str:
    text = cells[title]
    fault = asking.expression_fault(text)
    if fault:
        column = titles.index(title) + 1
        raise PlanError(
            f"{path.name}, row {number}, column {column}: {text.strip()!r} cannot be read as "
            f"an expression: {fault}.",
            hint="A text stands in quotes there.",
            file=path.name,
            line=number,
            column=column,
        )
    return text.strip()


def _text(cell: str) -> str:
    """A cell as text that is typed in or printed: lines end where the cell has them."""
    text = cell.replace("\r\n", "\n").replace("\r", "\n")
    return text if not text or text.endswith("\n") else text + "\n"
