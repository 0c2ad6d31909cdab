"""The rules for text, the readings of prompts, and the words for a difference."""

from __future__ import annotations

import pytest

from oddsum.compare.departure import departure_offset
from oddsum.compare.judge import judge
from oddsum.compare.numbers import number_words, off_by
from oddsum.compare.readings import reading
from oddsum.compare.rules import RULES, text_agrees
from oddsum.compare.words import text_difference
from oddsum.model.case import DEFAULTS, Case, Settings
from oddsum.model.outcome import Run

AGREES = [
    ("lines", "a\nb\n", "a  \nb\n\n\n"),
    ("words", "a  b\nc", "a b c"),
    ("numbers", "Total: 12", "the total is 12.0000000001"),
    ("contains", "Total: 12", "x\nTotal: 12\ny"),
    ("pattern", "Total: \\d+\n", "Total: 12\n"),
    ("unordered", "a\nb", "b\na\n"),
    ("exact", "a\n", "a\n"),
]
DIFFERS = [
    ("lines", "a\n\nb", "a\nb"),
    ("words", "ab", "a b"),
    ("numbers", "1 2", "1"),
    ("contains", "Total: 12\nx", "Total: 12"),
    ("pattern", "\\d", "12"),
    ("unordered", "a\na", "a"),
    ("exact", "a\n", "a"),
]


@pytest.mark.parametrize(("rule", "expected", "actual"), AGREES)
def test_a_rule_lets_pass_what_it_should(rule, expected, actual):
    assert text_agrees(expected, actual, Settings(compare=rule).over(DEFAULTS))


@pytest.mark.parametrize(("rule", "expected", "actual"), DIFFERS)
def test_a_rule_holds_up_what_it_should(rule, expected, actual):
    assert not text_agrees(expected, actual, Settings(compare=rule).over(DEFAULTS))


def test_every_rule_is_tried_from_both_sides():
    assert {r for r, *_ in AGREES} == {r for r, *_ in DIFFERS} == set(RULES)


def test_capital_letters_are_ignored_on_request():
    settings = Settings(ignore_case=True).over(DEFAULTS)
    assert text_agrees("Pier", "PIER", settings)


PROMPTED = Run(
    ending="ended",
    output="How many? Age? Total: 15\n",
    asked=((0, 10, "1"), (10, 15, "34")),
)


@pytest.mark.parametrize(
    ("how", "text"),
    [
        ("piped", "How many? Age? Total: 15\n"),
        ("without", "Total: 15\n"),
        ("terminal", "How many? 1\nAge? 34\nTotal: 15\n"),
    ],
)
def test_prompts_have_three_readings_and_any_may_agree(how, text):
    assert reading(PROMPTED, how) == text
    case = Case(number=1, name="x", stdin="1\n34\n", stdout=text)
    assert judge(case, DEFAULTS, PROMPTED).outcome == "agrees"
    for fixed in ("piped", "without", "terminal"):
        outcome = judge(case, Settings(prompts=fixed).over(DEFAULTS), PROMPTED).outcome
        assert outcome == ("agrees" if fixed == how else "differs")


@pytest.mark.parametrize(
    ("expected", "at"),
    [
        ("Total: 16\n", "5\n"),
        ("How many? Age? Total: 18\n", "5\n"),
        ("How many? 1\nAge? 34\nTotal: 19\n", "5\n"),
        ("How many? 1\nAges? 34\nTotal: 15\n", "? Total"),
    ],
)
def test_where_the_output_departs_is_found_in_every_reading(expected, at):
    case = Case(number=1, name="x", stdin="", stdout=expected)
    result = judge(case, DEFAULTS, PROMPTED)
    offset = departure_offset(expected, result.actual, PROMPTED)
    assert PROMPTED.output[offset:].startswith(at)


@pytest.mark.parametrize(
    ("expected", "actual", "words", "line", "column"),
    [
        ("a\nTotal: 6", "a\nTotal: 3", "line 2: 6 expected, 3 came out; 3 too little", 2, 8),
        ("Total: 6", "total: 6", "the same but for capital letters", 1, 1),
        ("a b", "a  b", "the same but for spaces", 1, 3),
        ("a\nb\nc", "a", "the last 2 lines are missing, from line 2 on", 2, 1),
        ("a\nb", "a", "line 2 is missing: “b”", 2, 1),
        ("a", "a\nb", "1 line too many, from line 2 on: “b”", 2, 1),
        ("a", "", "nothing was printed", 1, 1),
        ("", "a", "nothing was expected, “a” came out", 1, 1),
        ("pier", "quay", "“pier” expected, “quay” came out", 1, 1),
        ("a\n", "a", "blanks at line ends", None, None),
    ],
)
def test_a_difference_is_told_in_words_with_its_place(expected, actual, words, line, column):
    difference = text_difference(expected, actual)
    assert words in difference.summary
    assert (difference.line, difference.column) == (line, column)


@pytest.mark.parametrize(
    ("expected", "actual", "words"),
    [
        ("12", "17", "5 too much"),
        ("12", "24", "12 too much (2 times as much)"),
        ("12", "6", "6 too little (half of it)"),
        ("30", "3", "(a tenth of it)"),
        ("9", "3", "6 too little (a third of it)"),
        ("120", "2", "118 too little (it, divided by 60)"),
        ("12", "-12", "the sign is the other way round"),
        ("0.5", "0.75", "0.25 too much"),
        ("10", "1", "9 too little"),
    ],
)
def test_numbers_are_told_by_how_much(expected, actual, words):
    assert words in number_words(expected, actual)


def test_the_column_off_by_speaks_only_of_one_number():
    assert off_by("Total: 18\n", "Total: 12\n") == "−6"
    assert off_by("a 1", "a 2.5") == "+1.5"
    assert off_by("1 2", "2 3") == off_by("1\n2", "2\n3") == off_by("a", "b") == ""
