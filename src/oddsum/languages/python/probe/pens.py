"""The pens of a drawing program: where each one is, where it faces, and the lines it draws.

Stands in for the standard drawing module, which needs a display. A pen counts positions and turns
the same way: steps to the right and up from the middle, degrees from the right, to the left. What
a step leaves of a pen is seen in the trace as its attributes: ``at`` and ``facing``, and ``pen_is``
and ``ink`` once the program has set them.
"""

from __future__ import annotations

import math

TYPE_CHECKING = False  # importing typing would cost every run some milliseconds
if TYPE_CHECKING:
    from typing import Any

MOST = 20_000  # lines that are kept of one run
_ROUND = 2  # decimals at which a position is shown


class Sheet:
    """What all pens of a run have drawn, in its order; ``told`` gives it as plain lists."""

    def __init__(self) -> None:
        self.lines: list[list[Any]] = []  # [x1, y1, x2, y2, ink, width]
        self.fills: list[list[Any]] = []  # [[x, y, ...], ink]
        self.dots: list[list[Any]] = []  # [x, y, size, ink]
        self.texts: list[list[Any]] = []  # [x, y, text, ink]
        self.ground, self.cut = "white", False
        self.waits = False  # whether the program asked for keys or clicks

    def clear(self) -> None:
        self.lines, self.fills, self.dots, self.texts = [], [], [], []

    def line(self, row: list[Any]) -> None:
        if len(self.lines) < MOST:
            self.lines.append(row)
        else:
            self.cut = True

    def told(self) -> dict[str, Any]:
        return {"lines": self.lines, "fills": self.fills, "dots": self.dots, "texts": self.texts,
                "ground": self.ground, "cut": self.cut, "waits": self.waits}  # fmt: skip


SHEET = Sheet()
_EXACT: dict[int, Any] = {}  # of each pen, by id: what is not shown in the trace
_UNIT = [360.0]  # units of a full turn: degrees


class Vec2D(tuple[float, float]):
    """A position, or a way from one to another."""

    def __new__(cls, x: float, y: float) -> Any:
        return tuple.__new__(cls, (x, y))

    def __add__(self, other: Any) -> Any:
        return Vec2D(self[0] + other[0], self[1] + other[1])

    def __sub__(self, other: Any) -> Any:
        return Vec2D(self[0] - other[0], self[1] - other[1])

    def __mul__(self, other: Any) -> Any:
        if isinstance(other, Vec2D):
            return self[0] * other[0] + self[1] * other[1]
        return Vec2D(self[0] * other, self[1] * other)

    __rmul__ = __mul__

    def __neg__(self) -> Any:
        return Vec2D(-self[0], -self[1])

    def __abs__(self) -> float:
        return math.hypot(self[0], self[1])

    def rotate(self, angle: float) -> Any:
        c, s = math.cos(math.radians(angle)), math.sin(math.radians(angle))
        return Vec2D(self[0] * c - self[1] * s, self[0] * s + self[1] * c)

    def __repr__(self) -> str:
        return f"({self[0]:.2f},{self[1]:.2f})"


class _Exact:
    """What a pen needs to know exactly, or keeps for itself."""

    def __init__(self, pen: Any) -> None:
        self.pen = pen  # kept, so that its id is not given to another
        self.x = self.y = self.angle = 0.0
        self.width, self.fill, self.visible, self.pace = 1, "black", True, 3
        self.corners: list[float] | None = None  # of the shape that is being filled
        self.shape = "classic"


def _shown(number: float) -> float:
    return round(number, _ROUND) + 0.0  # and no -0.0


