"""Which part of a trace is shown: one function, some lines, some variables."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from oddsum.model.column import is_watched, short_name
from oddsum.model.errors import OddSumError
from oddsum.model.trace import Step


class FilterError(OddSumError):
    """A part of a trace that there is none of, or that cannot be read."""


@dataclass(frozen=True)
class Shown:
    """What is shown: all of it where nothing is said. ``lines`` are pairs, both ends included."""

    function: str | None = None
    lines: tuple[tuple[int, int], ...] = ()
    variables: tuple[str, ...] = ()

    def keeps(self, step: Step) -> bool:
        """Whether a step is shown."""
        if self.function is not None and step.function != self.function:
            return False
        return not self.lines or any(first <= step.line <= last for first, last in self.lines)

    def names(self, columns: Sequence[str]) -> tuple[str, ...]:
        """The columns that are shown; raises FilterError where a variable is in none of them."""
        if not self.variables:
            return tuple(columns)
        found: list[str] = []
        for name in self.variables:
            mine = [c for c in columns if name in (c, short_name(c))]
            if not mine:
                known = ", ".join(c for c in columns[:12])
                raise FilterError(
                    f"No variable is called {name} in this trace.",
                    hint=f"There are: {known}." if known else "There are none.",
                )
            found += mine
        watched = [c for c in columns if is_watched(c)]
        return tuple(dict.fromkeys([*found, *watched]))


EVERYTHING = Shown()


def lines_from(text: str) -> tuple[tuple[int, int], ...]:
    """``8,12-15`` as pairs of lines; raises FilterError."""
    found = []
    for part in text.split(","):
        first, dash, last = part.strip().partition("-")
        if not first.isdigit() or (dash and not last.isdigit()):
            raise FilterError(f"{part.strip() or text!r} is no line.",
                              hint="Write lines as 8 or 8-12, with commas between.")  # fmt: skip
        found.append((int(first), int(last) if dash else int(first)))
    return tuple(found)
