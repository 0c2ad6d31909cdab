"""Changes in place: where they are found again without the program's code, and where they are not."""

import ast

import pytest

from oddsum.languages.python.probe.places import LOST, place_of, walked, worked_out


class Ship:
    def __init__(self):
        self.decks = [[1, 2], [3, 4]]
        self.at = 1

    @property
    def full(self):
        raise AssertionError("the program's own code was run")


class Odd(dict):
    def __getitem__(self, key):
        raise AssertionError("the program's own code was run")


SHIP, XS, YS = Ship(), [2, 0, 1], [[5, 6], [7, 8], [9, 10]]
NAMES = {"ship": SHIP, "xs": XS, "ys": YS, "i": 1, "d": {"a": XS, 3: YS}, "word": "ba",
         "odd": Odd(a=1), "t": (XS, YS), "big": 1 << 80}  # fmt: skip


def found(text: str, names=None):
    """What the place written as a text leads to, None where it has no plain place at all."""
    parts = place_of(ast.parse(text, mode="eval").body)
    if parts is None:
        return None
    names = NAMES if names is None else names
    root, *steps = (
        eval(compile(ast.fix_missing_locations(ast.Expression(p)), "x", "eval"), {}, names)
        for p in parts
    )
    return walked(root, steps, [])


PLACES = ["xs", "ys[0]", "ys[i]", "ys[-1]", "ys[i + 1]", "ys[i - 1][0]", "ys[i * 2 % 3]", "ys[i // 2]",
          "ys[xs[0]]", "ys[xs[xs[1]]][xs[2]]", "d['a']", "d['a'][i]", "d[3][i][0]", "d[word[1]]",
          "ship.decks", "ship.decks[ship.at]", "ship.decks[ship.at - 1][i]", "t[1][xs[2] - 1]",
          "ys[len(xs) - 1]", "ys[d['a'][2]]"]  # fmt: skip


@pytest.mark.parametrize("text", PLACES)
def test_a_place_is_found_again_where_the_program_has_it(text):
    there = found(text)
    if "len(" in text:
        assert there is None  # a call is not worked out: the whole object is looked at
    else:
        assert there is eval(text, {}, NAMES)


@pytest.mark.parametrize(
    "text", ["ys[9]", "d['z']", "ship.full", "ship.none", "odd['a']", "ys[i % 0]", "ys[i // 0]",
             "ys[big * big]", "ys[word[0]]", "xs[0][0]", "ys['a' + 'b']", "ys[ship.decks]"],
)  # fmt: skip
def test_where_only_the_program_could_tell_nothing_is_run_and_the_place_is_lost(text):
    there = found(text)
    assert there is LOST or there is None


@pytest.mark.parametrize("text", ["f()[0]", "xs[f()]", "ys[i:2]", "(xs + ys)[0]", "ys[not i]"])
def test_what_has_no_plain_place_is_left_to_a_look_at_the_whole(text):
    assert place_of(ast.parse(text, mode="eval").body) is None


def test_what_was_looked_into_is_gathered_for_it_may_be_what_was_changed():
    through: list = []
    assert worked_out([[[XS, [0]], 1, "+"], 2, "%"], through) == 1
    assert through == [XS]
    walked(YS, [[XS, [1]], 0], through)
    assert any(looked is YS for looked in through) and sum(looked is XS for looked in through) == 2


def test_a_list_in_a_key_s_place_is_never_taken_for_a_way():
    assert worked_out([1, 2], []) is LOST
    assert worked_out([1, 2, "**"], []) is LOST
    assert worked_out(("a", 1), []) == ("a", 1)
