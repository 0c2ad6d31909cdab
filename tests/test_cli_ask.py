"""``oddsum ask``: the questions of Trace, as text and as json."""

from __future__ import annotations

import json

import pytest

from conftest import FERRY, python
from oddsum.check.asked import QUESTIONS
from oddsum.cli_ask import QUESTIONS as OFFERED

FARES = FERRY / "fares.py"


def answer(oddsum, *args):
    status, out, _ = oddsum("ask", FARES, *args, "--case", "2", "--format", "json", *python())
    found = json.loads(out)
    assert status == 0 and found["format"] == 1
    assert (found["program"], found["case"], found["question"]) == ("fares.py", 2, args[0])
    return found["answer"]


def test_the_command_offers_the_questions_there_are():
    assert tuple(QUESTIONS) == OFFERED


def test_loops_and_calls(oddsum):
    (loop,) = answer(oddsum, "loops")
    assert loop == {
        "file": "fares.py", "line": 17, "enters": 6, "rounds": 4, "ended": "no more",
        "first": "0", "last": "3", "unused": [], "unchanged": [],
        "text": "It makes 4 rounds and ends: no item was left. i begins with 0 and ends with 3.",
    }  # fmt: skip
    calls = answer(oddsum, "calls")
    assert [(c["arguments"], c["gave"]) for c in calls] == [
        ({"age": "34"}, "6"), ({"age": "36"}, "6"), ({"age": "9"}, "3"), ({"age": "1"}, "0"),
    ]  # fmt: skip
    assert calls[0] == {
        "step": 10, "file": "fares.py", "line": 7, "function": "fare", "arguments": {"age": "34"},
        "gave": "6", "raised": None, "back": 14, "depth": 1,
    }  # fmt: skip


def test_lineage_ledger_and_where_it_is_true(oddsum):
    first, *rest = answer(oddsum, "lineage", "--name", "total", "--step", "14")
    assert (first["step"], first["line"], first["name"], first["value"]) == (14, 22, "total", "6")
    assert {r["line"] for r in rest} >= {7, 12, 16, 18}
    assert {tuple(r["names"]): r["value"] for r in answer(oddsum, "ledger", "--step", "10")} == {
        ("CHILD",): "3", ("ADULT",): "6", ("count",): "4", ("total",): "0", ("i",): "0",
        ("age",): "34", ("fare.age",): "34",
    }  # fmt: skip
    assert answer(oddsum, "true", "--name", "total > 12") == list(range(32, 44))


def test_a_line_taken_apart(oddsum):
    assert answer(oddsum, "apart", "--line", "22", "--step", "23") == [
        {"part": "fare(age)", "filled": "fare(36)", "gives": ["6"]},
        {"part": "total + fare(age)", "filled": "6 + 6", "gives": ["12"]},
    ]


@pytest.mark.parametrize(("args", "words"), [
    (["lineage", "--name", "tide"], "tide has no value at step 43."),
    (["lineage", "--step", "99"], "There is no step 99 in this case."),
    (["apart", "--line", "20"], "Line 20 is not visited up to step 43."),
    (["true"], "Nothing is asked."),
    (["true", "--name", "total ="], "This cannot be read as Python"),
    (["why"], "'why' is not one of"),
])  # fmt: skip
def test_what_cannot_be_answered_is_told(oddsum, args, words):
    status, out, err = oddsum("ask", FARES, *args, "--case", "2", *python())
    assert status == 2 and not out and words in err
    status, out, _ = oddsum("ask", FARES, *args, "--case", "2", "--format", "json", *python())
    assert status == 2 and words in json.loads(out)["error"]["text"]


def test_text_is_for_people(oddsum):
    def text(*args):
        return oddsum("ask", FARES, *args, "--case", "2", *python())[1]

    assert "line 17, from step 6: It makes 4 rounds and ends: no item was left." in text("loops")
    assert "step    10  fare(age = 34)  gave 6" in text("calls")
    assert "After step 32 to 43." in text("true", "--name", "total > 12")
    assert "At no step." in text("true", "--name", "total > 99")
    assert "fare(age)   fare(36)   = 6" in text("apart", "--line", "22", "--step", "23")


NESTED = """\
def board(queue, who):
    queue.append(who)
    return fill(queue)


def fill(lane):
    lane.append("last")
    return len(lane)


def day():
    cars = ["Ann"]
    count = board(cars, "Bo")
    return count


print(day())
"""


def test_the_ledger_has_the_callers_names_too(oddsum, program):
    path = program(NESTED, '[[case]]\nname = "a"\nstdin = ""\nstdout = "3"\n')
    told = json.loads(oddsum("ask", path, "calls", "--format", "json", *python())[1])["answer"]
    inside = next(c["step"] for c in told if c["function"] == "fill") + 1
    out = oddsum("ask", path, "ledger", "--step", inside, "--format", "json", *python())[1]
    (entry,) = [r for r in json.loads(out)["answer"] if r["entry"] is not None]
    assert set(entry["names"]) == {"fill.lane", "board.queue", "day.cars"}
    assert entry["value"] == "['Ann', 'Bo', 'last']"


def test_a_call_that_an_error_left_says_so(oddsum, program):
    source = (
        "def fare(n):\n    return 6 // n\ntry:\n    fare(0)\nexcept ZeroDivisionError:\n    pass\n"
    )
    path = program(source, '[[case]]\nname = "a"\nstdin = ""\nstdout = ""\n')
    (call,) = json.loads(oddsum("ask", path, "calls", "--format", "json", *python())[1])["answer"]
    assert call["gave"] is None and call["raised"].startswith("ZeroDivisionError")
    assert "left by ZeroDivisionError" in oddsum("ask", path, "calls", *python())[1]


def test_a_variable_of_another_module_that_is_set_from_outside(oddsum, program):
    program("rate = 2\n\ndef cost(n):\n    return n * rate\n", name="helper.py")
    source = "import helper\na = helper.cost(3)\nhelper.rate = 5\nb = helper.cost(3)\n"
    path = program(source, '[[case]]\nname = "a"\nstdin = ""\nstdout = ""\n')

    def asked(*args):
        out = oddsum("ask", path, *args, "--format", "json", *python())[1]
        return json.loads(out)["answer"]

    last = asked("calls")[-1]
    assert (last["arguments"], last["gave"]) == ({"n": "3"}, "15")
    true = asked("true", "--name", "rate == 5")  # as the function of that module means it
    assert set(true) == set(range(last["step"], last["back"]))
    assert asked("true", "--name", "helper.rate == 5")[-1] == last["back"]
    rows = asked("lineage", "--name", "b")
    assert [(r["line"], r["value"]) for r in rows if r["name"] == "rate"] == [(3, "5")]
