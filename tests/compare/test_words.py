"""How a difference is said: texts of several lines, one line, numbers, and values at any depth."""

from __future__ import annotations

import time

import pytest
from hypothesis import given
from hypothesis import strategies as st

from oddsum.compare.align import align_lines, parts
from oddsum.compare.values import value_difference
from oddsum.compare.words import first_departure, text_difference

TEXTS = [
    ("a\nb\nc", "a\nc", "line 2 is missing: “b” was expected; all else is the same", 2),
    ("a\nb\nc\nd\ne", "a\nd\ne", "lines 2 to 3 are missing; what follows is the same, 2 lines", 2),
    ("a\nb\nc", "a\nb\nb\nc", "line 3 repeats the one before, “b”", 3),
    ("a\nc", "a\nb\nc", "1 line too many, line 2: “b”; all else is the same", 2),
    ("a\nd", "a\nb\nc\nd", "2 lines too many, from line 2 on: “b”; what follows is the same", 2),
    ("a\nb\nc", "c\nb\na", "the same lines in another order (backwards); line 1 is", 1),
    ("Pier\nQuay", "pier\nquay", "the same but for capital letters", 1),
    ("a b\nc", "a b c", "the same words, but broken into lines in another way", 1),
    ("n 1\nn 2\nn 3", "n 2\nn 3\nn 4", "line 1: 1 expected, 2 came out; 1 too much", 1),
    (
        "a\nb\nc\nd",
        "b\nc\nd\ne",
        "line 1 is missing: “a” was expected; from there on all stands",
        1,
    ),
    ("b\nc\nd\ne", "a\nb\nc\nd", "line 1: “a”; from there on all stands too late", 1),
    ("x\nn 1\nn 5", "x\nn 3\nn 7", "2 too much (3 times as much), and the same in 1 more line", 2),
    ("x\nn 1\nn 5", "x\nn 3\nn 8", "; 1 more line differs", 2),
    ("two cars", "two cars and a van", "“two cars” expected", 1),
    ("to the pier", "to pier", "“the” is missing", 1),
    ("to pier", "to the pier", "“the” is too many", 1),
    ("cars two", "two cars", "the same words in another order", 1),
    ("Total: 12.", "Total: 12", "the same but for punctuation", 1),
    ("12 of 30", "11 of 31", "(and 1 more number in that line)", 1),
    ("3.33", "3.3333", "the same but for rounding to 2 decimals", 1),
    ("4", "3.6", "the same but for rounding to a whole number", 1),
    ("3", "3.6", "the same but for the decimals, which should be cut off", 1),
    ("3.333", "3.33", "the same but rounded too far", 1),
    ("12.50", "12.5", "the same number, written in another way", 1),
]
VALUES = [
    ("'12'", "12", "12 is a number, '12' is text"),
    ("12", "'12'", "'12' is text, 12 is a number"),
    ("[1]", "(1,)", "the same items, in a tuple instead of a list"),
    ("5", "None", "nothing was returned"),
    ("[1, 2, 3]", "[3, 2, 1]", "the same items in another order, backwards"),
    ("[1, 2, 3]", "[2, 3]", "1 item too few: the first is missing"),
    ("[1, 2, 3]", "[1, 2]", "1 item too few: the last is missing"),
    ("[1, 3]", "[1, 2, 3]", "1 item too many: 2 at [1] is too many"),
    ("[1, 2, 3]", "[1, 5, 3]", "at [1]: 2 expected, 5 came out; 3 too much"),
    ("[[1, 2], [3, 4]]", "[[1, 2], [3, 5]]", "at [1][1]: 4 expected, 5 came out; 1 too much"),
    ("{'bow': [1, 2]}", "{'bow': [1]}", "in ['bow'] 1 item too few: the last is missing"),
    ("{'bow': 1, 'stern': 2}", "{'bow': 1}", "the key 'stern' is missing"),
    ("{'bow': 1}", "{'bow': 1, 'x': 2}", "the key 'x' is too many"),
    ("{1, 2}", "{1, 3}", "2 is missing and 3 is too many"),
    ("{1}", "set()", "1 is missing"),
    ("'Pier'", "'pier'", "the same but for capital letters"),
    ("'a b'", "'a  b'", "the same but for spaces"),
    ("'to the pier'", "'to pier'", "“the” is missing"),
    ("[0.1, 1]", "[0.10000000000000002, 2]", "at [1]: 1 expected, 2 came out"),
    ("2.5", "-2.5", "the sign is the other way round"),
    ("True", "1.5", "float, where bool was expected"),
    ("Boat('Ivy')", "Boat('Elm')", "Boat('Ivy') expected, Boat('Elm') came out"),
    ("'a\\nb'", "'a\\nc'", "line 2: “b” expected, “c” came out"),
]


@pytest.mark.parametrize(("expected", "actual", "words", "line"), TEXTS)
def test_a_text_s_difference_is_said_in_plain_words(expected, actual, words, line):
    difference = text_difference(expected, actual)
    assert words in difference.summary
    assert difference.line == line


@pytest.mark.parametrize(("expected", "actual", "words"), VALUES)
def test_a_value_s_difference_is_said_with_its_place(expected, actual, words):
    types = [type(eval(t, {"Boat": str})).__name__ for t in (expected, actual)]
    assert words in value_difference(expected, actual, *types).summary


lines = st.lists(st.sampled_from(["Total: 3", "Total: 4", "pier", "", "Quay 12"]), max_size=12)


@given(lines, lines)
def test_aligned_lines_are_all_lines_of_both_in_order(left, right):
    pairs = align_lines(left, right)
    assert [p.left for p in pairs if p.left is not None] == list(range(len(left)))
    assert [p.right for p in pairs if p.right is not None] == list(range(len(right)))
    for pair in pairs:
        both = pair.left is not None and pair.right is not None
        assert pair.same == (both and left[pair.left] == right[pair.right])


@given(st.text("ab 12.", max_size=20), st.text("ab 12.", max_size=20))
def test_the_parts_of_a_line_are_the_whole_line(left, right):
    found = list(parts(left, right))
    assert "".join(a for _, a, _ in found) == left
    assert "".join(b for _, _, b in found) == right
    assert all(a == b for same, a, b in found if same)


@given(lines, lines)
def test_a_difference_has_words_exactly_where_there_is_one(left, right):
    expected, actual = "\n".join(left), "\n".join(right)
    place = first_departure(expected, actual)
    assert text_difference(expected, actual).summary
    assert (place is None) == (text_difference(expected, actual).line is None)


@pytest.mark.parametrize("odd", ["one", "all", "same lines over and over", "shifted"])
def test_ten_thousand_lines_are_aligned_without_going_through_all_pairs(odd):
    left = [f"ferry {n} carries {n % 7} cars" for n in range(10_000)]
    right = {
        "one": [*left[:5000], "sunk", *left[5001:]],
        "all": [line + "!" for line in left],
        "same lines over and over": ["pier"] * 5000 + ["quay"] * 5000,
        "shifted": left[3:],
    }[odd]
    if odd.startswith("same"):
        left = ["quay"] * 5000 + ["pier"] * 5000
    started = time.process_time()
    pairs = align_lines(left, right)
    assert sum(p.left is not None for p in pairs) == len(left)
    assert time.process_time() - started < 20  # a guard against going quadratic, not a timing
