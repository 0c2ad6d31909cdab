"""Texts of values: whole, safe, and never made by the program's own code."""

from __future__ import annotations

import collections
import datetime
import decimal
import enum
import fractions
import math
import re

import pytest
from hypothesis import given
from hypothesis import strategies as st

from oddsum.languages.python.probe.summary import CHARS, ITEMS, size_of, summarise

PLAIN = st.recursive(
    st.none() | st.booleans() | st.integers() | st.floats() | st.text() | st.binary(),
    lambda inner: (
        st.lists(inner, max_size=4)
        | st.dictionaries(st.text(max_size=3), inner, max_size=3)
        | st.tuples(inner, inner)
    ),
    max_leaves=8,
)


def depth(value: object) -> int:
    if isinstance(value, dict):
        return 1 + max(map(depth, value.values()), default=0)
    if isinstance(value, (list, tuple)):
        return 1 + max(map(depth, value), default=0)
    return 0


@given(PLAIN)
def test_built_in_values_are_shown_as_repr_shows_them(value):
    summary = summarise(value)
    if depth(value) <= 3:
        assert (summary.text, summary.whole) == (repr(value), True)
    else:
        assert not summary.whole
    assert summary.type == type(value).__name__


class Deck(enum.Enum):
    """An enum of the learner's."""

    LOWER = 1


class Point:
    """Slots in place of a dict."""

    __slots__ = ("x", "y")


class Named(collections.namedtuple("Named", "a b")):
    """A class made from a tuple."""


class Trouble:
    """Everything about it fails, prints or never ends."""

    def __init__(self) -> None:
        self.deep = {"a": [1]}
        self.me = self

    def __repr__(self) -> str:
        raise AssertionError("repr was called")

    __str__ = __len__ = __iter__ = __eq__ = __bool__ = __hash__ = __repr__  # type: ignore[assignment]

    def __getattribute__(self, name: str) -> object:
        raise AssertionError("an attribute was asked for")


class Lazy(dict):  # type: ignore[type-arg]
    """A dict that would load something when it is walked."""

    def __iter__(self):
        raise AssertionError("it was walked")

    items = keys = values = __len__ = __iter__


def point() -> Point:
    made = Point()
    made.x = 3
    return made


TABLE = [
    (Deck.LOWER, "Deck.LOWER"),
    (point(), "Point(x=3)"),
    (Named(1, 2), "Named((1, 2))"),
    (Lazy(a=1), "Lazy({'a': 1})"),
    (ValueError("x", 2), "ValueError('x', 2)"),
    (KeyError("k"), "KeyError('k')"),
    (range(3), "range(0, 3)"),
    (slice(1, 2), "slice(1, 2, None)"),
    (decimal.Decimal("1.50"), "Decimal('1.50')"),
    (fractions.Fraction(1, 3), "Fraction(1, 3)"),
    (datetime.date(2026, 3, 1), "datetime.date(2026, 3, 1)"),
    (math.sqrt, "<function sqrt>"),
    (math, "<module math>"),
    (Point, "<class Point>"),
    (set(), "set()"),
    (frozenset({1}), "frozenset({1})"),
    ((1,), "(1,)"),
    ((), "()"),
    (collections.deque([1, 2]), "deque([1, 2])"),
    (collections.Counter("aab"), "Counter({'a': 2, 'b': 1})"),
    (collections.defaultdict(list, a=[1]), "defaultdict({'a': [1]})"),
    (float("nan"), "nan"),
    (float("-inf"), "-inf"),
    (1 + 2j, "(1+2j)"),
    (10**5000, "<int of 16610 bits>"),
    ([10**5000], "[<int of 16610 bits>]"),
    (re.compile("a"), "re.compile('a')"),
    (..., "Ellipsis"),
]


@pytest.mark.parametrize(("value", "text"), TABLE, ids=[t for _, t in TABLE])
def test_other_values_are_shown_by_what_they_hold(value, text):
    assert summarise(value).text == text


def test_the_program_s_own_code_is_never_run():
    summary = summarise(Trouble())
    assert summary.text == "Trouble(deep={'a': [1]}, me=(itself))"
    assert not summary.flat


def test_cycles_end():
    loop: list[object] = [1]
    loop.append(loop)
    assert summarise(loop).text == "[1, (itself)]"


def test_what_is_long_is_cut_and_says_so():
    many = summarise(list(range(ITEMS + 5)))
    assert many.text.endswith("999, … 5 more]") and not many.whole
    assert many.size == ITEMS + 5
    long = summarise("x" * (CHARS + 5))
    assert len(long.text) < CHARS + 5 and not long.whole
    deep = summarise([[[[1]]]])
    assert deep.text == "[[[list(…)]]]" and not deep.whole


def test_generators_and_iterators_are_not_consumed():
    numbers = (n for n in range(3))
    walker = iter([1, 2])
    summarise([numbers, walker])
    assert list(numbers) == [0, 1, 2] and list(walker) == [1, 2]


def test_flat_means_nothing_inside_can_change():
    assert summarise([1, "a", None]).flat
    assert summarise({"a": 1}).flat
    assert not summarise([[1]]).flat
    assert not summarise({"a": [1]}).flat
    assert not summarise(point()).flat


@pytest.mark.parametrize(
    ("value", "size"), [("abc", 3), ([1], 1), ({}, 0), (range(5), 5), (Lazy(a=1), 1), (5, None)]
)
def test_sizes(value, size):
    assert size_of(value) == size
