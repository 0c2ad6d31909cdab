"""The module that stands in for the standard drawing module: its functions, its screen, its import.

A drawing made here goes to nobody's screen; what was drawn is told at the end of the run. Keys and
clicks are never pressed in a run, so what waits for them is not called, and that is told, too.
"""

from __future__ import annotations

import builtins
import types

from . import pens
from .pens import SHEET, Turtle, Vec2D

TYPE_CHECKING = False  # importing typing would cost every run some milliseconds
if TYPE_CHECKING:
    from typing import Any

_WIDE, _HIGH = 800, 600


class Screen:
    """The sheet that is drawn on, as far as a program can ask it."""

    def __getattr__(self, name: str) -> Any:
        if name in _SCREEN_QUIET:
            return _nothing
        if name in _SCREEN_WAITS:
            return _waits
        raise AttributeError(f"the drawing's screen has no {name} here")

    def bgcolor(self, *color: Any) -> Any:
        if color:
            SHEET.ground = pens._ink(color)
        return SHEET.ground

    def window_width(self) -> int:
        return _WIDE

    def window_height(self) -> int:
        return _HIGH

    def screensize(self, *_: Any, **__: Any) -> Any:
        return (_WIDE, _HIGH)

    def colormode(self, mode: Any = None) -> float:
        return 1.0

    def mode(self, mode: Any = None) -> Any:
        if mode not in (None, "standard"):
            raise NotImplementedError(
                f"mode({mode!r}) does not work here: only the standard one does"
            )
        return "standard"

    def turtles(self) -> list[Any]:
        return [own.pen for own in pens._EXACT.values()]

    def textinput(self, title: str, prompt: str) -> str:
        return builtins.input(f"{prompt} ")

    def numinput(self, title: str, prompt: str, default: Any = None, minval: Any = None,
                 maxval: Any = None) -> Any:  # fmt: skip
        typed = builtins.input(f"{prompt} ").strip()
        return float(typed) if typed else default

    def clear(self) -> None:
        the_pen().clear()

    def reset(self) -> None:
        the_pen().reset()

    clearscreen, resetscreen = clear, reset


Turtle.getscreen = lambda self: Screen()  # type: ignore[attr-defined]
_SCREEN_QUIET = frozenset(
    "title setup tracer update delay bgpic listen register_shape addshape getshapes "
    "setworldcoordinates getcanvas mainloop done exitonclick bye".split()
)
_SCREEN_WAITS = frozenset("onkey onkeypress onkeyrelease onclick onscreenclick ontimer".split())
_DEFAULT: list[Any] = []


def _nothing(*_: Any, **__: Any) -> None:
    return None


def _waits(*_: Any, **__: Any) -> None:
    SHEET.waits = True


def the_pen() -> Any:
    """The pen that functions without one move."""
    if not _DEFAULT:
        _DEFAULT.append(Turtle())
    return _DEFAULT[0]


def begin() -> None:
    """A clean sheet: one process may run many cases."""
    SHEET.__init__()  # type: ignore[misc]
    pens._EXACT.clear()
    pens._UNIT[0] = 360.0
    _DEFAULT.clear()


def made(called: str, pen: str) -> Any:
    """The module, with every method of the pen and of the screen as a function.

    ``pen`` names the pen that functions move, where recordings find it.
    """
    import builtins

    module: Any = types.ModuleType(called)
    screen = Screen()
    for name in dir(Turtle):
        if not name.startswith("_"):
            setattr(module, name, _function(name))
    names = [n for n in dir(Screen) if not n.startswith("_") and n not in ("clear", "reset")]
    for name in (*names, *_SCREEN_QUIET, *_SCREEN_WAITS):
        setattr(module, name, getattr(screen, name))
    module.clear, module.reset = _function("clear"), _function("reset")
    module.onclick = _waits
    module.Turtle = module.Pen = module.RawTurtle = module.RawPen = Turtle
    module.Screen, module.Vec2D = Screen, Vec2D
    module.Terminator = module.TurtleGraphicsError = type("TurtleGraphicsError", (Exception,), {})
    module._odd_sum_sheet = SHEET
    vars(builtins)[pen] = the_pen()
    return module


def _function(name: str) -> Any:
    def function(*args: Any, **named: Any) -> Any:
        return getattr(the_pen(), name)(*args, **named)

    function.__name__ = name
    return function
