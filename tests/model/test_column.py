"""Columns are named in one place, and what is made there is taken apart to what it was."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from oddsum.model.column import Column, column, is_local, is_watched, short_name

NAMES = st.sampled_from(["total", "age", "self", "_x", "ö"])
FUNCTIONS = st.sampled_from(["", "fare", "Ferry.board", "outer.inner", "<lambda>"])


@given(FUNCTIONS, NAMES)
def test_a_title_is_taken_apart_to_what_it_was_made_of(function, name):
    made = Column(function, name)
    assert column(made.title) == made
    assert short_name(made.title) == name
    assert is_local(made.title) == bool(function) and not is_watched(made.title)


@pytest.mark.parametrize("watched", ["[total - 1]", "[ferry.seats]", "[rows[0].n]"])
def test_a_watched_expression_is_one_whole_whatever_dots_it_has(watched):
    assert column(watched) == Column("", watched, watched=True)
    assert short_name(watched) == watched and not is_local(watched) and is_watched(watched)
