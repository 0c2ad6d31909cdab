"""The main views as text: what stands on each line, and in which inks.

`make views` writes them anew, into tests/data/views; look at the difference before you keep it.
A file has the lines of the screen, then the same lines with a letter for each cell's ink. Both
themes must give the same file: they differ in colours, never in what an ink means.
"""

from __future__ import annotations

import os
import re
import shutil

import pytest
from piloting import NARROW, WIDE, drawn, opened, real_picture, until
from textual._compositor import Compositor

from conftest import DATA, FERRY
from oddsum.tui.theme import COLOURS

VIEWS = DATA / "views"
LETTERS = {"ink": ".", "strong": "s", "quiet": "q", "rule": "-", "straw": "y", "blue": "b",
           "on-blue": "B", "agree": "a", "odd": "o", "stopped": "x", "endless": "e", "open": "y",
           "keyword": "k", "text": "t", "number": "n"}  # fmt: skip
# What is another one at each run or machine.
CHANGING = ((r"\d\d:\d\d:\d\d", "00:00:00"), (r"\d\d:\d\d(?=  line)", "00:00"), (r"\d\d [A-Z][a-z]{2} \d{4}", "00 Mon 0000"),
            (r"\d+\.\d\d? s\b", "0.00 s"), (r"Python 3\.\d+", "Python 3.00"),
            (r"\b\d+ (small )?(trials|changes)", r"00 \1\2"))  # fmt: skip


async def check(pilot):
    await until(pilot, lambda: pilot.app.workspace.checking.shared.pattern is not None)


async def trace(pilot):
    await pilot.press("t")
    await until(pilot, lambda: pilot.app.workspace.tracing.traced is not None)
    await pilot.press(*["down"] * 11)


async def questions(pilot):
    await trace(pilot)
    await pilot.press("j")


async def pinpoint(pilot):
    await pilot.press("3")
    await until(pilot, lambda: pilot.app.workspace.pinpointing.search.found is not None)
    await pilot.press("enter")


async def mend(pilot):
    work = pilot.app.workspace
    await pilot.press("4", "ctrl+g", "1", "0", "enter", "end", "left", "backspace", "5")
    await until(pilot, lambda: work.mending.draft is not None and work.mending.draft.shown)
    await until(pilot, lambda: len(work.tries.all) == 1)  # once its result stood for two seconds
    await pilot.press("escape")  # else the cursor blinks


async def record(pilot):
    await until(pilot, lambda: pilot.app.workspace.recording.record.count == 1)
    await pilot.press("5")


async def case_card(pilot):
    await pilot.press("e")


async def keys(pilot):
    await pilot.press("4", "escape", "question_mark")


SHOWN = {f.__name__: f for f in (check, trace, questions, pinpoint, mend, record, case_card, keys)}


def as_text(app) -> str:
    """The screen, and under it a letter for the ink of each cell that has something in it."""
    inks = {colour: name for name, colour in reversed(COLOURS[app.theme].items())}
    lines, letters = [], []
    # How many edits were tried when the mend was found is another number each time.
    tried = {
        y: r for w in app.screen.query("#tried") for r in [w.region] for y in range(r.y, r.bottom)
    }
    for y, strip in enumerate(drawn(app)):
        text, row = "", ""
        for segment in strip:
            colour = segment.style.color.name if segment.style and segment.style.color else ""
            letter = LETTERS.get(inks.get(colour, ""), "?")
            text += segment.text
            row += "".join(" " if c == " " else letter for c in segment.text)
        if y in tried:
            text, row = text[: tried[y].x], row[: tried[y].x]
        for pattern, same in CHANGING:
            text = re.sub(pattern, same, text)
        # A changing number can be a cell longer: what follows it moves along.
        if "00 trials" in text:  # the rule before a changing number is as much shorter
            text, row = re.sub(r"─+(?= 00 trials)", "─", text), re.sub(r"(.)\1{8,}", r"\1", row)
        lines.append(re.sub(r"  +(?=checked 00|00 Mon)", "  ", text).rstrip())
        letters.append(re.sub(r" +", " ", row).rstrip())
    return "\n".join([*lines, "=" * 20, *letters]) + "\n"


@pytest.mark.parametrize("view", SHOWN)
@pytest.mark.parametrize("size", [WIDE, NARROW], ids=["160x47", "80x24"])
async def test_a_view_is_as_it_was_approved(searched_once, tmp_path, monkeypatch, view, size):
    monkeypatch.setattr(Compositor, "render_update", real_picture)
    for path in FERRY.glob("fares.*"):
        shutil.copy(path, tmp_path)
    shown = {}
    async with opened(tmp_path / "fares.py", size) as pilot:
        await SHOWN[view](pilot)
        pilot.app.clear_notifications()
        await pilot.pause()
        await until(pilot, lambda: not pilot.app._notifications)
        for theme in ("lamp", "paper"):
            pilot.app.theme = theme
            await pilot.pause()
            shown[theme] = as_text(pilot.app)
    file = VIEWS / f"{view}-{size[0]}x{size[1]}.txt"
    if os.environ.get("ODDSUM_NEW_VIEWS"):
        VIEWS.mkdir(exist_ok=True)
        file.write_text(shown["lamp"], encoding="utf-8")
    for theme, text in shown.items():
        assert text.split("\n") == file.read_text(encoding="utf-8").split("\n"), theme
