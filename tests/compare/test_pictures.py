"""Drawings compared: where the lines lie counts, not how they were drawn."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from oddsum.compare.pictures import line_words, picture_difference, picture_text
from oddsum.draw.picture import lines_svg
from oddsum.model.errors import PlanError
from oddsum.model.picture import Picture, Segment
from oddsum.plan.pictures import draws_fault, read_draws

numbers = st.integers(-40, 40).map(lambda n: n * 5.0)
segments = st.builds(Segment, numbers, numbers, numbers, numbers)
drawings = st.lists(segments, min_size=1, max_size=8)


def differs(expected, drawn) -> str:
    found = picture_difference(expected, Picture(lines=tuple(drawn)))
    return found.summary if found else ""


def length(s: Segment) -> float:
    return abs(s.x2 - s.x1) + abs(s.y2 - s.y1)


@given(drawings, st.randoms(use_true_random=False))
def test_order_direction_and_pieces_do_not_count(lines, chance):
    pieces = []
    for s in lines:
        part = chance.random()
        x, y = s.x1 + (s.x2 - s.x1) * part, s.y1 + (s.y2 - s.y1) * part
        pieces += [Segment(x, y, s.x1, s.y1), Segment(x, y, s.x2, s.y2)]
    chance.shuffle(pieces)
    assert not differs(lines, pieces)


@given(drawings, segments)
def test_one_line_more_or_less_is_noticed_unless_others_lie_on_it(lines, one):
    more = bool(differs(lines, [*lines, one]))
    less = bool(differs([*lines, one], lines))
    assert more == less  # both ask whether the others cover it
    if length(one) and all(one.x1 != s.x1 or one.y1 != s.y1 for s in lines):
        far = Segment(one.x1 + 999, one.y1, one.x2 + 999, one.y2)
        assert differs(lines, [*lines, far]) and differs([*lines, far], lines)


def test_the_difference_is_told_at_the_first_line_that_departs():
    square = [Segment(0, 0, 60, 0), Segment(60, 0, 60, 60)]
    turned = [Segment(0, 0, 60, 0), Segment(60, 0, 60, -60)]
    assert differs(square, turned) == (
        "line 2 of the drawing goes from 60, 0 to 60, -60; expected from 60, 0 to 60, 60"
    )
    assert differs(square, square[:1]) == "a line is missing: from 60, 0 to 60, 60"
    assert "where none is expected" in differs(square, [*square, Segment(0, 0, 0, 9)])
    assert differs(square, []) == "nothing was drawn; 2 lines should be"
    assert not differs(square, [Segment(0, 0, 59.8, 0.2), *square[1:]])  # half a step is no place
    assert picture_difference(square, None) is not None


def test_an_ink_counts_where_one_is_expected():
    red, any_ink = Segment(0, 0, 9, 0, "red"), Segment(0, 0, 9, 0)
    assert not differs([any_ink], [red]) and not differs([red], [red])
    assert differs([red], [Segment(0, 0, 9, 0, "blue")])
    assert line_words(red) == "from 0, 0 to 9, 0  red" and picture_text(
        [any_ink, Segment(1, 1, 1, 1)]
    )


@given(drawings)
def test_a_drawing_written_as_svg_is_read_as_it_was(lines):
    import tempfile
    from pathlib import Path

    with tempfile.TemporaryDirectory() as folder:
        (Path(folder) / "sign.svg").write_text(lines_svg(lines))
        found = read_draws("sign.svg", Path(folder))
    assert [(s.x1, s.y1, s.x2, s.y2) for s in found.lines] == [
        (s.x1, s.y1, s.x2, s.y2) for s in lines
    ]


@pytest.mark.parametrize(
    ("inside", "lines"),
    [
        ('<line x1="0" y1="-5" x2="3" y2="0" stroke="red"/>', [(0, 5, 3, 0)]),
        ('<polyline points="0,0 10,0 10,-10"/>', [(0, 0, 10, 0), (10, 0, 10, 10)]),
        ('<polygon points="0 0 4 0 4 4"/>', [(0, 0, 4, 0), (4, 0, 4, -4), (4, -4, 0, 0)]),
        ('<path d="M0 0h5v-5H0z"/>', [(0, 0, 5, 0), (5, 0, 5, 5), (5, 5, 0, 5), (0, 5, 0, 0)]),
        ('<path d="m1,1 2,0 L 9 9"/>', [(1, -1, 3, -1), (3, -1, 9, -9)]),
        ('<path d="M0-5L.5.5"/>', [(0, 5, 0.5, -0.5)]),
        ('<path d="M1 1h2zl1 1"/>', [(1, -1, 3, -1), (3, -1, 1, -1), (1, -1, 2, -2)]),
        ('<rect x="0" y="0" width="9" height="9"/><line x2="1"/>', [(0, 0, 1, 0)]),
    ],
)
def test_straight_lines_of_an_svg_are_read(tmp_path, inside, lines):
    (tmp_path / "a.svg").write_text(f'<svg xmlns="http://www.w3.org/2000/svg">{inside}</svg>')
    found = read_draws("a.svg", tmp_path).lines
    assert [(s.x1, s.y1, s.x2, s.y2) for s in found] == lines


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("<svg", "is no SVG"),
        ("<svg/>", "has no lines"),
        ('<svg><g transform="scale(2)"><line/></g></svg>', "transform"),
        ('<svg><path d="M0 0C1 1 2 2 3 3"/></svg>', "curves"),
        ('<!DOCTYPE a [<!ENTITY x "y">]><svg>&x;</svg>', "entities"),
    ],
)
def test_what_is_no_drawing_of_lines_is_told(tmp_path, text, said):
    (tmp_path / "a.svg").write_text(text)
    with pytest.raises(PlanError, match=said):
        read_draws("a.svg", tmp_path)
    with pytest.raises(PlanError, match="cannot be read"):
        read_draws("none.svg", tmp_path)


@pytest.mark.parametrize("value", [[], [[1, 2, 3]], [["a", 0, 0, 0]], "a.png", "../a.svg", "/a.svg",
                                   [[True, 0, 0, 0]], 3])  # fmt: skip
def test_what_draws_cannot_say_is_refused(value):
    assert draws_fault(value)
    assert not draws_fault("sign.svg") and not draws_fault([[0, 0, 1.5, 0], [0, 0, 1, 1, "red"]])