class Turtle:
    """One pen."""

    pen_is, ink = "down", "black"  # as long as nothing else is said

    def __init__(self, shape: str = "classic", undobuffersize: int = 1000, visible: bool = True):
        _EXACT[id(self)] = _Exact(self)
        self._put_to_start()

    def _put_to_start(self) -> None:
        for name in ("pen_is", "ink"):
            self.__dict__.pop(name, None)
        self.at, self.facing = (0.0, 0.0), 0.0

    # -- moving ----------------------------------------------------------------------------

    def _move(self, x: float, y: float, draws: bool = True) -> None:
        own = _EXACT[id(self)]
        if self.pen_is == "down" and draws:
            SHEET.line([own.x, own.y, float(x), float(y), self.ink, own.width])
        own.x, own.y = float(x), float(y)
        if own.corners is not None:
            own.corners += [own.x, own.y]
        self.at = (_shown(own.x), _shown(own.y))

    def forward(self, distance: float) -> None:
        own = _EXACT[id(self)]
        turn = math.radians(own.angle)
        self._move(own.x + distance * math.cos(turn), own.y + distance * math.sin(turn))

    def back(self, distance: float) -> None:
        self.forward(-distance)

    def goto(self, x: Any, y: Any = None) -> None:
        self._move(*((x, y) if y is not None else x))

    def teleport(self, x: Any = None, y: Any = None, *, fill_gap: bool = False) -> None:
        own = _EXACT[id(self)]
        self._move(own.x if x is None else x, own.y if y is None else y, draws=False)

    def setx(self, x: float) -> None:
        self._move(x, _EXACT[id(self)].y)

    def sety(self, y: float) -> None:
        self._move(_EXACT[id(self)].x, y)

    def home(self) -> None:
        self._move(0.0, 0.0)
        self._face(0.0)

    def circle(self, radius: float, extent: Any = None, steps: Any = None) -> None:
        """An arc as straight lines: the middle is ``radius`` to the left."""
        own = _EXACT[id(self)]
        full = 360.0 if extent is None else extent * 360.0 / _UNIT[0]
        count = steps or int(min(11 + abs(radius) / 6.0, 59.0) * abs(full) / 360.0) + 1
        part = full / count
        half = part / 2 if radius >= 0 else -part / 2
        length = 2.0 * radius * math.sin(math.radians(abs(part)) / 2.0)
        if radius < 0:
            part, length = -part, -length
        if full < 0:
            length = -length
        angle = own.angle + half
        for _ in range(count):
            turn = math.radians(angle)
            self._move(own.x + length * math.cos(turn), own.y + length * math.sin(turn))
            angle += part
        self._face(angle - half)

    # -- turning ---------------------------------------------------------------------------

    def _face(self, angle: float) -> None:
        own = _EXACT[id(self)]
        own.angle = angle % 360.0
        self.facing = _shown(own.angle * _UNIT[0] / 360.0)

    def left(self, angle: float) -> None:
        self._face(_EXACT[id(self)].angle + angle * 360.0 / _UNIT[0])

    def right(self, angle: float) -> None:
        self.left(-angle)

    def setheading(self, to_angle: float) -> None:
        self._face(to_angle * 360.0 / _UNIT[0])

    def degrees(self, fullcircle: float = 360.0) -> None:
        _UNIT[0] = float(fullcircle)
        self._face(_EXACT[id(self)].angle)

    def radians(self) -> None:
        self.degrees(math.tau)

    # -- asking ----------------------------------------------------------------------------

    def position(self) -> Any:
        own = _EXACT[id(self)]
        return Vec2D(own.x, own.y)

    def xcor(self) -> float:
        return float(_EXACT[id(self)].x)

    def ycor(self) -> float:
        return float(_EXACT[id(self)].y)

    def heading(self) -> float:
        return float(_EXACT[id(self)].angle * _UNIT[0] / 360.0)

    def _way(self, x: Any, y: Any) -> tuple[float, float]:
        own = _EXACT[id(self)]
        if isinstance(x, Turtle):
            x, y = x.position()
        elif y is None:
            x, y = x
        return x - own.x, y - own.y

    def distance(self, x: Any, y: Any = None) -> float:
        return math.hypot(*self._way(x, y))

    def towards(self, x: Any, y: Any = None) -> float:
        across, up = self._way(x, y)
        return round(math.degrees(math.atan2(up, across)), 10) % 360.0 * _UNIT[0] / 360.0

    # -- the pen ---------------------------------------------------------------------------

    def pendown(self) -> None:
        self.pen_is = "down"

    def penup(self) -> None:
        self.pen_is = "up"

    def isdown(self) -> bool:
        return self.pen_is == "down"

    def pensize(self, width: Any = None) -> Any:
        own = _EXACT[id(self)]
        if width is not None:
            own.width = width
        return own.width

    def pencolor(self, *color: Any) -> Any:
        if color:
            self.ink = _ink(color)
        return self.ink

    def fillcolor(self, *color: Any) -> Any:
        own = _EXACT[id(self)]
        if color:
            own.fill = _ink(color)
        return own.fill

    def color(self, *color: Any) -> Any:
        if len(color) == 2:
            self.pencolor(color[0])
            self.fillcolor(color[1])
        elif color:
            self.pencolor(*color)
            self.fillcolor(*color)
        return self.ink, _EXACT[id(self)].fill

    def begin_fill(self) -> None:
        own = _EXACT[id(self)]
        own.corners = [own.x, own.y]

    def end_fill(self) -> None:
        own = _EXACT[id(self)]
        if own.corners is not None and len(own.corners) > 4:
            SHEET.fills.append([own.corners, own.fill])
        own.corners = None

    def filling(self) -> bool:
        return _EXACT[id(self)].corners is not None

    def dot(self, size: Any = None, *color: Any) -> None:
        own = _EXACT[id(self)]
        if isinstance(size, (str, tuple)):
            size, color = None, (size, *color)
        wide = size if size is not None else max(own.width + 4, own.width * 2)
        SHEET.dots.append([own.x, own.y, wide, _ink(color) if color else self.ink])

    def stamp(self) -> int:
        own = _EXACT[id(self)]
        SHEET.dots.append([own.x, own.y, 8, self.ink])
        return len(SHEET.dots)

    def write(self, arg: Any, move: bool = False, align: str = "left", font: Any = None) -> None:
        own = _EXACT[id(self)]
        SHEET.texts.append([own.x, own.y, str(arg), self.ink])

    def clear(self) -> None:
        """What was drawn so far is gone: of all pens, for a run has one sheet."""
        SHEET.clear()

    def reset(self) -> None:
        self.clear()
        own = _EXACT[id(self)]
        own.__init__(self)
        self._put_to_start()

    # -- how it looks: nothing of it can be wrong in a result ----------------------------------

    def speed(self, speed: Any = None) -> Any:
        own = _EXACT[id(self)]
        if speed is not None:
            own.pace = speed
        return own.pace

    def shape(self, name: Any = None) -> Any:
        own = _EXACT[id(self)]
        if name is not None:
            own.shape = name
        return own.shape

    def hideturtle(self) -> None:
        _EXACT[id(self)].visible = False

    def showturtle(self) -> None:
        _EXACT[id(self)].visible = True

    def isvisible(self) -> bool:
        return bool(_EXACT[id(self)].visible)

    def shapesize(self, *_: Any, **__: Any) -> Any:
        return (1.0, 1.0, 1)

    def _nothing(self, *_: Any, **__: Any) -> None:
        return None

    resizemode = tilt = tiltangle = shearfactor = shapetransform = clearstamp = clearstamps = (
        _nothing
    )
    setundobuffer = undobufferentries = begin_poly = end_poly = get_poly = _nothing

    def onclick(self, *_: Any, **__: Any) -> None:
        SHEET.waits = True

    onrelease = ondrag = onclick

    def undo(self) -> None:
        raise NotImplementedError("undo() does not work where nobody watches the drawing")

    def clone(self) -> Any:
        twin = type(self).__new__(type(self))
        one, own = _Exact(twin), _EXACT[id(self)]
        one.x, one.y, one.angle, one.width, one.fill = own.x, own.y, own.angle, own.width, own.fill
        _EXACT[id(twin)] = one
        twin.__dict__.update(self.__dict__)
        return twin

    def getturtle(self) -> Any:
        return self

    fd, bk, backward, lt, rt, seth = forward, back, back, left, right, setheading
    setpos = setposition = goto
    pos, pd, down, pu, up, width = position, pendown, pendown, penup, penup, pensize
    st, ht, turtlesize, getpen = showturtle, hideturtle, shapesize, getturtle


def _ink(color: tuple[Any, ...]) -> str:
    """A colour as a text: its name, or its parts as #rrggbb."""
    value = color[0] if len(color) == 1 else color
    if isinstance(value, str):
        return value
    parts = [int(p * 255) if isinstance(p, float) and max(value) <= 1.0 else int(p) for p in value]
    return "#" + "".join(f"{min(255, max(0, p)):02x}" for p in parts)


Turtle.__module__ = Vec2D.__module__ = (
    "drawing"  # its attributes are for the trace, not a library's
)
