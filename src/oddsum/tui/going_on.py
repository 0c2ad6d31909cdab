"""An exception of our own, in a key, a job, a message or a drawing: told, and the work goes on.

Textual ends an application for any exception. Here it becomes a sentence with a report file. What
draws and fails at it would fail again at the next picture: the panel says so in its place, until it
is opened anew. Where nothing else helps, the application ends with the same sentence.
"""

from __future__ import annotations

import time
from collections import deque
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from typing import Any

from rich.segment import Segment
from textual.message import Message
from textual.message_pump import MessagePump
from textual.screen import Screen
from textual.strip import Strip
from textual.widget import Widget

from oddsum import __version__
from oddsum.model.errors import OddSumError
from oddsum.source.fault_report import fault_told

_MOST, _WITHIN = 25, 5.0  # faults in so many seconds: it cannot go on
_QUIET = 10.0  # seconds in which the same fault is not told again
_IN_ITS_PLACE = "This panel cannot be drawn. Go to another station and back."


class GoingOn:
    """Takes exceptions; ``tell`` shows one, ``give_up`` ends the application with one."""

    def __init__(
        self, tell: Callable[[OddSumError], None], give_up: Callable[[OddSumError], None]
    ) -> None:
        self._tell, self._give_up = tell, give_up
        self._times: deque[float] = deque(maxlen=_MOST)
        self._told: dict[tuple[str, str], float] = {}
        self._over = False
        self.raises = False  # in a test that is not about this

    @contextmanager
    def at(self, where: str) -> Iterator[None]:
        """Whatever is done inside may fail."""
        try:
            yield
        except Exception as error:
            if self.raises:
                raise
            self.take(error, where)

    def take(self, error: BaseException, where: str) -> None:
        """Tell it, once; and put a sentence in the place of what cannot be drawn."""
        if self._over:
            return
        now = time.monotonic()
        self._times.append(now)
        widget = _drawing(error)
        if widget is not None:
            _put_sentence(widget)
        key = type(error).__name__, where
        often = len(self._times) == _MOST and now - self._times[0] < _WITHIN
        if now - self._told.get(key, -_QUIET) < _QUIET and not often:
            return
        self._told[key] = now
        told = fault_told(error, where, __version__)
        if often:
            self._over = True
            self._give_up(told)
        else:
            self._tell(told)


def guard_messages(going_on: Callable[[MessagePump], GoingOn | None]) -> None:
    """What takes a message and fails at it goes on with the next one: by itself it would be dead.

    The one place where Textual lets all of them be reached is its class for them.
    """
    dispatch: Any = MessagePump._dispatch_message
    if getattr(dispatch, "guarded", False):
        return

    async def guarded(pump: MessagePump, message: Message) -> None:
        try:
            await dispatch(pump, message)
        except Exception as error:
            goes_on = going_on(pump)
            if goes_on is None or goes_on.raises:
                raise
            goes_on.take(error, type(message).__name__)

    guarded.guarded = True  # type: ignore[attr-defined]
    MessagePump._dispatch_message = guarded  # type: ignore[method-assign, assignment]


_DRAWS = frozenset({"render", "render_line", "render_lines", "_render", "_render_content"})


def _drawing(error: BaseException) -> Widget | None:
    """The widget that was being drawn, the innermost one; None where none was."""
    found, trace = None, error.__traceback__
    while trace is not None:
        frame = trace.tb_frame
        widget = frame.f_locals.get("self")
        if frame.f_code.co_name in _DRAWS and isinstance(widget, Widget):
            found = widget
        trace = trace.tb_next
    return None if isinstance(found, Screen) else found


def _put_sentence(widget: Widget) -> None:
    def line(y: int) -> Strip:
        text = _IN_ITS_PLACE if y == 0 else ""
        return Strip([Segment(text, widget.rich_style)]).adjust_cell_length(widget.size.width)

    widget.render = lambda: _IN_ITS_PLACE  # type: ignore[method-assign]
    widget.render_line = line  # type: ignore[method-assign]
    widget.refresh()
