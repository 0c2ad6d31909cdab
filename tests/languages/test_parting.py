"""Other limits of a comparison part the values that were seen as the present one does not."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from oddsum.languages.parting import SIGNS, TURNED, limits

LIMITS = [
    (">=", 900, [120, 749, 750, 820, 1200], [800, 750, 500]),
    (">", 40, [12, 50.0, 50.5], [50]),
    ("<", 20, [0, 12, 15, 16, 70], [16, 15, 10]),
    ("<=", 20, [15, 16, 70], [15]),
    ("<=", 0.5, [0.61, 0.66, 0.9], [0.65, 0.7]),
    (">=", 60, [58], []),
    (">=", 60, [], []),
]


@pytest.mark.parametrize(("sign", "now", "seen", "among"), LIMITS)
def test_the_roundest_limit_of_each_way_to_part_them_is_given(sign, now, seen, among):
    found = limits(sign, now, seen)
    assert (set(among) <= set(found)) and bool(among) == bool(found), found


@given(
    st.sampled_from(sorted(SIGNS)),
    st.integers(-50, 2000),
    st.lists(st.integers(-50, 2000) | st.floats(-50, 2000).map(lambda f: round(f, 2)), max_size=7),
)
def test_every_way_to_part_the_values_but_the_present_one_is_there_once(sign, now, seen):
    def parted(limit):
        return tuple(eval(f"{v} {sign} {limit}") for v in sorted(set(seen)))

    values = sorted(set(seen))
    every = {parted(v) for v in values} | {parted(v + 0.001) for v in values}
    both = {way for way in every if len(set(way)) == 2} - {parted(now)}
    assert sorted(parted(limit) for limit in limits(sign, now, seen)) == sorted(both)


def test_a_sign_is_turned_for_who_reads_from_the_other_side():
    assert [sign.translate(TURNED) for sign in ("<", "<=", ">", ">=", "==")] == [
        ">", ">=", "<", "<=", "==",
    ]  # fmt: skip
