"""Columns are named in one place."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from oddsum.model.column import Column, is_watched, short_name

NAMES = st.sampled_from(["total", "age", "self", "_x", "ö"])
FUNCTIONS = st.sampled_from(["", "fare", "Ferry.board", "outer.inner", "<lambda>"])


@given(FUNCTIONS, NAMES, st.booleans())
def test_a_title_ends_with_the_name_and_an_owner_is_a_call_or_none(function, name, shared):
    made = Column(function, name, shared=shared and bool(function))
    assert short_name(made.title) == name and not is_watched(made.title)
    assert made.owner(7) == (7 if function and not shared else 0)


@pytest.mark.parametrize("watched", ["[total - 1]", "[ferry.seats]", "[rows[0].n]"])
def test_a_watched_expression_is_one_whole_whatever_dots_it_has(watched):
    made = Column("", watched, watched=True)
    assert short_name(made.title) == watched and is_watched(made.title) and made.owner(7) == 0
