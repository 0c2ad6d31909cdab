"""What an import found: cases, and a sentence for each thing that could not be taken."""

from __future__ import annotations

import msgspec

from oddsum.model.case import Case


class Imported(msgspec.Struct, frozen=True):
    """Cases as they were found, numbered from 1, and what was left out, a sentence each."""

    cases: tuple[Case, ...]
    left_out: tuple[str, ...] = ()


def numbered(cases: list[Case]) -> tuple[Case, ...]:
    """The cases with numbers from 1 on."""
    return tuple(msgspec.structs.replace(c, number=n) for n, c in enumerate(cases, 1))
