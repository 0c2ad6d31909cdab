"""``make screenshots``: a picture of each main view, 1280x800, from the demo data.

The application runs without a terminal; what it would show is drawn cell by cell. Lines of boxes
are drawn as lines, for glyphs leave gaps between rows.
"""

from __future__ import annotations

import asyncio
import os
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from pathlib import Path
from typing import Any

from PIL import Image, ImageDraw, ImageFont

os.environ["XDG_CONFIG_HOME"] = tempfile.mkdtemp(prefix="oddsum-pictures-")
os.environ["XDG_DATA_HOME"] = os.environ["XDG_CONFIG_HOME"]

from oddsum.demo.copy import copy_demo
from oddsum.tui.app import OddSumApp
from oddsum.tui.theme import COLOURS

OUT = Path(__file__).parents[1] / "docs" / "screenshots"
WIDTH, HEIGHT = 1280, 800
WIDE, NARROW = (160, 47), (80, 24)
FONTS = (
    "/usr/share/fonts/truetype/dejavu/DejaVuSansMono{}.ttf",
    "/usr/share/fonts/dejavu-sans-mono-fonts/DejaVuSansMono{}.ttf",
    "/usr/share/fonts/TTF/DejaVuSansMono{}.ttf",
    str(Path.home() / "Library/Fonts/DejaVuSansMono{}.ttf"),
    "/Library/Fonts/DejaVuSansMono{}.ttf",
)
NAMED = {" ": "space", ":": "colon", ".": "full_stop"}
# What is waited for between keys, by a word that is no key.
WAITS: dict[str, Callable[[Any], bool]] = {
    "~tried": lambda work: bool(work.mending.draft and work.mending.draft.shown and work.tries.all),
    "~searched": lambda work: bool(work.pinpointing.search and work.pinpointing.search.found),
    "~kept": lambda work: bool(work.recording.record.entries) and work.tries.all[-1].kept,
    "~recorded": lambda work: work.recording.record.count > 0,
}
LINES = {"─": 1, "━": 2, "═": 3}  # across; "│" and "┼" are drawn by name


def font_file(kind: str) -> str:
    for place in FONTS:
        if Path(place.format(kind)).exists():
            return place.format(kind)
    sys.exit(
        "The pictures need the font DejaVu Sans Mono: apt-get install fonts-dejavu-core, or "
        "brew install --cask font-dejavu"
    )


class Painter:
    """Draws what an application shows."""

    def __init__(self, app: Any, size: tuple[int, int]) -> None:
        self.app, (self.columns, self.rows) = app, size
        self.cell_width, self.cell_height = WIDTH // self.columns, HEIGHT // self.rows
        points = int(self.cell_width * 1.66)
        self.plain = ImageFont.truetype(font_file(""), points)
        self.bold = ImageFont.truetype(font_file("-Bold"), points)
        self.colours = COLOURS[app.theme]
        self.image = Image.new("RGB", (WIDTH, HEIGHT), self.colours["ground"])
        self.draw = ImageDraw.Draw(self.image)

    def paint(self, file: Path) -> None:
        for y, strip in enumerate(self.app.screen._compositor.render_strips()):
            x = 0
            for segment in strip:
                for char in segment.text:
                    self._cell(x, y, char, segment.style)
                    x += 1
        self.image.save(file, optimize=True)
        print(file.relative_to(OUT.parents[1]))

    def _cell(self, x: int, y: int, char: str, style: Any) -> None:
        left, top = x * self.cell_width, y * self.cell_height
        right, bottom = left + self.cell_width, top + self.cell_height
        ink, ground = _colours(style, self.colours)
        if ground != self.colours["ground"]:
            self.draw.rectangle((left, top, right - 1, bottom - 1), fill=ground)
        middle, centre = (top + bottom) // 2, (left + right) // 2
        if char in LINES:
            for offset in {1: (0,), 2: (0, 1), 3: (-2, 1)}[LINES[char]]:
                self.draw.line((left, middle + offset, right - 1, middle + offset), fill=ink)
        elif char in "│┼":
            self.draw.line((centre, top, centre, bottom - 1), fill=ink)
            if char == "┼":
                self.draw.line((left, middle, right - 1, middle), fill=ink)
        elif 0x2800 <= ord(char) < 0x2900:
            self._dots(left, top, ord(char) - 0x2800, ink)
        elif char != " ":
            font = self.bold if style is not None and style.bold else self.plain
            self.draw.text((left, middle), char, font=font, fill=ink, anchor="lm")

    def _dots(self, left: int, top: int, dots: int, ink: Any) -> None:
        """A cell of braille: the font may have none."""
        for row, pair in enumerate(((1, 8), (2, 16), (4, 32), (64, 128))):
            for column, bit in enumerate(pair):
                if dots & bit:
                    x = left + self.cell_width * (2 * column + 1) // 4
                    y = top + self.cell_height * (2 * row + 1) // 8
                    self.draw.rectangle((x - 1, y - 1, x, y), fill=ink)


