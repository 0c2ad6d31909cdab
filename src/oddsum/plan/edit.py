"""Changes a plan's text, case by case: every line that is not meant stays as people wrote it.

A case is the block from its ``[[case]]`` to the next one; comment lines right above it, with no
empty line between, belong to it and move along.
"""

from __future__ import annotations

import re
from dataclasses import dataclass
from itertools import pairwise

import tomlkit
from tomlkit.exceptions import TOMLKitError

from oddsum.model.case import Case
from oddsum.model.errors import PlanError
from oddsum.plan.write import case_text, put_value, values_of

_HEAD = re.compile(r"^[ \t]*\[\[\s*case\s*\]\]", re.MULTILINE)


@dataclass(frozen=True)
class Blocks:
    """A plan's text in pieces: what stands ahead of the cases, then a piece a case."""

    head: str
    cases: tuple[str, ...]

    @property
    def text(self) -> str:
        """The whole text."""
        return self.head + "".join(self.cases)


def blocks(text: str) -> Blocks:
    """Cut a plan's text before each case and the comment lines right above it."""
    cuts = [_with_comments(text, m.start()) for m in _outside_texts(text)]
    pieces = tuple(text[a:b] for a, b in pairwise([*cuts, len(text)]))
    return Blocks(text[: cuts[0]] if cuts else text, pieces)


def _outside_texts(text: str) -> list[re.Match[str]]:
    """The heads of cases; those that only stand in a text of several lines are none."""
    inside = [m.span() for m in re.finditer(r'"""[\s\S]*?"""|\'\'\'[\s\S]*?\'\'\'', text)]
    return [m for m in _HEAD.finditer(text) if not any(a < m.start() < b for a, b in inside)]


def _with_comments(text: str, at: int) -> int:
    lines = text[:at].split("\n")[:-1]
    while lines and lines[-1].lstrip().startswith("#"):
        at -= len(lines.pop()) + 1
    return at


def add(text: str, case: Case, after: int | None = None) -> str:
    """Put a case behind case number ``after``, or at the end."""
    parts = blocks(text)
    place = len(parts.cases) if after is None else after
    pieces = list(parts.cases)
    pieces.insert(place, case_text(case))
    return _joined(parts.head, pieces)


def duplicate(text: str, number: int, name: str) -> str:
    """Put a copy of a case, under another name, behind it."""
    parts = blocks(text)
    copy = _edited(parts.cases[number - 1], {"name": name})
    pieces = list(parts.cases)
    pieces.insert(number, copy.rstrip("\n") + "\n")
    return _joined(parts.head, pieces)


def delete(text: str, number: int) -> str:
    """Take a case out, with the comments that belong to it."""
    parts = blocks(text)
    pieces = [p for n, p in enumerate(parts.cases, 1) if n != number]
    return _joined(parts.head, pieces) if pieces else parts.head


def move(text: str, number: int, by: int) -> str:
    """Let a case change places with its neighbour, by -1 or +1; at the ends nothing moves."""
    parts = blocks(text)
    pieces, other = list(parts.cases), number - 1 + by
    if not 0 <= other < len(pieces):
        return text
    pieces[number - 1], pieces[other] = pieces[other], pieces[number - 1]
    return _joined(parts.head, pieces)


def set_disabled(text: str, number: int, disabled: bool) -> str:
    """Set a case aside, or take it back."""
    parts = blocks(text)
    pieces = list(parts.cases)
    pieces[number - 1] = _edited(pieces[number - 1], {"disabled": disabled or None})
    return parts.head + "".join(pieces)


def replace(text: str, number: int, case: Case) -> str:
    """Give a case the keys of another; what stays the same is not touched."""
    parts = blocks(text)
    pieces = list(parts.cases)
    pieces[number - 1] = _edited(pieces[number - 1], values_of(case))
    return parts.head + "".join(pieces)


def _edited(piece: str, values: dict[str, object]) -> str:
    """One case's text with some keys set; None takes a key out."""
    try:
        document = tomlkit.parse(piece)
        table = document["case"][0]
    except (TOMLKitError, KeyError, IndexError) as error:
        raise PlanError(
            "This case is written in a way that Odd Sum cannot change.",
            hint="Change it in your editor; it is read again when you save it.",
        ) from error
    for key, value in values.items():
        if value is None:
            if key in table:
                del table[key]
        elif key not in table or _plain(table[key]) != value:
            put_value(table, key, value)
    return tomlkit.dumps(document)


def _plain(item: object) -> object:
    return item.unwrap() if hasattr(item, "unwrap") else item


def _joined(head: str, pieces: list[str]) -> str:
    """Put the pieces together, an empty line between each two."""
    text = head
    for piece in pieces:
        if text and not text.endswith("\n\n"):
            text += "\n" if text.endswith("\n") else "\n\n"
        text += piece
    return text.rstrip("\n") + "\n"


def free_name(name: str, taken: frozenset[str]) -> str:
    """A name that no case has yet: the one given, or with a number behind it."""
    if name not in taken:
        return name
    stem = re.sub(r" \(\d+\)$", "", name)
    return next(n for n in (f"{stem} ({k})" for k in range(2, 10_000)) if n not in taken)
