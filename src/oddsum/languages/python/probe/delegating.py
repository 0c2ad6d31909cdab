"""``yield from``: what it goes through is handed on item by item, so that each time the generator
steps out and goes on is noted, as of a plain ``yield``."""

from __future__ import annotations

TYPE_CHECKING = False  # importing typing would cost every run some milliseconds
if TYPE_CHECKING:
    from typing import Any


class Delegate:
    """Stands in for what a ``yield from`` goes through; all that is sent or thrown in passes."""

    def __init__(self, calls: Any, statement: int, items: Any) -> None:
        self._calls, self._statement = calls, statement
        self._items = iter(items)
        self._waits = False  # an item was handed out; the generator has stepped out

    def __iter__(self) -> Any:
        return self

    def __next__(self) -> Any:
        return self.send(None)

    def send(self, value: Any) -> Any:
        """Go on with a value."""
        if self._waits:
            self._calls.on_z(self._statement, None)
        return self._out(next(self._items) if value is None else self._items.send(value))

    def throw(self, *error: Any) -> Any:
        """Go on with an exception."""
        self._calls.wake()
        thrown = getattr(self._items, "throw", None)
        if thrown is None:
            raise error[0] if len(error) == 1 else error[1] or error[0]
        return self._out(thrown(*error))

    def close(self) -> None:
        """End it early."""
        closed = getattr(self._items, "close", None)
        if closed is not None:
            closed()

    def _out(self, item: Any) -> Any:
        self._waits = True
        self._calls.on_y(self._statement, item)
        return item
