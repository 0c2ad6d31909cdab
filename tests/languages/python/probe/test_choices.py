"""A program with all its edits in one tree does, for each, what the edited text does."""

from __future__ import annotations

import contextlib
import io
import re
from typing import Any

import pytest

from conftest import FERRY, MANY
from oddsum.languages.python.edits import trial_edits
from oddsum.languages.python.edits.scene import Scene
from oddsum.languages.python.probe.choices import SWITCHES, made_of
from oddsum.source.program import Source, read_source

PROGRAMS = (
    __import__("pathlib").Path(__file__).parents[4]
    / "benchmarks"
    / "pinpoint"
    / "programs"
    / "python"
)
MOST_TICKS = 2_000


class Over(BaseException):
    """It ran for too many rounds."""


def did(code: Any, switches: list[int]) -> tuple[str, str]:
    """What a program printed, and how it ended; input is 3, 34, 36, 9, and so on."""
    left, typed, out = [MOST_TICKS], iter(["3", "34", "36", "9"] * 3), io.StringIO()

    def tick() -> None:
        left[0] -= 1
        if left[0] < 0:
            raise Over

    names = {"__name__": "__main__", SWITCHES: switches, "≠g": tick,
             "input": lambda prompt="": print(prompt, end="") or next(typed)}  # fmt: skip
    with contextlib.redirect_stdout(out):
        try:
            exec(code, names)
        except Over:
            return out.getvalue(), "over"
        except Exception as error:
            return out.getvalue(), f"{type(error).__name__}: {error}"
    return out.getvalue(), "ended"


def alone(text: str) -> tuple[str, str]:
    """What the text does by itself."""
    made = made_of(text, "ferry.py", None, [(0, [[0, 0, ""]])], [0])[0]
    return did(made.code, [0]) if made is not None else ("", "none")


def together(text: str, edits: list[list[Any]]) -> list[tuple[str, str]]:
    """What each edit does in the tree that has all of them."""
    switches = [0] * len(edits)
    made = made_of(text, "ferry.py", None, list(enumerate(edits)), switches)
    found = []
    for number in range(len(edits)):
        one = made[number]
        if one is None:
            found.append(("", "none"))
            continue
        on = [number, *one.ahead.get(number, ())]
        for switch in on:
            switches[switch] = 1
        try:
            found.append(did(one.codes((number,)), switches))
        except SyntaxError:
            found.append(("", "none"))
        for switch in on:
            switches[switch] = 0
    return found


def edited(text: str, splices: list[Any]) -> str:
    for start, stop, new in sorted(splices, reverse=True):
        text = text[:start] + new + text[stop:]
    return text


def check(text: str, edits: list[list[Any]]) -> None:
    for splices, came in zip(edits, together(text, edits), strict=True):
        wanted = alone(edited(text, splices))
        where = [re.sub(r" at 0x[0-9a-f]+", "", text) for text, _ in (came, wanted)]
        assert (where[0], came[1]) == (where[1], wanted[1]), (splices, came, wanted)


def of_source(source: Source) -> list[list[Any]]:
    return [[[e.start, e.stop, e.new]] for e, _ in trial_edits(Scene(source))]


@pytest.mark.parametrize("path", sorted(FERRY.glob("*.py")), ids=lambda p: p.stem)
def test_every_edit_of_a_demo_does_what_its_text_does(path):
    source = read_source(path)
    edits = of_source(source)[:: 1 if MANY else 4]
    assert len(edits) > 20
    check(source.text, edits)


@pytest.mark.skipif(not MANY, reason="the demos are tried always; the others where there is time")
@pytest.mark.parametrize("path", sorted(PROGRAMS.glob("*_script.py")), ids=lambda p: p.stem)
def test_every_edit_of_a_script_does_what_its_text_does(path):
    source = read_source(path)
    check(source.text, of_source(source))


