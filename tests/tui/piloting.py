"""The application in a test: opened, waited for, read off the screen."""

from __future__ import annotations

import asyncio
import contextlib
import random
import sys
import threading
import time
from collections.abc import AsyncIterator, Callable
from contextlib import asynccontextmanager
from pathlib import Path
from typing import Any

from textual._compositor import Compositor
from textual._context import visible_screen_stack
from textual.app import App
from textual.css.stylesheet import Stylesheet
from textual.pilot import Pilot
from textual.strip import Strip
from textual.widgets import Button

from conftest import MANY
from oddsum.tui.app import OddSumApp
from oddsum.workspace.jobs import Jobs

WIDE, NARROW = (160, 47), (80, 24)


def sizes(usual: tuple[int, int]) -> list[tuple[int, int]]:
    """Both sizes where there is time; else the one in which more can go wrong."""
    return [WIDE, NARROW] if MANY else [usual]


_parse, _parsed = Stylesheet._parse_rules, {}  # type: ignore[var-annotated]


def _parse_once(self: Stylesheet, css: str, *more: object, **named: object) -> object:
    """Each test has an application of its own; reading all their style sheets anew is a sixth of
    what such a test takes.
    """
    key = css, more, tuple(named.items()), tuple(sorted(self._variables.items()))
    if key not in _parsed:
        _parsed[key] = _parse(self, css, *more, **named)  # type: ignore[arg-type]
    return _parsed[key]


def _no_picture(self: Compositor, full: bool = False, screen_stack: Any = None, **_: Any) -> None:
    """Without a terminal a picture is drawn and thrown away, which is half of what such a test
    takes: here it is drawn when the test looks at it (``screen``).
    """
    visible_screen_stack.set(screen_stack or [])
    self._dirty_regions.clear()


Stylesheet._parse_rules = _parse_once  # type: ignore[method-assign, assignment]
real_picture = Compositor.render_update
Compositor.render_update = _no_picture  # type: ignore[method-assign]


async def _pause(self: Pilot[None], delay: float | None = None) -> None:
    """``pause`` takes a process for done that has little of the processor, as on a busy machine:
    here it waits until all that was sent has been taken in.
    """
    await _real_pause(self, delay)
    for _ in range(2):  # what is taken in sends more
        for pump in (self.app, self.app.screen):
            taken_in = asyncio.Event()
            if pump.is_running and pump.call_later(taken_in.set):
                with contextlib.suppress(TimeoutError):  # it ends meanwhile
                    await asyncio.wait_for(taken_in.wait(), 5)


_real_pause = Pilot.pause
Pilot.pause = _pause  # type: ignore[method-assign, assignment]


def _late(name: str, work: Callable[[], None]) -> None:
    """A job that begins, and so ends, some time later than it could."""

    def begin() -> None:
        time.sleep(random.choice((0, 0, 0.1, 0.6)))
        work()

    threading.Thread(target=begin, name=name).start()


if MANY:  # in a soak, what a screen waits for comes when it likes, and in whatever order
    Jobs.__init__.__defaults__ = (_late,)  # type: ignore[misc]


@asynccontextmanager
async def opened(
    path: Path, size: tuple[int, int] = WIDE, checked: bool = True
) -> AsyncIterator[Pilot[None]]:
    """The application on a program, its plan run."""
    app = OddSumApp(path, None, sys.executable)
    app.going_on.raises = True
    async with app.run_test(size=size) as pilot:
        if checked:
            await until(
                pilot,
                lambda: (
                    bool(app.workspace.checking.checked_at) and app.workspace.checking.complete()
                ),
            )
        yield pilot


async def until(pilot: Pilot[None], holds: Callable[[], bool], seconds: float = 60.0) -> None:
    """Wait for something to hold, letting the application go on."""
    end = time.monotonic() + seconds
    while time.monotonic() < end:
        await pilot.pause()
        if holds():
            await pilot.pause()
            return
        await asyncio.sleep(0.05)
    shown = "\n".join(line.rstrip() for line in screen(pilot).split("\n") if line.strip())
    raise AssertionError(f"it never came to hold; on the screen:\n{shown}")


def screen(pilot: Pilot[None]) -> str:
    """What is on the screen, as text."""
    return "\n".join("".join(s.text for s in strip) for strip in drawn(pilot.app))


def drawn(app: App[None]) -> list[Strip]:
    """The lines of the screen in front, with what shows through from behind it."""
    visible_screen_stack.set(app._background_screens)  # each drawing takes from it
    return app.screen._compositor.render_strips()[: app.size.height]


def said(pilot: Pilot[None]) -> str:
    """What the application has said in passing, at the edge of the screen."""
    return "\n".join(n.message for n in pilot.app._notifications)


def cut_off(pilot: Pilot[None]) -> list[str]:
    """The buttons of the screen in front that stand beyond its edge."""
    shown = [b for b in pilot.app.screen.query(Button) if b.region.area]
    return [str(b.label) for b in shown if b.region.right > pilot.app.size.width]
