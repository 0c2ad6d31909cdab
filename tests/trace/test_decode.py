"""Logs as the probe sends them, turned into steps: written by hand, read by the table."""

from __future__ import annotations

import pytest

from oddsum.trace.decode import Decoder

STATEMENTS = [["x.py", 1, 1, "", "assign"], ["x.py", 2, 4, "", "for"], ["x.py", 3, 3, "", "if"],
              ["x.py", 6, 6, "f", "call"], ["x.py", 7, 7, "f", "return"]]  # fmt: skip
SLOTS = [["", "a", True], ["f", "b", False], ["", "xs", True]]
ROW = ["list", "[1]", 1, True]


def steps(*log: object):
    decoder = Decoder()
    decoder.take({"k": "statements", "base": 0, "rows": STATEMENTS})
    decoder.take({"k": "slots", "base": 0, "rows": SLOTS})
    decoder.take({"k": "hello", "python": "3.11"})
    decoder.take({"k": "log", "events": list(log)})
    return decoder.finish()


def changes(step) -> list[tuple[str, str | None, str | None]]:
    return [(c.name, c.before and c.before.text, c.after and c.after.text) for c in step.changes]


def test_visits_are_numbered_by_statement():
    told = steps(0, 1, 2, 1, 2)
    assert [(s.number, s.line, s.visit) for s in told] == [
        (1, 1, 1), (2, 2, 1), (3, 3, 1), (4, 2, 2), (5, 3, 2),
    ]  # fmt: skip


def test_values_that_look_like_visits_are_none():
    (step,) = steps(0, 7, ~0)
    assert changes(step) == [("a", None, "7")]
    (step,) = steps(0, -5, ~0)
    assert changes(step) == [("a", None, "-5")]
    (step,) = steps(0, "call", ~0)
    assert changes(step) == [("a", None, "'call'")]
    (step,) = steps(0, True, ~0)
    assert (changes(step), step.condition) == ([("a", None, "True")], None)


def test_a_value_bound_again_is_no_change():
    told = steps(0, 7, ~0, 0, 7, ~0, 0, 7.0, ~0)
    assert [changes(s) for s in told] == [[("a", None, "7")], [], [("a", "7", "7.0")]]


def test_several_changes_in_one_step_are_one():
    (step,) = steps(0, 1, ~0, 2, ~0)
    assert changes(step) == [("a", None, "2")]
    told = steps(0, 1, ~0, 0, 2, ~0, 1, ~0)
    assert changes(told[1]) == []


def test_rounds_are_counted_and_begin_anew():
    told = steps(1, 1, "s", 1, "f", 1, "f", 1, "e", 1, 1, "s", 1, "f", 1, "e")
    assert [s.round for s in told] == [1, 2, 0, 1, 0]


def test_calls_go_down_and_back_up():
    told = steps(0, 3, 1, "call", 5, ~1, 4, 9, "r", 0, "back", 9, ~0)
    assert [(s.line, s.depth, s.frame, s.events) for s in told] == [
        (1, 0, 0, ()),
        (6, 1, 1, ("call",)),
        (7, 1, 1, ("return",)),
        (1, 0, 0, ("back",)),
    ]
    assert told[2].value.text == "9"
    assert changes(told[1]) == [("f.b", None, "5")]


def test_an_exception_leaves_calls_without_coming_back():
    told = steps(0, 3, 1, "call", 4, "ValueError", "no", "x", 0, "p", 0, "h", 2)
    assert told[2].events == ("raise",) and told[2].value.text == "ValueError: no"
    assert (told[3].depth, told[3].line) == (0, 3)


def test_a_caller_that_nobody_told_of_goes_on_by_itself():
    # What asked for the next item, and met a StopIteration, is no code of the program's.
    told = steps(0, 3, 1, "call", 4, "StopIteration", "", "x", 0, "p", 9, ~2, 2)
    assert [(s.line, s.events) for s in told][3:] == [(1, ("back",)), (3, ())]
    assert changes(told[3]) == [("xs", None, "9")]


def test_a_change_in_place_reaches_every_name():
    told = steps(0, 1, ("list", 1, [1]), "new", (1,), ~2, 3, 1, "call", (1,), ~1,
                 1, (), 2, "add")  # fmt: skip
    assert changes(told[1]) == [("f.b", None, "[1, 2]"), ("xs", "[1]", "[1, 2]")]
    assert [c.after.number for c in told[1].changes] == [1, 1]


def test_the_header_of_a_loop_is_visited_before_the_program_is_asked_for_an_item():
    told = steps(1, 1, "s", 3, 1, "call", 4, 9, "y", 1, "back", 1, "f", 9, ~0, 1, "n", 1, "e")
    assert [(s.line, s.visit, s.round) for s in told] == [
        (2, 1, None), (6, None, None), (7, 1, None), (2, None, 1), (2, 2, 0),
    ]  # fmt: skip


def test_a_name_that_is_gone():
    told = steps(0, 5, ~0, 0, 0, "u")
    assert changes(told[1]) == [("a", "5", None)]


def test_output_and_input_belong_to_the_step_they_happen_in():
    told = steps("early", "o", 0, "How? ", "o", "3", "i", 1, "x\n", "o")
    assert [(s.output, s.events) for s in told] == [("earlyHow? ", ("input",)), ("x\n", ())]


def test_a_log_in_pieces_is_one_log():
    whole = steps(0, 1, ~0, 1, True, 2)
    decoder = Decoder()
    decoder.take({"k": "statements", "base": 0, "rows": STATEMENTS})
    decoder.take({"k": "slots", "base": 0, "rows": SLOTS})
    for piece in ([0, 1, ~0], [1, True], [2]):
        decoder.take({"k": "log", "events": piece})
    assert decoder.finish() == whole


@pytest.mark.parametrize("value", [0, -1, 10**20, 0.5, "", "text", None, True])
def test_plain_values_come_through_as_they_are(value):
    (step,) = steps(0, value, ~0)
    assert step.changes[0].after.text == repr(value)