def _colours(style: Any, colours: Any) -> tuple[Any, Any]:
    ink, ground = colours["ink"], colours["ground"]
    if style is not None and style.color is not None:
        ink = tuple(style.color.get_truecolor())
    if style is not None and style.bgcolor is not None:
        ground = tuple(style.bgcolor.get_truecolor())
    return (ground, ink) if style is not None and style.reverse else (ink, ground)


async def until(pilot: Any, holds: Callable[[], bool]) -> None:
    for _ in range(600):
        await pilot.pause()
        if holds():
            await pilot.pause(0.3)
            return
        await asyncio.sleep(0.05)
    raise SystemExit("A view never came to be as it should.")


async def pictures(
    program: Path, size: tuple[int, int], theme: str, scenes: list[tuple[str, list[str]]]
) -> None:
    """Press each scene's keys and take its picture; a scene without a name is passed through."""
    app = OddSumApp(program, None, sys.executable)
    app.theme = theme
    async with app.run_test(size=size) as pilot:
        app.theme = theme
        work = app.workspace
        await until(
            pilot,
            lambda: (
                bool(work.checking.checked_at or work.checking.fault) or len(app.screen_stack) > 1
            ),
        )
        if work.checking.odd():
            await pilot.pause(1.0)  # what they share is looked for behind the scenes
        app.clear_notifications()
        for name, keys in scenes:
            for key in keys:
                if key in WAITS:
                    await until(pilot, lambda key=key: WAITS[key](work))
                    continue
                if key.startswith("~type "):
                    await pilot.press(*(NAMED.get(k, k) for k in key[6:]))
                    continue
                await pilot.press(key)
                if key == "t":
                    await until(pilot, lambda: work.tracing.traced is not None)
                if key == "x":
                    await pilot.pause(1.5)
                if key == "l":
                    await until(pilot, lambda: work.advising.advice is not None)
                if key == "v":
                    await pilot.pause(1.5)
                if key == "3":
                    await until(pilot, lambda: WAITS["~searched"](work))
            await pilot.pause(0.3)
            app.clear_notifications()
            await pilot.pause(0.3)
            if name:
                Painter(app, size).paint(OUT / f"{name}.png")


LOG = """\
boats = ["Ivy", "Elm", "Oak", "Ash", "Yew"]
for hour in range(6, 21):
    boat = boats[hour % 5]
    print(f"{hour:02}:00  {boat} leaves the pier")
    if hour % 4 == 0:
        print(f"{hour:02}:30  the tide turns")
print("The last ferry has left.")
"""
RISE = """\
def hours_until(level, mark):
    hours = 0
    while level < mark:
        hours = hours + 1
    return hours


print(hours_until(int(input("Level? ")), 210))
"""


