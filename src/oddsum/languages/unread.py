"""A source whose language nobody here reads: it has lines, and that is all that is known of it."""

from __future__ import annotations

from pathlib import Path

from oddsum.languages import switching
from oddsum.languages.language import Reading
from oddsum.languages.outline import Fork, Function, Limit, Loop, Reads
from oddsum.model.case import Case
from oddsum.source.program import Source


class _Nothing:
    """Whatever could be read off a source is not there."""

    def own_files(self, program: Path) -> tuple[Path, ...]:
        """The program's file; what it takes in besides is not known."""
        return (program.resolve(),)

    def functions(self, source: Source) -> tuple[Function, ...]:
        """None is known."""
        return ()

    def loops(self, source: Source) -> tuple[Loop, ...]:
        """None is known."""
        return ()

    def limits(self, source: Source) -> tuple[Limit, ...]:
        """None is known."""
        return ()

    def forks(self, source: Source) -> tuple[Fork, ...]:
        """None is known."""
        return ()

    def reads(self, source: Source) -> dict[int, Reads]:
        """Nothing is known."""
        return {}

    def statements(self, source: Source) -> tuple[int, ...]:
        """None is known."""
        return ()

    def statement_at(self, source: Source, line: int) -> int:
        """The line itself."""
        return line

    def asks_for_input(self, source: Source) -> bool:
        """It may."""
        return True

    def prompts(self, source: Source) -> tuple[str, ...]:
        """None is known."""
        return ()

    def unsteady_calls(self, source: Source) -> tuple[tuple[int, str], ...]:
        """None is known."""
        return ()

    def unseeded_calls(self, source: Source) -> tuple[tuple[int, str], ...]:
        """None is known."""
        return ()

    def grouped(self, line: str) -> str:
        """As it stands."""
        return line

    def example_of(self, function: Function, parameter: str, source: Source) -> str:
        """Nothing is known."""
        return ""

    def plain_mistake(self, message: str, text: str = "", column: int = 0) -> str:
        """The tool that ran it has said it in its own words."""
        return ""

    def plain_stop(self, kind: str, message: str) -> str:
        """What ran it has said it in its own words."""
        return ""

    def opened_at(self, source: Source, message: str) -> str:
        """Nothing is known."""
        return ""


NOTHING: Reading = _Nothing()


class Lines:
    """What an editor can do with lines alone."""

    def __init__(self, comment: str) -> None:
        self._comment = comment

    def examples(self, source: Source) -> tuple[tuple[Case, ...], tuple[str, ...]]:
        """None can be told from the rest of the text."""
        return (), ()

    def switched(self, source: Source, line: int) -> tuple[str, bool]:
        """Where a statement ends is not known. Raises SwitchError."""
        raise switching.SwitchError(
            "Where a statement of this language ends is not known here.",
            hint="Make its lines comments, and back.",
        )

    def off_lines(self, text: str) -> tuple[int, ...]:
        """None."""
        return ()

    def commented(self, rows: list[str]) -> list[str]:
        """Rows made comments, or no longer."""
        return switching.commented(rows, self._comment)

    def next_indent(self, before: str) -> str:
        """As far in as the line before; further after a bracket that opens a block."""
        indent = before[: len(before) - len(before.lstrip())]
        return indent + ("    " if before.rstrip().endswith("{") else "")
