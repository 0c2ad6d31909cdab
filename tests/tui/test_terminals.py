"""Every terminal: sixteen colours, no UTF-8, fonts without our marks."""

from __future__ import annotations

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from piloting import drawn, opened, until
from rich.cells import cell_len
from rich.color import Color
from rich.style import Style

from conftest import examples
from oddsum.settings.user import change_setting
from oddsum.source.plain import in_ascii, shows_ascii_only
from oddsum.tui.dialogs.question_list import QuestionList
from oddsum.tui.plain_terminal import AsciiOnly
from oddsum.tui.sixteen import GROUNDS, INKS, recoloured
from oddsum.tui.theme import COLOURS, ink

ASCII = {chr(n) for n in range(128)}
LOCALES = [  # the environment, whether the interpreter took up UTF-8 by itself, whether it is ASCII
    ({"LANG": "en_GB.UTF-8"}, False, False),
    ({"LANG": "C.utf8"}, False, False),
    ({"LANG": "C", "LC_CTYPE": "C.UTF-8"}, True, True),
    ({"LANG": "C", "LC_CTYPE": "C.UTF-8"}, False, False),
    ({"LANG": "en_GB.UTF-8", "LC_ALL": "C"}, True, True),
    ({"LANG": "C", "LC_ALL": "de_DE.UTF-8"}, False, False),
    ({"LANG": "de_DE.ISO-8859-1"}, False, True),
    ({"LC_CTYPE": "C.UTF-8"}, True, True),
    ({}, False, True),
]


@pytest.mark.parametrize(("environment", "utf8_mode", "ascii_only"), LOCALES)
def test_the_locale_says_what_can_be_shown(environment, utf8_mode, ascii_only):
    assert shows_ascii_only(environment, utf8_mode) is ascii_only


@settings(max_examples=examples(200), deadline=None)
@given(st.text(st.characters(exclude_categories=["Cs", "Cc"]), max_size=20))
def test_a_text_in_ascii_is_as_wide_as_it_was(text):
    made = in_ascii(text)
    assert made.isascii() and cell_len(made) == cell_len(text)


def test_what_can_be_told_in_plain_characters_is():
    assert in_ascii("── LEADS · ≠ ‖ ⟨12⟩ ×5 café") == "-- LEADS - # | <12> x5 cafe"


@pytest.mark.parametrize("keys", [(), ("t",), ("3",), ("4",), ("5",), ("question_mark",)])
async def test_all_that_is_drawn_with_plain_marks_is_plain(searched_once, demo, keys):
    change_setting("plain_marks", True)
    async with opened(demo / "fares.py") as pilot:
        work = pilot.app.workspace
        await pilot.press(*keys)
        if keys == ("t",):
            await until(pilot, lambda: work.tracing.walked is not None)
            await pilot.press("j")
            await until(pilot, lambda: isinstance(pilot.app.screen, QuestionList))
        if keys == ("3",):
            await until(pilot, lambda: bool(work.pinpointing.search.found))
            await pilot.press("enter")
        await until(pilot, lambda: work.recording.record.count > 0)
        strips = drawn(pilot.app)
        bars = "▁▂▃▄▅▆▇█▌▐·"  # ends of what scrolls; and a dot that every font has
        odd = [s.text for strip in strips for s in strip if not set(s.text) - set(bars) <= ASCII]
        assert not odd


async def test_a_terminal_without_utf_8_gets_ascii_alone(demo):
    async with opened(demo / "fares.py") as pilot:
        pilot.app.draw_in_ascii()
        await pilot.press("t")
        await until(pilot, lambda: pilot.app.workspace.tracing.walked is not None)
        await pilot.pause()
        (last,) = [f for f in pilot.app._filters if isinstance(f, AsciiOnly)]
        ground = pilot.app.screen.background_colors[1]
        for strip in drawn(pilot.app):
            assert all(s.text.isascii() for s in last.apply(list(strip), ground))


# The sixteen colours as xterm has them; what others have is not far from it.
XTERM = {
    "black": (0, 0, 0), "red": (205, 0, 0), "green": (0, 205, 0), "yellow": (205, 205, 0),
    "blue": (0, 0, 238), "magenta": (205, 0, 205), "white": (229, 229, 229),
    "bright_black": (127, 127, 127), "bright_green": (0, 255, 0), "bright_yellow": (255, 255, 0),
    "bright_magenta": (255, 0, 255), "bright_cyan": (0, 255, 255), "bright_white": (255, 255, 255),
}  # fmt: skip


def contrast(one: Color | None, other: Color | None) -> float:
    """WCAG's contrast of two colours."""

    def light(colour: Color | None) -> float:
        assert colour is not None
        parts = [v / 255 for v in XTERM[colour.name]]
        linear = [v / 12.92 if v <= 0.03928 else ((v + 0.055) / 1.055) ** 2.4 for v in parts]
        return 0.2126 * linear[0] + 0.7152 * linear[1] + 0.0722 * linear[2]

    low, high = sorted((light(one), light(other)))
    return (high + 0.05) / (low + 0.05)


@pytest.mark.parametrize("theme", sorted(COLOURS))
def test_what_is_in_hand_and_what_is_odd_can_be_read_in_sixteen_colours(theme):
    pairs = [
        (name, "ground")
        for name in INKS[theme]
        if name not in ("ground", "lifted", "band", "rule", "on-blue")
    ]
    pairs += [("on-blue", "blue"), ("ground", "agree"), ("ground", "odd")]
    for name, ground in pairs:
        style = recoloured(theme, ink(theme, name, ground, bold=True))
        least = 3.0 if name in ("stopped", "endless", "quiet", "odd") else 4.5
        assert contrast(style.color, style.bgcolor) >= least, (name, ground, style)
    assert set(GROUNDS[theme]) <= set(COLOURS[theme]) and set(INKS[theme]) == set(COLOURS[theme])
    assert recoloured(theme, Style.parse("#123456 on #654321")) == Style.parse("#123456 on #654321")
