"""Parts of the interface on their own: contrast, actions, words, lines."""

from __future__ import annotations

import re

import pytest
from hypothesis import given
from hypothesis import strategies as st

from oddsum.model.picture import Segment
from oddsum.tui.actions import STATIONS, actions_of
from oddsum.tui.glossary import looked_up, words_of
from oddsum.tui.theme import COLOURS
from oddsum.tui.widgets.picture import beside, drawn
from oddsum.tui.widgets.prose import wrapped
from oddsum.tui.widgets.side_by_side import side_by_side
from oddsum.tui.writing import Piece, cell, fitted, width_of

GROUNDS = ("ground", "lifted", "band")
INKS = ("ink", "strong", "quiet", "straw", "blue", "agree", "odd", "stopped", "endless", "open",
        "keyword", "text", "number")  # fmt: skip


def luminance(colour: str) -> float:
    """Relative luminance as WCAG 2.1 defines it."""
    parts = [int(colour[i : i + 2], 16) / 255 for i in (1, 3, 5)]
    linear = [p / 12.92 if p <= 0.04045 else ((p + 0.055) / 1.055) ** 2.4 for p in parts]
    return 0.2126 * linear[0] + 0.7152 * linear[1] + 0.0722 * linear[2]


def contrast(a: str, b: str) -> float:
    high, low = sorted((luminance(a), luminance(b)), reverse=True)
    return (high + 0.05) / (low + 0.05)


@pytest.mark.parametrize("theme", list(COLOURS))
@pytest.mark.parametrize("ink", INKS)
@pytest.mark.parametrize("ground", GROUNDS)
def test_every_ink_can_be_read_on_every_ground(theme, ink, ground):
    colours = COLOURS[theme]
    assert contrast(colours[ink], colours[ground]) >= 4.5


@pytest.mark.parametrize("theme", list(COLOURS))
def test_inverted_marks_can_be_read(theme):
    colours = COLOURS[theme]
    for ground in ("agree", "odd"):
        assert contrast(colours["ground"], colours[ground]) >= 4.5
    assert contrast(colours["on-blue"], colours["blue"]) >= 4.5


def test_a_letter_means_the_same_at_every_station():
    meanings: dict[str, set[str]] = {}
    for station in STATIONS:
        for action in actions_of(station):
            if re.fullmatch(r"[A-Z]", action.label):
                meanings.setdefault(action.label, set()).add(action.words)
    several = {label for label, words in meanings.items() if len(words) > 1}
    # In Trace itself, T records the case anew; A adds what a station keeps: a case, a claim; O is
    # odd: only the odd cases, to the odd step.
    assert several <= {"T", "A", "O"}


def test_keys_of_other_trades_are_not_used_in_trace():
    used = {key for a in actions_of("trace") for key in a.keys.split(",")}
    assert not used & set("bcilnqsuw")
    assert not any(re.fullmatch(r"f\d+", key) for key in used)


def test_every_station_has_its_words_and_actions_their_tips():
    for station in STATIONS:
        assert len(words_of(station)) > 8
        assert all(a.tip.endswith(".") for a in actions_of(station))


texts = st.text(st.sampled_from("ab `≠漢x  "), max_size=60)


@given(texts, st.integers(8, 40))
def test_wrapped_lines_keep_every_word_and_fit(text, width):
    lines = wrapped(text, width)
    shown = "".join(p.text for line in lines for p in line)
    assert shown.replace(" ", "") == text.replace("`", "").replace(" ", "")
    words = [w for part in text.split("`") for w in part.split()]
    if all(width_of([Piece(w)]) <= width for w in words):
        assert all(width_of(line) <= width for line in lines)


@given(texts, st.integers(1, 30))
def test_cells_are_exactly_as_wide_as_asked(text, width):
    for align in ("left", "right"):
        assert width_of(fitted(cell(text), width, align)) == width


@given(st.text("ab12 \n.", max_size=30), st.text("ab12 \n.", max_size=30))
def test_texts_side_by_side_are_whole(expected, actual):
    lines = side_by_side(expected, actual, 100)[2:]
    left = "".join("".join(p.text for p in line).split(" │ ")[0] for line in lines)
    for char in "ab12.":
        assert left.count(char) == expected.count(char)


def test_only_the_number_that_differs_is_set_off():
    line = side_by_side("Total: 18", "Total: 12", 60)[2]
    assert [p.text for p in line if p.ground] == ["18", "12"]


@pytest.mark.parametrize(
    ("station", "word", "entry"),
    [
        ("check", "≠", "differs ≠"), ("check", "differs", "differs ≠"), ("check", "Cases,", "case"),
        ("trace", "rounds", "round"), ("mend", "range(", "range"), ("mend", "//", "//"),
        ("mend", "return", "return"), ("mend", "tries", "try"), ("record", "runs", "runs"),
        ("pinpoint", "lead", "lead"), ("check", "Total:", ""), ("check", "", ""),
    ],
)  # fmt: skip
def test_a_word_on_the_screen_is_looked_up_in_its_forms(station, word, entry):
    assert looked_up(station, word) == entry


def test_a_drawing_on_the_screen_has_its_lines_where_they_lie():
    square = [Segment(0, 0, 10, 0), Segment(10, 0, 10, 10), Segment(10, 10, 0, 10),
              Segment(0, 10, 0, 0)]  # fmt: skip
    rows = drawn(square, (0, 0, 10, 10), 20, 5)
    assert len(rows) == 5 and rows[0][0] == chr(0x2800 + 0x4F) and rows[2][1:8].strip() == ""
    assert {ord(c) & 0xFF for c in rows[0][1:9]} == {0x09} and len(set(map(len, rows))) == 1
    assert drawn([], (0, 0, 1, 1), 8, 3)[0] == ""
    two = beside(square, square[:2], 41)
    assert all(width_of(line) <= 41 for line in two)
