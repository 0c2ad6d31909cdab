"""What the odd cases share: the simplest true sentence with its counts, or nothing at all."""

from __future__ import annotations

import threading

import pytest

from conftest import FERRY, OWN
from oddsum.advise.pattern import find_pattern
from oddsum.check.plan import check_all
from oddsum.check.traced import Cancelled
from oddsum.model.case import Case, Plan
from oddsum.plan.read import read_plan


def pattern_of(tmp_path, source, cases, right, recorded=True):
    """The pattern over cases of this program, where ``right`` says what each should give."""
    path = tmp_path / "x.py"
    path.write_text(source)
    rows = tuple(
        Case(number=n, name=str(n), call=f"f({c!r})", returns=repr(right(c)))
        if "def f" in source
        else Case(number=n, name=str(n), stdin=c, stdout=right(c))
        for n, c in enumerate(cases, 1)
    )
    plan = Plan(program=path, cases=rows)
    found = find_pattern(plan, OWN if recorded else None, check_all(plan, OWN))
    return found.sentences if found else ()


TABLE = [
    ("def f(age):\n    return 3 if age <= 16 else 6\n", [3, 15, 16, 17, 40, 16.0],
     lambda a: 3 if a < 16 else 6, "Both odd cases have an age of exactly 16; none of the 4"),
    ("def f(n):\n    return n // 2 if n % 2 == 0 else n // 2\n", [1, 2, 3, 4, 6, 7],
     lambda n: -(-n // 2), "All 3 odd cases have an n that is an odd number; none of the 3"),
    ("def f(n):\n    return n if n > 0 else n\n", [-2, -1, 0, 1, 5], abs,
     "Both odd cases have an n that is below 0"),
    ("def f(cars):\n    return sum(cars[:-1])\n", [[], (), [1], [1, 2], [3, 3]], sum,
     "All 3 odd cases have a cars that is not empty"),
    ("def f(cars):\n    return len(set(cars))\n", [[1, 2], [1, 1], [], [2, 2, 3], [4]], len,
     "Both odd cases have a cars with the same item twice"),
    ("def f(name):\n    return name.capitalize()\n", ["pier", "Quay", "old pier", "new quay"],
     str.title, "Both odd cases have a name with spaces in it"),
    ("def f(name):\n    return name.encode('ascii', 'ignore').decode()\n",
     ["pier", "møle", "quay", "älv"], str, "Both odd cases have a name with letters beyond A to Z"),
    ("word = input()\nif word:\n    print(word)\nelse:\n    print('none')\n", ["a\n", "b\n", "c\n", "\n"],
     lambda w: w if w.strip() else "\n", "The one odd case has a line that is empty"),
]  # fmt: skip


@pytest.mark.parametrize(("source", "cases", "right", "words"), TABLE, ids=range(len(TABLE)))
def test_the_simplest_true_sentence_is_found(tmp_path, source, cases, right, words):
    sentences = pattern_of(tmp_path, source, cases, right)
    assert sentences and sentences[0].startswith(words), sentences


@pytest.mark.parametrize(("source", "cases", "right", "words"), TABLE, ids=range(len(TABLE)))
def test_its_counts_are_those_of_the_outcomes(tmp_path, source, cases, right, words):
    sentences = pattern_of(tmp_path, source, cases, right)
    path = tmp_path / "x.py"
    agree = sum(
        r.outcome == "agrees"
        for r in check_all(
            Plan(program=path, cases=tuple(
                Case(number=n, name=str(n), call=f"f({c!r})", returns=repr(right(c)))
                if "def f" in source else Case(number=n, name=str(n), stdin=c, stdout=right(c))
                for n, c in enumerate(cases, 1))), OWN)
    )  # fmt: skip
    assert f"none of the {agree} that agree does" in sentences[0]


def test_nothing_is_said_where_nothing_sets_them_apart(tmp_path):
    source = "def f(n):\n    return n if n not in (3, 8, 9) else 0\n"
    assert pattern_of(tmp_path, source, [3, 8, 9, 2, 7, 10, 5, 4], lambda n: n) == (
        "All 3 give 0.",
    )


def test_of_a_single_odd_case_only_something_plain_is_said(tmp_path):
    source = "def f(n):\n    return n if n != 7 else 0\n"
    assert pattern_of(tmp_path, source.replace("!= 7", "!= 7.5"), [7.5, 1, 5], lambda n: n) == ()


def test_without_a_case_that_agrees_there_is_nothing_to_set_apart(tmp_path):
    assert pattern_of(tmp_path, "def f(n):\n    return n + 1\n", [1, 2], lambda n: n) == (
        "Both are off by the same amount: 1 too much.",
    )


@pytest.mark.parametrize(
    ("body", "words"),
    [
        ("n * 2", "same factor: 2 times what"),
        ("n + n * n", "give too much, each"),
        ("n - 3", "3 too little"),
    ],
)
def test_how_far_off_all_are_is_told(tmp_path, body, words):
    sentences = pattern_of(tmp_path, f"def f(n):\n    return {body}\n", [5, 7, 9], lambda n: n)
    assert words in sentences[-1]


def test_off_by_an_item_of_the_input_is_told(tmp_path):
    source = "def f(cars):\n    return sum(cars[:-1])\n"
    sentences = pattern_of(tmp_path, source, [[], [0], [4], [1, 2], [3, 5]], sum)
    assert sentences == ("All 3 are off by the last item of cars.",)


def test_inputs_alone_speak_where_nothing_can_be_recorded(tmp_path):
    source = "n = int(input())\nprint(abs(n) * 2)\n"
    sentences = pattern_of(
        tmp_path,
        source,
        ["1\n", "-1\n", "4\n", "-3\n"],
        lambda c: f"{int(c) * 2}\n",
        recorded=False,
    )
    assert sentences[0].startswith("Both odd cases have a number typed in that is below 0")


def test_the_demo_s_odd_cases_share_their_limit():
    program = FERRY / "fares.py"
    plan = read_plan(program.with_suffix(".cases.toml"), program)
    found = find_pattern(plan, OWN, check_all(plan, OWN))
    assert found.sentences[0] == (
        "Both odd cases have an age of exactly 16; none of the 7 that agree does."
    )


def test_what_was_not_seen_to_its_end_is_not_said_of_a_run(tmp_path):
    source = (
        "def f(n):\n    for i in range(9000 if n == 2 else 1):\n        pass\n"
        "    if n % 3 == 0:\n        return 0\n    return n\n"
    )
    whole = source.replace("9000", "1")
    assert "when divided by 3" in pattern_of(tmp_path, whole, [3, 6, 9, 2, 4, 5], lambda n: n)[0]
    cut = source.replace("9000", "30000")
    assert pattern_of(tmp_path, cut, [3, 6, 9, 2, 4, 5], lambda n: n) == ("All 3 give 0.",)


def test_what_is_stopped_says_nothing(tmp_path):
    """Not what inputs alone would say: nobody would know that the rest was not looked at."""
    stop = threading.Event()
    stop.set()
    plan = read_plan(FERRY / "fares.cases.toml", FERRY / "fares.py")
    with pytest.raises(Cancelled):
        find_pattern(plan, OWN, tuple(check_all(plan, OWN)), stop)
