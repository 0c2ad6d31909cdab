"""Values that would be right: whatever is told of them is tried again by the plain interpreter."""

from __future__ import annotations

import subprocess
import sys

import pytest

from conftest import OWN
from oddsum.model.lead import Pinpointing, RightValue
from oddsum.pinpoint import deciding
from oddsum.pinpoint.search import pinpoint
from oddsum.pinpoint.values import Right, in_words
from oddsum.pinpoint.words import asked
from oddsum.plan.read import read_plan
from oddsum.run.trials import Spot, Valued
from oddsum.source.edits import applied
from oddsum.source.program import Source

BALLAST = """
def weight(barrels, each, sand):
    load = barrels + each
    return load + sand * 2


def trim(port, starboard):
    if port > starboard and port - starboard > 4:
        return "port"
    return "level"
"""
CALLS = {"weight(3, 7, 0)": "42", "weight(2, 5, 4)": "28", "weight(1, 9, 1)": "20",
         "weight(2, 2, 0)": "8"}  # fmt: skip
LINES = """
total = 0
for n in range(int(input())):
    price = int(input())
    total += price
print("To pay:", total * 3)
"""


def planned(calls: dict[str, str]) -> str:
    return "".join(
        f'[[case]]\nname = "{n}"\ncall = "{call}"\nreturns = "{value}"\n'
        for n, (call, value) in enumerate(calls.items(), 1)
    )


def typed(cases: dict[str, str]) -> str:
    return "".join(
        f'[[case]]\nname = "{n}"\nstdin = {given!r}\nstdout = {wanted!r}\n'.replace("'", '"')
        for n, (given, wanted) in enumerate(cases.items(), 1)
    )


def search(program, text: str, plan: str) -> tuple[Pinpointing, str]:
    path = program(text, plan)
    return pinpoint(read_plan(path.with_suffix(".cases.toml"), path), OWN), text


def put(text: str, value: RightValue) -> str:
    """The program with the value in the expression's place, at the visit that is told."""
    lines = text.split("\n")
    line = lines[value.line - 1]
    assert line.count(value.expression) == 1
    hooked = f"_instead({value.expression}, {value.when or True})"
    lines[value.line - 1] = line.replace(value.expression, hooked)
    ahead = (
        "_visits = [0]\n"
        "def _instead(gave, when):\n"
        "    _visits[0] += 1\n"
        f"    if not when or {value.visit} not in (0, _visits[0]): return gave\n"
        f"    assert {value.visit} == 0 or repr(gave) == {value.gave!r}, gave\n"
        f"    return {value.would}\n"
    )
    return ahead + "\n".join(lines)


def run(text: str, given: str = "", call: str | None = None) -> str:
    if call is not None:
        text += f"\nprint(repr({call}), end='')\n"
    done = subprocess.run(
        [sys.executable, "-c", text], input=given, capture_output=True, text=True, check=True
    )
    return done.stdout


def test_each_value_that_is_told_makes_its_case_agree_in_a_plain_run(program):
    text = LINES.replace("total * 3", "total * 3 + len(str(total))")
    found, _ = search(
        program, text, typed({"2\n4\n5\n": "To pay: 36\n", "1\n10\n": "To pay: 41\n"})
    )
    values = [v for lead in found.leads for v in lead.values]
    assert len(values) >= 2
    given, wanted = ["2\n4\n5\n", "1\n10\n"], ["To pay: 36\n", "To pay: 41\n"]
    for value in [v for v in values if " then " not in v.gave]:
        came = run(put(text, value), given[value.case - 1])
        prompts_aside = came.split("To pay:")[-1]
        assert prompts_aside == wanted[value.case - 1].split("To pay:")[-1], value


LAMP = """
def length(code):
    units = 0
    for mark in code:
        units += 3
    return units
"""
SHOWN = """
def shown(word):
    made = ""
    for letter in word:
        made += ABC[(ABC.index(letter.lower()) + 1) % 4]
    return made


ABC = "abcd"
"""
IN_ROUNDS = [
    (LAMP, {"length('-..-')": "8", "length('...-')": "6", "length('-')": "3", "length('.-')": "4"}),
    (SHOWN, {"shown('aB')": "'bC'", "shown('ad')": "'ba'", "shown('CabD')": "'DbcA'"}),
]