TRICKY = '''"""A text ahead of it all."""
total = 0


def keep(age):
    """What it is for."""
    global total
    seats = [n for n in range(age) if n % 2]
    if age < 3:
        total += 1
    elif age == 3:
        print("three", f"{age + 1:>4}", seats[0])
        return total
    else:
        total = total - 1
    for n in seats:
        if n > 1: print(n); total += n
    return -total


class Boat:
    load = 1

    def lift(self, by=2):
        self.load = self.load + by
        return self


def steps(n):
    while n:
        yield n
        n -= 1


print(keep(3), keep(int("5")), total)
print(Boat().lift().load, [*steps(3)], {1: 2}[1], (lambda x: x + 1)(4))
x = y = 1; print(x, y)
try:
    print("é" + "ö", 7 // x)
except ZeroDivisionError:
    print("none")
'''
EDITS = [
    ("age < 3", "age <= 3"), ("    elif age == 3", "    if age == 3"), ("el", ""), ("n % 2", "not n"),
    ("age + 1", "age - 1"), ("seats[0]", "seats[-1]"), ("    global total\n", ""),
    ("global total", "global total, age"), ("        return total\n", ""),
    ("    return -total", "        return -total"), ("    return -total", "    total = 5\n    return -total"),
    ("    else:\n        total = total - 1\n", ""), ("n > 1", "n >= 1"), ("range(age)", "range(age, 9)"),
    ("    load = 1", "    load = 5"), ("self.load + by", "by"), ("by=2", "by=3"), ("by=2", "by, to=3"),
    ("yield n", "print(n)"), ("        n -= 1", "        n -= 2"), ("{1: 2}[1]", "{1: 3}[1]"),
    ("x + 1", "x * 2"), ("x = y = 1; ", "x = 2; "), ("x = y = 1", "x = y = 0"), ('"é"', '"èé"'),
    ("7 // x", "8 // x"), ("ZeroDivisionError", "ValueError"), ("print(keep(3)", "print(keep(2)"),
    ("total = 0\n\n\ndef", "def"), ('    """What it is for."""\n', ""), ("[*steps(3)]", "[steps(3)]"),
    ("    for n in seats:", "    for m in seats:"), ("total += n", "break"), ("        self.load =", "        self.lord ="),
    ("    global total\n    seats", "    seats"), ("print(keep(3), keep(int(\"5\")), total)\n", ""),
    ("    return -total", "    nonlocal x\n    return -total"), ("print(Boat", "total = 77\nprint(Boat"),
    ("    seats = [n", "    (age := 7)\n    seats = [n"), ("[n for n in", "[(last := n) for n in"),
]  # fmt: skip


def test_edits_of_every_sort_of_place_do_what_their_texts_do():
    edits = []
    for old, new in EDITS:
        at = TRICKY.index(old)
        edits.append([[at, at + len(old), new]])
    assert len({alone(edited(TRICKY, e)) for e in edits}) > 25  # they are not all one and the same
    check(TRICKY, edits)
    moves = []
    lines = TRICKY.splitlines(keepends=True)
    for first in range(1, len(lines) - 1):  # each line, and the one below it, exchanged
        start = sum(map(len, lines[:first]))
        stop = start + len(lines[first]) + len(lines[first + 1])
        moves.append([[start, stop, lines[first + 1] + lines[first]]])
    check(TRICKY, moves)
    taken_out = [[[s[0][0], s[0][0] + len(lines[n]), ""]] for n, s in enumerate(moves, 1)]
    check(TRICKY, taken_out)


CHAINS = """
def fee(hour):
    if hour > 6:
        total = 5
    elif hour > 4:
        total = 3
    else:
        total = 1
    return total

n = fee(7)
if n > 2:
    n += 10
elif n > 1:
    n += 20
print(n, fee(5), fee(1))
"""


def test_a_branch_that_leaves_its_chain_is_one_by_itself():
    places = [n for n in range(len(CHAINS)) if CHAINS.startswith("elif", n)]
    edits = [[[at, at + 2, ""]] for at in places]
    assert len({alone(CHAINS), *(alone(edited(CHAINS, e)) for e in edits)}) == 1 + len(edits)
    check(CHAINS, edits)


AROUND = """
def f(*given, **more):
    return [given, sorted(more.items())]

xs, d, b = [3, 1, 2], {"a": 1, "b": [4]}, 7
print(f(b, xs[0], k=b + 1), f((b)), [b, (b), b], (b, 2), {b: 3}, {b}, d["b"][0], xs[b - 5])
print(f(not b), f(b)if b else 0, f(b, *xs), f(*xs, b), f(x for x in xs) and 1, "t" "u", f"{b}", -b ** 2)
if b: print(b)
while b > 5: b -= 1
for x in xs: print(x, end="")
assert b, "none"
b += b * 2; print(b)
"""
INTO = ["", "1", "b, 2", "b + 1", "b) + (b", "b if xs else 2", "*xs", "x for x in xs", "lambda: b", "(b := 9)",
        " b", "b ", "b # c", "-b", "'q'", "b, k=3", "b == 7", "yield", "b) and f(b", "b][b - b", "not b",
        "b\n", "0", "b and 3", "b: 5", "**d", "[b]"]  # fmt: skip


def test_what_is_put_into_an_expression_does_what_the_text_does():
    """Whatever stands in the place of a name: what ends brackets early, or binds otherwise."""
    names = [n for n in range(len(AROUND)) if AROUND[n] == "b" and not AROUND[n - 1].isalnum()
             and not AROUND[n + 1].isalnum() and AROUND[n - 1] != '"']  # fmt: skip
    assert len(names) > 25
    edits = [[[at, at + 1, new]] for at in names for new in INTO]
    check(AROUND, edits[:: 1 if MANY else 3])


def test_two_places_changed_at_once_are_one_edit():
    text = "a = 1\nb = 2\nfor n in range(a):\n    b += n\nprint(a, b)\n"
    places = [
        ("1", "3"),
        ("+=", "-="),
        ("2", "9"),
        ("print(a", "print(b"),
        ("range(a)", "range(5)"),
    ]
    spans = [(text.index(old), text.index(old) + len(old), new) for old, new in places]
    check(text, [[list(x), list(y)] for x in spans for y in spans if x < y])
