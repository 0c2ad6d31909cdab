"""A run as it stood on a terminal, taken apart into what was typed and what was printed."""

from __future__ import annotations

import re
from collections.abc import Sequence

from oddsum.languages.outline import HOLE


def taken_apart(text: str, prompts: Sequence[str]) -> tuple[str, str]:
    """What was typed in and what was printed, each with its line ends.

    A line that begins with one of the prompts was asked there: what stands behind is the answer.
    Where several fit, the longest does; a HOLE in one stands for any text. Blank lines at the
    beginning and the end are left out.
    """
    asked = [_pattern(p) for p in sorted(prompts, key=len, reverse=True) if p.strip(f" {HOLE}")]
    typed: list[str] = []
    printed: list[str] = []
    for line in text.strip("\n").splitlines():
        found = next((m for pattern in asked if (m := pattern.match(line))), None)
        if found is None:
            printed.append(line)
        else:
            typed.append(line[found.end() :].strip())
    return _lines(typed), _lines(printed)


def _pattern(prompt: str) -> re.Pattern[str]:
    return re.compile(".*?".join(re.escape(part) for part in prompt.rstrip().split(HOLE)))


def _lines(lines: list[str]) -> str:
    return "\n".join(lines) + "\n" if any(lines) else ""