@pytest.mark.parametrize(("text", "calls"), IN_ROUNDS)
def test_a_value_that_is_due_in_some_rounds_only_is_found_with_its_condition(program, text, calls):
    found, _ = search(program, text, planned(calls))
    best = found.leads[0]
    assert (best.lines, best.mend.settles) == ((5,), found.odd)
    mended = applied(Source("ferry.py", text), best.mend.edits)
    assert {call: run(mended, call=call) for call in calls} == calls


def test_a_value_of_some_rounds_makes_its_case_agree_in_a_plain_run(program):
    text, calls = IN_ROUNDS[0]
    found, _ = search(program, text, planned(calls))
    values = [v for v in found.leads[0].values if v.when]
    assert {v.case for v in values} == set(found.odd)
    for value in values:
        call = list(calls)[value.case - 1]
        assert run(put(text, value), call=call) == calls[call]


def test_it_is_said_in_which_rounds_a_value_is_due():
    spot = Spot("ferry.py", 60, 61, 5)
    one = Valued(0, 0, spot, 0, "3", "1", None, "mark == '.'", "mark == '.'")
    assert in_words(Right(spot, "3", {2: one})) == (
        "If `3` on line 5 had given 1 instead of 3 wherever `mark == '.'`, case 2 would agree."
    )


def test_a_lead_without_a_mend_says_what_would_be_right(program):
    text = "def f(a, b):\n    c = a * 7 + b\n    return hex(c)[2:] + str(c * c)\n"
    calls = {"f(1, 2)": "'pier'", "f(3, 1)": "'ard'"}
    found, _ = search(program, text, planned(calls))
    told = [lead for lead in found.leads if lead.values]
    assert told
    assert "had given" in told[0].what
    assert "would agree" in told[0].what
    assert {v.case for lead in told for v in lead.values} <= set(found.odd)


def test_an_expression_is_found_from_the_values(program):
    calls = {"weight(3, 7, 0)": "21", "weight(2, 5, 4)": "18", "weight(1, 9, 1)": "11"}
    text = BALLAST.replace("load = barrels + each", "load = max(barrels, each)")
    found, _ = search(program, text, planned(calls))
    best = found.leads[0]
    assert (best.lines, best.mend.settles) == ((3,), found.odd)
    mended = applied(Source("ferry.py", text), best.mend.edits)
    for call, value in calls.items():
        assert run(mended, call=call) == value


def test_a_condition_is_turned(program):
    text = BALLAST.replace("port > starboard and", "port < starboard and")
    found, _ = search(program, text, planned({"trim(9, 3)": "'port'", "trim(5, 5)": "'level'"}))
    assert found.odd == (1,)
    assert found.leads[0].lines == (8,)


@pytest.mark.parametrize("seconds", [0.0, 0.6])
def test_where_several_mends_fit_an_input_decides(program, monkeypatch, seconds):
    """Also on a machine on which the time for it is over at once."""
    monkeypatch.setattr(deciding, "_SECONDS", seconds)
    text = "def fee(cars):\n    return cars + 2\n\n\ndef total(cars):\n    return fee(cars) * 2\n"
    found, _ = search(program, text, planned({"total(0)": "6"}))  # (0 + 3) * 2, or (0 + 2) * 3
    ask = found.ask
    assert ask is not None
    by_rank = {lead.rank: lead for lead in found.leads}
    for gives in ask.gives:
        mended = applied(Source("ferry.py", text), by_rank[gives.rank].mend.edits)
        assert run(mended, call=ask.call) == gives.actual
    assert len({g.actual for g in ask.gives}) == 2
    assert all(lead.score < 0.7 for lead in found.leads)


