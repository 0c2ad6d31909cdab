"""What lies inside of what, after one step: which places of lists and objects hold the same object.

A recording says of each name which object it holds, and of an object what it reads like. That two
places *inside* of lists hold one list is asked for rarely, so nobody pays for it at every step:
the case is run again, up to the step in question, with a log that counts the steps itself.
"""

from __future__ import annotations

from .wire import OPERANDS

TYPE_CHECKING = False  # importing typing would cost every run some milliseconds
if TYPE_CHECKING:
    from collections.abc import Iterator
    from typing import Any

# After an exception has left a call, these are no sign that the caller goes on by itself.
_PASSING = frozenset({"p", "h", "back", "t", "k", "new"})
_BEGINNING = frozenset({"call", "back", "z", "n"})
_LEAVING = frozenset({"r", "rl", "l", "y", "x"})  # after these, what a call's names held is let go


class StepLog(list):  # type: ignore[type-arg]
    """A recorder's log that tells what lies inside of what after ``step``, and ends there.

    It counts as whoever decodes the log does: see ``trace/decode.py``.
    """

    def __init__(self, step: int) -> None:
        super().__init__(["", "o"])
        self.recorder: Any = None
        self.step, self.begun, self.told = step, 0, False
        self._web: list[Any] | None = None
        self._left = False  # an exception left a call that a statement had made
        self._asked: set[Any] = set()  # loops whose header has been visited already

    def append(self, tag: Any) -> None:
        """Note an event without operands."""
        self._event(tag, None)
        super().append(tag)

    def extend(self, told: Any) -> None:
        """Note one or several events."""
        for at in _tags(told):
            tag = told[at]
            self._event(tag, told[at - OPERANDS[tag]] if type(tag) is str else None)
        super().extend(told)

    def tell(self) -> None:
        """Send the containment, once: as it was before the step's call was left, or as it is."""
        if not self.told:
            self.told = True
            rows = self._web if self._web is not None else _web(self.recorder.holdings)
            self.recorder.channel.send("containment", rows=rows, steps=self.begun)

    def _event(self, tag: Any, first: Any) -> None:
        if self.told:
            return
        visit = type(tag) is int and tag >= 0
        if self._left and tag not in _PASSING and not visit:
            self._begin()
        self._left = first >= 0 if tag == "p" else self._left and tag == "new"
        if type(tag) is int:
            if tag >= 0:
                self._begin()
        elif tag in _BEGINNING:
            if tag == "n":
                self._asked.add(self._loop(first))
            self._begin()
        elif tag == "s":
            self._asked.add(self._loop(first))
        elif tag in ("f", "e"):
            loop = self._loop(first)
            if loop in self._asked:
                self._asked.discard(loop)
            else:
                self._begin()
        elif tag in _LEAVING and self.begun == self.step and self._web is None:
            self._web = _web(self.recorder.holdings)

    def _loop(self, statement: Any) -> Any:
        """A loop of the call under way, which may be under way in others as well."""
        stack = self.recorder.stack
        return stack[-1][2] if stack else 0, statement

    def _begin(self) -> None:
        """A step begins: what the one before it did is done."""
        if self.begun == self.step:
            self.tell()
            self.recorder.end("steps")
        self.begun += 1


def _tags(told: Any) -> Iterator[int]:
    """Where the tags of some events are, in order; they can be read from their end only."""
    found, at = [], len(told) - 1
    while at >= 0:
        tag = told[at]
        found.append(at)
        if type(tag) is int:
            at -= 1 if tag >= 0 else 2
        else:
            at -= 1 if type(tag) is bool else 1 + OPERANDS[tag]
    return reversed(found)


def _web(holdings: Any) -> list[Any]:
    """Rows ``[object, path, member]``: an object's number, and at which path in it which other is.

    Members that no name holds are given numbers after all others.
    """
    numbers = {known: held.number for known, held in holdings.by_id.items()}
    following, rows = holdings.count, []
    for held in holdings.by_id.values():
        for known, paths in held.members.items():
            if known not in numbers:
                following += 1
                numbers[known] = following
            rows += [[held.number, list(p), numbers[known]] for p in paths if p is not None]
    return rows
