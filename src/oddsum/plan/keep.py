"""A plan's file while it is worked on: changed only if nobody else has changed it meanwhile."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from oddsum.model.case import Case, Plan
from oddsum.model.errors import PlanError
from oddsum.plan import edit
from oddsum.plan.commands import head_for
from oddsum.plan.read import parse_plan
from oddsum.plan.write import read_text, write_text

Change = Callable[[str], str]


class ChangedOnDisk(PlanError):
    """Somebody else has changed the plan since it was read; nothing was written."""


class PlanFile:
    """A plan on disk, with the text as it was last read and what can be taken back.

    Every change is parsed before it is written: what comes out is a plan, or nothing is written.
    """

    def __init__(self, path: Path, program: Path) -> None:
        self.path, self.program = path, program
        self.seen = read_text(path)
        self.head = head_for(program)  # what a plan begins with that is not there yet
        self._before: list[tuple[str, str]] = []  # what was done, and the text before it

    def plan(self) -> Plan:
        """The plan as it was last read; raises PlanError."""
        return parse_plan(self.seen, self.path, self.program)

    def read_again(self) -> bool:
        """Take the text as it is on disk; says whether it is another. What was done stays done.

        What can be taken back is forgotten then: it would undo somebody else's work as well.
        """
        text = read_text(self.path)
        if text == self.seen:
            return False
        self.seen, self._before = text, []
        return True

    def change(self, what: str, make: Change) -> Plan:
        """Change the plan and write it; returns the new one.

        ``what`` names it for taking it back. Raises ChangedOnDisk, PlanError; then all is as it
        was.
        """
        self._refuse_changed()
        text = make(self.seen or self.head)
        plan = parse_plan(text, self.path, self.program)
        write_text(self.path, text)
        self._before.append((what, self.seen))
        self.seen = text
        return plan

    def add(self, *cases: Case, after: int | None = None) -> Plan:
        """Add cases at the end, or behind one; a name that is taken gets a number."""

        def make(text: str) -> str:
            taken = {c.name for c in parse_plan(text, self.path, self.program).cases}
            for at, case in enumerate(cases):
                name = edit.free_name(case.name, frozenset(taken))
                taken.add(name)
                named = _named(case, name)
                text = edit.add(text, named, None if after is None else after + at)
            return text

        names = cases[0].name if len(cases) == 1 else f"{len(cases)} cases"
        return self.change(f"adding {names}", make)

    @property
    def last_change(self) -> str:
        """What would be taken back, blank for nothing."""
        return self._before[-1][0] if self._before else ""

    def take_back(self) -> Plan:
        """Undo the last change; raises ChangedOnDisk, PlanError."""
        self._refuse_changed()
        if not self._before:
            raise PlanError("There is nothing to take back.")
        _, text = self._before[-1]
        plan = parse_plan(text, self.path, self.program)
        write_text(self.path, text)
        self._before.pop()
        self.seen = text
        return plan

    def _refuse_changed(self) -> None:
        if read_text(self.path) != self.seen:
            raise ChangedOnDisk(
                f"{self.path.name} was changed outside of Odd Sum meanwhile; "
                "nothing was written over it.",
                hint="It is read again now. Look at it, then do this once more.",
                file=self.path.name,
            )


def _named(case: Case, name: str) -> Case:
    import msgspec

    return msgspec.structs.replace(case, name=name)
