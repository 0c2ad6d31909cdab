"""What can be said of a single case, from its input alone."""

from __future__ import annotations

import pytest

from oddsum.advise.features import Known, features_of, values_of
from oddsum.advise.seen import Forks
from oddsum.model.case import Case
from oddsum.source.program import Source

SOURCE = Source("x.py", "def f(cars, age=0):\n    return 0\n")
FORKS = Forks((), (), (SOURCE,))

HAS = [
    ({"call": "f([])"}, "a cars that is empty"),
    ({"call": "f([4])"}, "a cars of one item"),
    ({"call": "f([4, 4])"}, "a cars with the same item twice"),
    ({"call": "f([4, -4])"}, "a cars with a number below 0 in it"),
    ({"call": "f([4, 0])"}, "a cars with a 0 in it"),
    ({"call": "f([4, 2])"}, "a cars whose numbers do not go up"),
    ({"call": "f([4, 2])"}, "a cars with its largest number first"),
    ({"call": "f([2, 4])"}, "a cars with its largest number last"),
    ({"call": "f([1, 2, 3])"}, "a cars with an odd number of items"),
    ({"call": "f([], 0)"}, "an age that is 0"),
    ({"call": "f([], -2)"}, "an age that is below 0"),
    ({"call": "f([], 2.5)"}, "an age that is no whole number"),
    ({"call": "f([], 3)"}, "an age that is an odd number"),
    ({"call": "f('Old Pier')"}, "a cars with capital letters"),
    ({"call": "f('Old Pier')"}, "a cars with spaces in it"),
    ({"call": "f(' pier')"}, "a cars with spaces around it"),
    ({"call": "f('møle')"}, "a cars with letters beyond A to Z"),
    ({"stdin": ""}, "nothing typed in"),
    ({"stdin": "\n"}, "a line that is empty"),
    ({"stdin": "3\n-1\n"}, "a number typed in that is below 0"),
    ({"stdin": "3\n0\n"}, "a number typed in that is 0"),
    ({"stdin": "3\n3\n"}, "the same number twice in its input"),
    ({"stdin": "Pier\n"}, "a line with capital letters"),
]
HAS_NOT = [
    ({"call": "f([4, 2])"}, "a cars with the same item twice"),
    ({"call": "f([2, 4])"}, "a cars whose numbers do not go up"),
    ({"call": "f([], 4)"}, "an age that is an odd number"),
    ({"call": "f('pier')"}, "a cars with capital letters"),
    ({"call": "f(True)"}, "a cars that is an odd number"),
    ({"stdin": "3\n4\n"}, "the same number twice in its input"),
    ({"stdin": "3\n"}, "nothing typed in"),
]


def words_of(case):
    one = Case(number=1, name="one", **case)
    return set(features_of(Known(one, values_of(one, FORKS), None), FORKS))


@pytest.mark.parametrize(("case", "words"), HAS)
def test_a_case_has_the_feature(case, words):
    assert words in words_of(case)


@pytest.mark.parametrize(("case", "words"), HAS_NOT)
def test_a_case_has_not_the_feature(case, words):
    assert words not in words_of(case)


def test_every_feature_of_an_input_is_tried_and_none_is_of_a_run():
    one = Case(number=1, name="one", call="f([1], 2)")
    features = features_of(Known(one, values_of(one, FORKS), None), FORKS)
    assert not any(f.of_run for f in features.values())


@pytest.mark.parametrize("call", ["f(*x)", "f(g(1))", "f", "f.g(1)", "1 + 1"])
def test_calls_that_hold_no_plain_values_say_nothing(call):
    assert values_of(Case(number=1, name="one", call=call), FORKS) in ((), (("argument 1", 1),))


@pytest.mark.parametrize("typed", ["nan\n", "inf\n-inf\n", "9" * 400 + "\n"])
def test_what_is_hardly_a_number_is_no_reason_to_fail(typed):
    assert isinstance(words_of({"stdin": typed}), set)
