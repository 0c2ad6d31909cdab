"""The recorded trace: numbered steps, a row each, and what changed in each."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal

import msgspec

Event = Literal["call", "back", "return", "raise", "input"]


class Value(msgspec.Struct, frozen=True):
    """A value as it was at a step: a safe text of it, never the value itself.

    ``size`` is the length of a text or container, None where there is none. ``whole`` is False
    where ``text`` leaves something out or does not look inside. ``number`` is that of the object,
    the same for all names that hold it; 0 where it is none that can change.
    """

    type: str
    text: str
    size: int | None = None
    whole: bool = True
    number: int = 0


class Change(msgspec.Struct, frozen=True):
    """One variable that got another value. ``after`` is None when the name is gone.

    ``frame``: the call whose variable it is, 0 for the module; it may be another than the step's.
    """

    name: str
    before: Value | None
    after: Value | None
    frame: int = 0


class Statement(msgspec.Struct, frozen=True):
    """A place a step can be at. ``function`` is blank in the module; lines count from 1."""

    file: str
    line: int
    end: int
    function: str
    kind: str


class Step(msgspec.Struct, frozen=True, kw_only=True):
    """One row of the trace table; ``number`` counts from 1.

    ``frame`` numbers the call it belongs to (0 is the module), so that a recursive function's
    variables of different calls are kept apart. ``thread`` names the thread or task, blank for the
    main one. ``round`` is set on the header of a ``for``:
    the round that begins here, 0 when there is none left.
    """

    number: int
    statement: Statement
    depth: int
    frame: int
    visit: int | None
    events: tuple[Event, ...] = ()
    condition: bool | None = None
    round: int | None = None
    output: str = ""
    changes: tuple[Change, ...] = ()
    value: Value | None = None
    thread: str = ""

    @property
    def line(self) -> int:
        """The line the step is at."""
        return self.statement.line

    @property
    def function(self) -> str:
        """The function the step is in; blank in the module."""
        return self.statement.function


class Trace(msgspec.Struct, frozen=True, kw_only=True):
    """A whole recording; ``complete`` is False where it was cut, and ``left_out`` says why.

    ``missing``: the first and the last of the steps in the middle that were not kept.
    ``returned``: the text of what the call of the case gave in the recording, None where it gave
    nothing.
    """

    program: str
    case: str
    number: int | None
    steps: Sequence[Step]
    outcome: str
    complete: bool
    left_out: str = ""
    missing: tuple[int, int] | None = None
    returned: str | None = None
    remarks: tuple[str, ...] = ()
