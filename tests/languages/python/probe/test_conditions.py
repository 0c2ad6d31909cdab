"""Conditions that part rounds: each holds where it is said to, by its own text."""

from __future__ import annotations

from hypothesis import given
from hypothesis import strategies as st

from oddsum.languages.python.probe.conditions import conditions, holding

VALUES = st.one_of(st.integers(-3, 3), st.booleans(), st.sampled_from(["a", "B", "7", ""]),
                   st.sampled_from([0.5, 1.0]))  # fmt: skip
ROUNDS = st.lists(st.dictionaries(st.sampled_from(["mark", "n", "late"]), VALUES), max_size=7)


def holds(text: str, names: dict[str, object]) -> bool:
    """Whether a condition holds by its text, of the very sort of value that it names."""
    try:
        return bool(eval(text, dict(names)))
    except (NameError, TypeError, AttributeError):
        return False


@given(ROUNDS)
def test_a_condition_holds_in_the_rounds_that_are_told_and_in_no_others(rounds):
    for alike, where in conditions(rounds):
        assert 0 < len(where) < len(rounds)
        for one in alike:
            assert where == tuple(n for n, names in enumerate(rounds) if one.holds(names))
            sorts = {type(names[one.name]) for names in rounds if one.name in names}
            if len(sorts) == 1:  # 1 and True are equal, by the text
                told = tuple(n for n, names in enumerate(rounds) if holds(one.text, names))
                assert told == where, one.text


@given(ROUNDS)
def test_rounds_are_parted_in_one_way_once(rounds):
    ways = [where for _, where in conditions(rounds)]
    assert len(ways) == len(set(ways))


def test_what_holds_in_a_single_round_has_the_key_that_it_has_in_several():
    marks = [{"mark": "."}, {"mark": "-"}]
    keys = {one.key for alike, _ in conditions(marks) for one in alike}
    assert {one.key for one in holding({"mark": "."})} == {"mark == '.'"} <= keys
    assert [one.key for one in holding({"c": "B"})] == ["c == 'B'", "c.isupper()", "c.isalpha()"]
    limits = [{"n": 4}, {"n": 9}, {"n": 12}]
    keys = {one.key for alike, _ in conditions(limits) for one in alike}
    assert keys == {"n >=", "n % 2 == 0", "n % 2 == 1"}
    rounds = [{"n": 0}, {"n": 1}, {"n": 2}, {"n": 3}]
    told = {one.text: where for alike, where in conditions(rounds) for one in alike}
    assert told["n % 2 == 1"] == (1, 3)
