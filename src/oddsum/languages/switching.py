"""A statement switched off and on again, in any language: as a comment that can be read back.

What is off stands behind something that does nothing and keeps its block from being empty, as
``pass  # off: total = 0``. Switching it on gives back every character.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Sequence

from oddsum.model.errors import OddSumError
from oddsum.source.program import Source


class SwitchError(OddSumError):
    """A line that cannot be switched off on its own."""


class Switch:
    """How a language writes what is off: ``nothing`` does nothing, ``comment`` begins a comment.

    ``statement`` gives the lines of the statement on a line, as indices from 0: its first, and past
    its last; it raises SwitchError.
    """

    def __init__(
        self, nothing: str, comment: str, statement: Callable[[Source, int], tuple[int, int]]
    ) -> None:
        self._first, self._more = f"{nothing}  {comment} off: ", f"{comment} off: "
        self._raw = f"{comment} off:|"
        self._off = re.compile(
            rf"^(?P<indent>[ \t]*)(?:{re.escape(self._first)}|{re.escape(self._more)})(?P<text>.*)$"
        )
        self._statement = statement

    def switched(self, source: Source, line: int) -> tuple[str, bool]:
        """The text with the statement on a line off, or on again; and whether it is off now.

        A statement of several lines, or one with a block, goes as a whole. Lines count from 1.
        Raises SwitchError.
        """
        lines = source.text.split("\n")
        if 1 <= line <= len(lines) and self._is_off(lines[line - 1]):
            start, stop = self._run(lines, line - 1)
            lines[start:stop] = [self._switched_on(text) for text in lines[start:stop]]
            return "\n".join(lines), False
        start, stop = self._statement(source, line)
        lines[start:stop] = self._switched_off(lines[start:stop])
        return "\n".join(lines), True

    def off_lines(self, text: str) -> tuple[int, ...]:
        """The lines, from 1, at which something is switched off."""
        lines = enumerate(text.split("\n"), 1)
        return tuple(n for n, line in lines if line.strip().startswith(self._first))

    def _is_off(self, line: str) -> bool:
        return self._off.match(line) is not None or line.startswith(self._raw)

    def _run(self, lines: list[str], at: int) -> tuple[int, int]:
        """The lines that were switched off together with the one at an index."""
        start = at
        while start > 0 and self._first not in lines[start] and self._is_off(lines[start - 1]):
            start -= 1
        stop = at + 1
        while stop < len(lines) and self._is_off(lines[stop]) and self._first not in lines[stop]:
            stop += 1
        return start, stop

    def _switched_off(self, lines: list[str]) -> list[str]:
        indent = lines[0][: len(lines[0]) - len(lines[0].lstrip())]
        made = [indent + self._first + lines[0][len(indent) :]]
        for line in lines[1:]:
            inside = line.startswith(indent)
            made.append(indent + self._more + line[len(indent) :] if inside else self._raw + line)
        return made

    def _switched_on(self, line: str) -> str:
        if line.startswith(self._raw):
            return line[len(self._raw) :]
        found = self._off.match(line)
        return found["indent"] + found["text"] if found else line


def commented(lines: Sequence[str], comment: str) -> list[str]:
    """Lines made comments, the mark in one column; or back, where all of them are already."""
    filled = [line for line in lines if line.strip()]
    if not filled:
        return list(lines)
    if all(line.lstrip().startswith(comment) for line in filled):
        return [re.sub(rf"^(\s*){re.escape(comment)} ?", r"\1", line) for line in lines]
    column = min(len(line) - len(line.lstrip()) for line in filled)
    return [f"{line[:column]}{comment} {line[column:]}" if line.strip() else line for line in lines]
