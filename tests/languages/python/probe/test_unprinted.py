"""Gaps between statements: where a line that nothing prints could have come from."""

from __future__ import annotations

import ast

import pytest

from missing_lines import MISSING
from oddsum.languages.python.probe.gaps import gaps, missing_text, prints
from oddsum.languages.python.probe.sites import HOOK, Places, Sites


@pytest.mark.parametrize(("expected", "actual", "missing"), MISSING)
def test_the_lines_that_are_missing(expected, actual, missing):
    assert missing_text(expected, actual) == missing


TEXT = '''"""The gangway."""
import sys
from sys import argv

crew = 3


class Boat:
    seats = 4


def board(people):
    """Who goes aboard."""
    for person in people:
        if person == "mate":
            continue
        elif person:
            print(person)
        else:
            aside = 0
    return crew


board([1, 2])
'''


def found(text: str) -> list[tuple[int, str]]:
    """The gaps of a text, by line and side."""
    pairs = [
        (node.lineno, side)
        for owner in ast.walk(ast.parse(text))
        for field in ("body", "orelse", "finalbody")
        if isinstance(body := getattr(owner, field, None), list) and body
        for _, node, side in gaps(owner, field, body)
    ]
    return sorted(pairs)


def test_gaps_are_where_a_statement_can_stand_and_is_come_to():
    assert found(TEXT) == [
        (5, "before"), (14, "before"), (15, "before"), (15, "behind"), (16, "before"),
        (18, "before"), (18, "behind"), (20, "before"), (20, "behind"), (21, "before"),
        (24, "before"), (24, "behind"),
    ]  # fmt: skip


def test_it_is_known_which_functions_print():
    tree = ast.parse(TEXT)
    assert not prints(tree)  # what a function in it prints is not its own
    assert [prints(n) for n in tree.body if isinstance(n, ast.FunctionDef)] == [True]
    assert prints(ast.parse("for n in (1, 2):\n    print(n)\n"))


def test_gaps_do_nothing_and_each_is_heard_of_where_the_program_comes_by():
    heard: list[int] = []
    places = Places()
    sites = Sites(TEXT, "boat.py", "boat.py", None, places)

    def hook(number, value):
        heard.append(number)
        return value

    names = {"≠g": lambda *_: None, HOOK: hook, "__name__": "boat", "print": lambda text: None}
    exec(sites.code, names)  # the program here, hooked
    came = [(p.line, p.gap) for p in map(places.all.__getitem__, heard) if p.gap]
    assert names["__doc__"] == "The gangway."
    assert (names["crew"], names["board"].__doc__) == (3, "Who goes aboard.")
    assert came.count((14, "before")) == 1
    assert came.count((18, "before")) == came.count((18, "behind")) == 2
    assert came.count((16, "before")) == 0
    assert came[-1] == (24, "behind")
