"""Keys act in the order in which they were pressed, each on what the one before it left.

A key goes to the field that has the focus, climbs from there to the application, and may act at
each stage; a key that comes meanwhile could overtake it, or still go to a screen that is being
left. So a key waits until the one before it has come to its end, and until whatever that one
opened is there to take keys.
"""

from __future__ import annotations

from collections import deque
from collections.abc import Awaitable, Callable

from textual import events
from textual.app import App
from textual.message_pump import MessagePump
from textual.timer import Timer

_LONGEST = 1.0  # seconds that a key is waited for; a screen that closes may take its end along


class KeysInOrder:
    """Lets one key in at a time. ``act`` is what Textual would do with it at once.

    While it is ``shut``, keys wait: what they are meant for is not there yet.
    """

    def __init__(self, app: App[None], act: Callable[[events.Key], Awaitable[None]]) -> None:
        self._app, self._act = app, act
        self._waiting: deque[events.Key] = deque()
        self._under_way = 0  # the number of the key that is, 0 for none
        self._count = 0
        self._guard: Timer | None = None
        self.shut = False

    async def take(self, key: events.Key) -> None:
        """A key was pressed."""
        self._waiting.append(key)
        await self._next()

    async def open(self) -> None:
        """What keys are meant for is there: let in those that waited."""
        self.shut = False
        await self._next()

    async def _next(self) -> None:
        if self._under_way or self.shut or not self._waiting:
            return
        self._count += 1
        self._under_way = number = self._count
        key = self._waiting.popleft()
        self._guard = self._app.set_timer(_LONGEST, lambda: self._end(number))
        await self._act(key)
        if not self._app.screen_stack:
            return  # it closes
        start = self._app.focused or self._app.screen
        self._climb(list(start.ancestors_with_self), lambda: self._settle(number))

    def _climb(self, stages: list[MessagePump], then: Callable[[], None]) -> None:
        """Go the way that the key goes, behind it, then call."""
        if not stages:
            then()
            return
        rest = stages[1:]
        if not stages[0].call_later(lambda: self._climb(rest, then)):
            self._climb(rest, then)  # it is being closed; what was above it is there still

    def _settle(self, number: int) -> None:
        """The key has acted. What it opened, or gave the focus to, comes first."""
        if self._app.screen_stack:  # else it closes
            self._climb([self._app.screen, self._app], lambda: self._settled(number))

    def _settled(self, number: int) -> None:
        self._app.call_later(self._end, number)

    async def _end(self, number: int) -> None:
        if number != self._under_way:
            return
        self._under_way = 0
        if self._guard is not None:
            self._guard.stop()
        await self._next()