def test_changes_that_fit_one_line_are_asked_about_too(program):
    """Held against the plain interpreter: each of both, put into the line, gives what is told."""
    text = BALLAST.replace("port - starboard > 4", "port - starboard > 9")
    calls = {"trim(16, 9)": "'port'", "trim(14, 9)": "'port'", "trim(9, 5)": "'level'",
             "trim(3, 3)": "'level'", "trim(9, 9)": "'level'"}  # fmt: skip
    found, _ = search(program, text, planned(calls))
    best, ask = found.leads[0], found.ask
    assert best.lines == (8,)
    assert ask is not None
    assert {g.rank for g in ask.gives} == {1}
    mended, other = ask.gives
    assert (mended.way, other.way in best.equals) == ("", True)
    assert run(applied(Source("ferry.py", text), best.mend.edits), call=ask.call) == mended.actual
    old, new = (side.strip("` ") for side in other.way.split("→"))
    line = text.split("\n")[7]
    made = {run(text.replace(line, line[:n] + new + line[n + len(old):]), call=ask.call)
            for n in range(len(line)) if line.startswith(old, n)}  # fmt: skip
    assert other.actual in made
    assert best.score < 0.7
    told = asked(ask, 2)
    assert other.way in told
    assert f"gives `{other.actual}`" in told
    assert other.way not in asked(ask, 1)
    assert ask.call in asked(ask, 1) and ask.call not in asked(ask, 0)


BOARD = """
def board():
    now = int(input())
    shown = 0
    for time in map(int, input().split()):
        if time < now:
            continue
        print("at", time)
        shown += 1


board()
"""
BOARDS = {"250\n300 400 500\n": "at 300\nat 400\nat 500\n", "450\n300 500\n": "at 500\n",
          "350\n300\n": "no more today\n", "100\n\n": "no more today\n"}  # fmt: skip


@pytest.fixture(scope="module")
def boarded(tmp_path_factory) -> Pinpointing:
    path = tmp_path_factory.mktemp("board") / "ferry.py"
    path.write_text(BOARD)
    path.with_suffix(".cases.toml").write_text(typed(BOARDS))
    return pinpoint(read_plan(path.with_suffix(".cases.toml"), path), OWN)


def test_a_line_that_nothing_prints_is_found_with_the_condition_for_it(boarded):
    found, best = boarded, boarded.leads[0]
    assert (best.kind, best.mend.settles) == ("unprinted", found.odd)
    assert '`if shown == 0: print("no more today")`' in best.how
    mended = applied(Source("ferry.py", BOARD), best.mend.edits)
    for given, wanted in BOARDS.items():
        assert run(mended, given) == wanted


def test_a_line_that_is_always_missing_needs_no_condition(program):
    cases = {given: wanted + "end\n" for given, wanted in list(BOARDS.items())[:2]}
    found, _ = search(program, BOARD, typed(cases))
    best = found.leads[0]
    assert [row.strip() for row in best.mend.edits[0].after] == ['print("end")']
    mended = applied(Source("ferry.py", BOARD), best.mend.edits)
    for given, wanted in cases.items():
        assert run(mended, given) == wanted


def test_beside_a_mend_of_most_cases_a_missing_line_is_found_too(program):
    text = BOARD.replace("time < now", "time <= now")
    cases = {
        **BOARDS,
        "300\n300 400\n": "at 300\nat 400\n",
        "400\n200 400 401\n": "at 400\nat 401\n",
    }
    found, _ = search(program, text, typed(cases))
    assert found.odd == (3, 4, 5, 6)
    assert {lead.kind for lead in found.leads[:2]} == {"comparison", "unprinted"}
    assert found.leads[0].mend.settles == found.odd


def test_what_was_made_to_fit_does_not_stand_alone(boarded):
    """Lines to look at come behind it, and do not say that no change settles every case."""
    others = [lead for lead in boarded.leads if lead.kind == "look here"]
    assert others and others[0].rank > 1
    assert all("may not be what is meant" in lead.how for lead in others)
    assert sum("`no more today` had been printed" in lead.what for lead in others) == 1
    printed = [v for lead in others for v in lead.values if v.is_printed]
    assert {(v.gave, v.would) for v in printed} == {("", "no more today\n")}