async def odd_endings() -> None:
    """Texts side by side, a loop without end, and a program that cannot start."""
    folder = Path(tempfile.mkdtemp())
    log = folder / "log.py"
    log.write_text(LOG)
    printed = subprocess.run([sys.executable, log], capture_output=True, text=True, check=True)
    wanted = printed.stdout.replace("12:30  the tide turns\n", "").replace("Oak", "OAK", 1)
    log.with_suffix(".cases.toml").write_text(
        f'[[case]]\nname = "a day at the pier"\nstdin = ""\nstdout = """\n{wanted}"""\n'
    )
    await pictures(log, WIDE, "lamp", [("side-by-side", ["d"])])
    rise = folder / "rise.py"
    rise.write_text(RISE)
    rise.with_suffix(".cases.toml").write_text(
        'timeout = 0.5\n[[case]]\nname = "at the mark"\nkind = "boundary"\nstdin = "210\\n"\n'
        'stdout = "Level? 0"\n[[case]]\nname = "low water"\nstdin = "180\\n"\nstdout = "Level? 5"\n'
        '[[case]]\nname = "in words"\nkind = "invalid"\nstdin = "high\\n"\nstdout = "no number"\n'
    )
    await pictures(rise, WIDE, "lamp", [("endless", ["home", "down"])])
    rise.write_text(RISE.replace('int(input("Level? "))', 'int(input("Level? ")'))
    await pictures(rise, WIDE, "paper", [("cannot-start", [])])


async def main() -> None:
    OUT.mkdir(parents=True, exist_ok=True)
    fares = copy_demo("fares")
    await pictures(
        fares,
        WIDE,
        "lamp",
        [
            ("check", []),
            ("trace", ["down", "t", "h", *["down"] * 22]),
            ("pinpoint-where", ["3"]),
            ("pinpoint-how", ["enter", "enter"]),
            ("questions", ["q"]),
        ],
    )
    await pictures(
        fares, WIDE, "lamp", [("where-from", ["t", *["down"] * 13, "f", "down", "down"])]
    )
    await pictures(fares, WIDE, "paper", [("check-paper", [])])
    tides = copy_demo("tides")
    await pictures(tides, WIDE, "paper", [("line-apart", ["t", "end", "x"])])
    await pictures(fares, NARROW, "lamp", [("check-narrow", [])])
    recorded = ["v", "2", "enter", "1", "6", "enter", "4", "enter"]
    await pictures(
        fares,
        WIDE,
        "lamp",
        [("advice", ["l", "space"]), ("", ["escape"]), ("recorder", recorded)],
    )
    await odd_endings()
    lanes = copy_demo("lanes")
    await pictures(lanes, NARROW, "paper", [("trace-narrow-paper", ["t", *["down"] * 6])])
    await pictures(
        lanes,
        WIDE,
        "lamp",
        [
            ("asked", ["t", *["down"] * 8, "j"]),
        ],
    )
    await pictures(copy_demo("lighthouse"), WIDE, "lamp", [("drawing", [])])
    await mended()


DAYS = ("!!!!!!!!=", "≠≠≠≠≠≠≠!=", "==≠=≠≠≠!≠", "=====≠≠!≠", "=====≠≠=≠", "==∞∞=≠≠==")


async def mended() -> None:
    """A mend that is tried and kept, and the record of it, after some runs of days before."""
    from oddsum.model.history import PastRun, Version
    from oddsum.model.marks import MARKS
    from oddsum.model.outcome import Outcome
    from oddsum.plan.read import read_plan
    from oddsum.record.history import History

    fares = copy_demo("fares")
    names = [c.name for c in read_plan(fares.with_suffix(".cases.toml"), fares).cases]
    kinds = {MARKS[o.value].glyph: o for o in Outcome}
    now = time.time()
    for n, marks in enumerate(DAYS):
        outcomes = {name: kinds[mark] for name, mark in zip(names, marks, strict=True)}
        text = fares.read_text().replace("age <= 16", f"age <= {10 + n}")
        run = PastRun(at=now - 1500 + 200 * n, seconds=0.3, outcomes=outcomes)
        History(fares).add_run(run, Version(files={"fares.py": text}))
    to_limit = ["4", "ctrl+g", "1", "0", "enter", "end", *["left"] * 4, "backspace"]
    kept = ["ctrl+s", "~kept", "escape", "5", "e"]
    own = "~type I read the price list too fast: sixteen is not a child any more."
    await pictures(
        fares,
        WIDE,
        "lamp",
        [("mend", ["~recorded", *to_limit, "~tried"]), ("record", [*kept, own, "ctrl+s"])],
    )


if __name__ == "__main__":
    asyncio.run(main())
