"""Inputs close to those that are there: changed in one place, and none of them known yet."""

from __future__ import annotations

from itertools import islice

from oddsum.advise.neighbours import neighbours
from oddsum.languages.notation import DEFAULT
from oddsum.model.case import Case

TYPED = Case(number=1, name="two", stdin="2\n34\nArd Holm\n", stdout="Total: 12\n")
CALLED = Case(number=2, name="fare", call="fare(16, ['a', 'b'])", returns="3")


def test_each_is_changed_in_one_place_and_expects_nothing():
    for case in neighbours([TYPED], DEFAULT):
        old, new = TYPED.stdin.split("\n"), case.stdin.split("\n")
        assert sum(a != b for a, b in zip(old, new, strict=False)) <= 1 or len(new) > len(old)
        assert (case.stdout, case.returns, case.check) == (None, None, None)
    stdins = {case.stdin for case in neighbours([TYPED], DEFAULT)}
    assert {"2\n35\nArd Holm\n", "0\n34\nArd Holm\n", "2\n34\nArd\n"} <= stdins


def test_arguments_are_changed_and_what_is_inside_of_them():
    calls = [case.call for case in neighbours([CALLED], DEFAULT)]
    assert {"fare(17, ['a', 'b'])", "fare(16, ['b', 'a'])", "fare(16, ['A', 'b'])"} <= set(calls)
    assert len(calls) == len(set(calls))
    assert CALLED.call not in calls


def test_the_shortest_case_comes_first_and_a_long_one_is_left_alone():
    long = Case(number=3, name="long", stdin="1\n" * 300)
    first = next(iter(neighbours([long, CALLED, TYPED], DEFAULT)))
    assert first.stdin is not None and len(first.stdin) < 40
    assert not list(islice(neighbours([long], DEFAULT), 1))


def test_what_is_known_is_not_proposed_again():
    other = Case(number=4, name="other", stdin="3\n34\nArd Holm\n")
    assert "3\n34\nArd Holm\n" not in {case.stdin for case in neighbours([TYPED, other], DEFAULT)}
