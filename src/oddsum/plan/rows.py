"""A plan as it stands in its file: which keys there are, of which type, and how to say so.

``msgspec`` holds the file against these structs. What a key should have been is said in the
``description`` beside its type.
"""

from __future__ import annotations

from typing import Annotated, Any, Literal, get_args, get_origin, get_type_hints

import msgspec
from msgspec import Meta

from oddsum.model.case import Allow, Kind, Prompts, Reveal, Rule, TopLevel

_MOST = 1_000_000  # seconds or MB: what is more is a slip of the pen, and no clock takes it
_FILES = '{ "name" = "content" }'

Text = Annotated[str, Meta(description='a text, in quotes: "like this"')]
Flag = Annotated[bool, Meta(description="true or false")]
Whole = Annotated[int, Meta(description="a whole number")]
Amount = Annotated[float, Meta(gt=0, le=_MOST, description=f"a number above 0, at most {_MOST:,}")]
Share = Annotated[float, Meta(ge=0, le=_MOST, description="a number, 0 or more")]
Texts = Annotated[tuple[str, ...], Meta(description='a list of texts: ["like", "this"]')]
Command = Annotated[
    tuple[str, ...],
    Meta(min_length=1, description='a command as a list: ["cc", "fares.c", "-o", "fares"]'),
]
Allowed = Annotated[
    tuple[Allow, ...], Meta(description='a list of "network", "processes", "files"')
]
FilesIn = Annotated[dict[str, str], Meta(description=_FILES)]


class _SettingsRow(msgspec.Struct, kw_only=True, forbid_unknown_fields=True):
    compare: Rule | None = None
    tolerance: Share | None = None
    ignore_case: Flag | None = None
    prompts: Prompts | None = None
    timeout: Amount | None = None
    seed: Whole | None = None
    today: Text | None = None
    memory: Amount | None = None
    output: Amount | None = None


class TopRow(_SettingsRow, kw_only=True, forbid_unknown_fields=True):
    """What may stand at the top of a plan."""

    top_level: TopLevel = "needed"
    fence: Flag = False
    allow: Allowed = ()
    reveal: Reveal | None = None
    guess_first: Flag = False
    author: Text = ""
    build: Command | None = None
    run: Command | None = None


class CaseRow(_SettingsRow, kw_only=True, forbid_unknown_fields=True):
    """What may stand in a case. ``draws`` is looked at by ``pictures.py``."""

    name: Text | None = None
    kind: Kind = "normal"
    note: Text = ""
    disabled: Flag = False
    stdin: Text | None = None
    args: Texts = ()
    files: FilesIn = {}
    call: Text | None = None
    before: Text | None = None
    stdout: Text | None = None
    returns: Text | None = None
    raises: Text | None = None
    exit: Whole | None = None
    writes: FilesIn | None = None
    draws: Any = None
    check: Text | None = None


def wanted(row: type[msgspec.Struct]) -> dict[str, str]:
    """What each key of a row should be, in words."""
    hints = get_type_hints(row, include_extras=True)
    return {key: _words(hint) for key, hint in hints.items()}


def _words(hint: Any) -> str:
    if get_origin(hint) is Literal:
        return "one of " + ", ".join(f'"{c}"' for c in get_args(hint))
    for part in get_args(hint):
        if isinstance(part, Meta) and part.description:
            return part.description
        words = _words(part)
        if words:
            return words
    return ""
