"""Claims are kept beside the program, in ``NAME.claims.toml``: never in it."""

from __future__ import annotations

import tomllib
from collections.abc import Iterable
from pathlib import Path

import msgspec
import tomlkit

from oddsum.model.claim import Claim
from oddsum.model.errors import PlanError
from oddsum.plan.write import write_text
from oddsum.source.program import Source
from oddsum.source.toml import parse_toml

_KEYS = ("holds", "file", "line", "text", "function", "case")


def claims_file(program: Path) -> Path:
    """Where the claims of a program are kept."""
    return program.with_suffix(".claims.toml")


def read_claims(program: Path) -> tuple[Claim, ...]:
    """The claims of a program, none where there is no file.

    Raises PlanError where the file cannot be read or says something that cannot be meant.
    """
    path = claims_file(program)
    try:
        told = parse_toml(path.read_text(encoding="utf-8"))
    except FileNotFoundError:
        return ()
    except (OSError, UnicodeDecodeError, tomllib.TOMLDecodeError) as error:
        raise PlanError(f"The claims cannot be read: {error}.", file=path.name,
                        hint="Mend the file, or take it away.") from None  # fmt: skip
    entries = told.get("claim", [])
    if not isinstance(entries, list):
        raise PlanError("The claims are no tables.", file=path.name, hint="Begin each: [[claim]].")
    return tuple(_claim(n, entry, path) for n, entry in enumerate(entries, 1))


def _claim(number: int, entry: object, path: Path) -> Claim:
    def wrong(what: str) -> PlanError:
        return PlanError(f"Claim {number} {what}.", file=path.name,
                         hint="A claim has holds, and line or function.")  # fmt: skip

    if not isinstance(entry, dict):
        raise wrong("is no table")
    unknown = [k for k in entry if k not in _KEYS]
    if unknown:
        raise wrong(f"has a key that means nothing here: {unknown[0]}")
    if not isinstance(entry.get("holds"), str) or not entry["holds"].strip():
        raise wrong("does not say what must hold")
    if (entry.get("line") is None) == (entry.get("function") is None):
        raise wrong("needs a line or a function, and only one of them")
    line = entry.get("line")
    if line is not None and (type(line) is not int or line < 1):
        raise wrong("has a line that is no line's number")
    for key in ("file", "text", "function", "case"):
        if key in entry and not isinstance(entry[key], str):
            raise wrong(f"has a {key} that is no text")
    return Claim(**entry)


def write_claims(program: Path, claims: Iterable[Claim]) -> None:
    """Write the claims of a program; without any, the file is taken away. Raises PlanError."""
    path, kept = claims_file(program), tuple(claims)
    if not kept:
        path.unlink(missing_ok=True)
        return
    document = tomlkit.document()
    document.add(tomlkit.comment(f"What must hold while {program.name} runs; see Odd Sum, Trace."))
    tables = tomlkit.aot()
    for claim in kept:
        table = tomlkit.table()
        for key in _KEYS:
            value = getattr(claim, key)
            if value not in (None, ""):
                table.add(key, value)
        tables.append(table)
    document.add("claim", tables)
    write_text(path, tomlkit.dumps(document))


def moved(claim: Claim, source: Source) -> Claim | None:
    """The claim at the line where it stands now; None where its line is gone.

    The line is the one it was made at while that reads the same, else the only one that does.
    """
    if claim.line is None or not claim.text:
        return claim
    lines = [line.strip() for line in source.lines]
    if claim.line <= len(lines) and lines[claim.line - 1] == claim.text.strip():
        return claim
    found = [n for n, line in enumerate(lines, 1) if line == claim.text.strip()]
    if len(found) != 1:
        return None
    return msgspec.structs.replace(claim, line=found[0])
