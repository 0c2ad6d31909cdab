"""The lines that a walk through a recording stops at."""

from __future__ import annotations

from oddsum.trace.breakpoints import Breakpoint, hits
from oddsum.trace.words import counted
from oddsum.workspace.files import Files
from oddsum.workspace.interface import Interface, Part
from oddsum.workspace.tracing import Traced, Tracing


class Breakpoints:
    """One a line, by file and line; they stay from one recording to the next."""

    def __init__(self, files: Files, tracing: Tracing, interface: Interface) -> None:
        self._files, self._tracing, self._interface = files, tracing, interface
        self.at: dict[tuple[str, int], Breakpoint] = {}

    def __bool__(self) -> bool:
        return bool(self.at)

    def typed_at(self, file: str, line: int) -> str:
        """What was typed for the one at a line: its condition, or its round; else nothing."""
        kept = self.at.get((file, line))
        if kept is None:
            return ""
        return f"round {kept.round}" if kept.round else kept.condition

    def toggle(self, file: str, line: int) -> None:
        """Stop at a line every time, or no longer."""
        if self.at.pop((file, line), None) is not None:
            self._interface.changed(Part.TRACE)
        else:
            self.set(Breakpoint(file, line))

    def set(self, one: Breakpoint) -> None:
        """Put one in the place of what is at its line, and say how often it stops here."""
        traced = self._tracing.walked
        if traced is None:
            return
        self.at[one.file, one.line] = one
        times = counted(len(self._hits(traced, one)), "time")
        when = "" if one.words == "always" else f" {one.words}"
        self._interface.say(f"Line {one.line} is held{when}. It stops {times} in this case.")
        self._interface.changed(Part.TRACE)

    def _hits(self, traced: Traced, one: Breakpoint) -> list[int]:
        return hits(traced.story, one, self._files.loops_of(one.file))

    def stops(self) -> list[int]:
        """The steps at which a walk through the recording stops, in order."""
        traced = self._tracing.walked
        if traced is None:
            return []
        return sorted({n for one in self.at.values() for n in self._hits(traced, one)})
