"""Programs that cannot start, and cases that stop or never end, in plain words with their place."""

from __future__ import annotations

import pytest

from conftest import check_one, other_interpreters
from oddsum.check.plan import check_all
from oddsum.compare.stops import plain_error
from oddsum.compare.told import more_told, rounds_told, since_words, values_told
from oddsum.languages.python.brackets import unclosed
from oddsum.languages.python.interpreter import find_interpreter
from oddsum.languages.python.mistakes import opened_at, plain_mistake
from oddsum.model.case import Case, Plan
from oddsum.model.errors import StartError
from oddsum.model.outcome import Outcome
from oddsum.source.program import Source

BRACKETS = [
    ("print((1)\n", ("(", (1, 6))),
    ("x = [1,\n  {2: (3)\n", ("{", (2, 3))),
    ("print(')')  # (\n", None),
    ("x = '''a\nb\n", ("'''", (1, 5))),
    ("x = \"(\" + '['\n", None),
    ("x = 'it is (\ny = (1\n", ("(", (2, 5))),
    ("a = [1)\n", ("[", (1, 5))),
    ("x = 1)\n", None),
    (r"x = '\'(' + (", ("(", (1, 13))),
]


@pytest.mark.parametrize(("text", "place"), BRACKETS)
def test_the_bracket_that_is_never_closed_is_found(text, place):
    assert unclosed(text) == place


SYNTAX = [
    ("if True\n    pass\n", 1, "a colon is missing"),
    ("if True:\npass\n", 2, "has to be set in"),
    ("x = 1\n    y = 2\n", 2, "set in further"),
    ("if 1:\n        x = 1\n    y = 2\n", 3, "begins at a column"),
    ("x = 'pier\n", 1, "its quote is missing"),
    ("print('a'\nx = 1\n", None, "bracket is opened and never closed"),
    ("x = 1)\n", 1, "closes a bracket that was never opened"),
    ("if x = 1:\n    pass\n", 1, "a condition asks with `==`"),
    ("print 'a'\n", 1, "print needs brackets"),
    ("return 3\n", 1, "a return stands outside"),
    ("break\n", 1, "a break stands outside of any loop"),
    ("x = (1\n", None, "opened on line 1, column 5, is never closed"),
    ("if 1:\n        x = 1\n\ty = 2\n", 3, "tabs and blanks are mixed"),
    ("print(pier')\n", 1, "its quote is missing, at its end or its beginning"),
    ("x = 4\nif x => 3:\n    x = 1\n", 2, "`=>` is written `>=`"),
    ("x = 4\nif x > 3 && x < 9:\n    x = 1\n", 2, "`&&` is written `and`"),
    ("x = 4\nelif x:\n    x = 1\n", 2, "no block that this `elif` could belong to"),
    ("if 1:\n    x = 1\nelse if 2:\n    x = 2\n", 3, "`else if` is written `elif`"),
    ("if 1:\n    # nothing yet\nprint(1)\n", 3, "has to be set in"),
]


@pytest.mark.parametrize(("text", "line", "words"), SYNTAX)
def test_a_program_that_cannot_start_is_told_in_plain_words(tmp_path, text, line, words):
    path = tmp_path / "x.py"
    path.write_text(text)
    with pytest.raises(StartError) as told:
        check_all(Plan(program=path, cases=(Case(number=1, name="a", stdin=""),)),
                  find_interpreter(path, None))  # fmt: skip
    assert words in str(told.value)
    assert line is None or told.value.line == line


@pytest.mark.parametrize("python", other_interpreters())
def test_other_versions_words_are_known_too(tmp_path, python):
    path = tmp_path / "x.py"
    unknown = []
    for text, *_ in SYNTAX:
        path.write_text(text)
        with pytest.raises(StartError) as told:
            check_all(Plan(program=path, cases=(Case(number=1, name="a", stdin=""),)),
                      find_interpreter(path, python))  # fmt: skip
        if "the interpreter says" not in told.value.text:
            unknown.append(told.value.text)
    assert not unknown


def test_a_comment_alone_is_no_block():
    source = Source("x.py", "if 1:\n    # nothing yet\nprint(1)\n")
    said = "expected an indented block after 'if' statement on line 1"
    assert "stands a comment only" in opened_at(source, said)
    assert opened_at(Source("x.py", "if 1:\nprint(1)\n"), said) == ""


def test_what_stands_in_a_text_is_no_mistake():
    assert plain_mistake("invalid syntax", "print('=>' 5 6)") != "`=>` is written `>=`"


def test_what_is_not_known_is_left_to_the_interpreter_s_words():
    assert plain_mistake("something new") == ""


STOPS = [
    ("print(totl)", "there is nothing named `totl`"),
    ("def f():\n    x = x + 1\nx = 1\nf()", "`x` is used before it is given a value"),
    ("print('a' + 1)", "one side is a whole number"),
    (
        "print(1 + 'a')",
        "`+:` cannot" if False else "cannot be worked out between a whole number and text",
    ),
    ("print('a' < 1)", "text and a whole number cannot be compared by `<`"),
    ("int('nine')", "'nine', is no whole number"),
    ("[1][1]", "a list was asked for an item it does not have"),
    ("{'a': 1}['b']", "the dict has no key 'b'"),
    ("1 / 0", "divided by 0"),
    ("None.upper()", "was asked of None"),
    ("'a'.uper()", "text has nothing named `uper`"),
    ("def f(a, b): pass\nf(1)", "too few values: 'b' is missing"),
    ("def f(a): pass\nf(1, 2)", "takes 1 values, and the call gives 2"),
    ("x = 3\nx()", "a whole number cannot be called"),
    ("for i in 3: pass", "a whole number cannot be gone through"),
    ("a, b = [1]", "there are not enough values"),
    ("def f(): f()\nf()", "called itself, over and over"),
    ("open('tide.txt')", "there is no file 'tide.txt'"),
    ("import teh_tide", "there is no module teh_tide"),
    ("for i in range(2.5): pass", "a whole number is needed here, and this is a number with"),
    ("[].pop()", "list that is empty"),
]


@pytest.mark.parametrize(("text", "words"), STOPS)
def test_a_case_that_stops_is_told_in_plain_words(program, text, words):
    result = check_one(program(text + "\n"), stdin="", stdout="")
    assert result.outcome is Outcome.STOPPED
    assert words in plain_error(result.run.error)


def test_the_values_at_the_line_where_it_stopped_are_told(program):
    source = (
        "import json\nrate = 3\ndef fare(age):\n    half = rate / age\n    return half\nfare(0)\n"
    )
    result = check_one(program(source), stdin="")
    assert result.run.error.line == 4
    assert values_told(result) == (("age", "0"),)
    assert any("can lie earlier" in s for s in more_told(result))


def test_the_line_told_is_the_learner_s_own_and_not_the_library_s(program):
    result = check_one(program("import json\ntext = '{'\njson.loads(text)\n"), stdin="")
    assert (result.run.error.file, result.run.error.line) == ("ferry.py", 3)
    assert values_told(result) == (("text", "'{'"),)


def test_of_a_loop_without_end_the_unchanging_condition_and_last_rounds_are_told(program):
    source = "def rise(level, most):\n    hours = 0\n    while level < most:\n        hours = hours + 1\n    return hours\nrise(1, 9)\n"
    result = check_one(program(source), stdin="", timeout=0.3)
    assert result.outcome is Outcome.ENDLESS and result.run.error.line == 3
    assert more_told(result) == (
        "While it was watched, `level` and `most` in its condition never change: it stays as it is.",
    )
    rounds = rounds_told(result)
    assert len(rounds) == 3 and all(r.startswith("level 1, most 9, hours ") for r in rounds)
    hours = [int(r.rpartition(" ")[2]) for r in rounds]
    assert hours == [hours[0], hours[0] + 1, hours[0] + 2]


def test_a_condition_that_does_change_is_not_blamed(program):
    source = "n = 1\nwhile n != 10:\n    n = n + 2\n"
    result = check_one(program(source), stdin="", timeout=0.3)
    assert more_told(result) == ()
    assert rounds_told(result)[0].startswith("n ")


def test_what_changed_since_the_run_before_is_counted_by_name(program):
    results = [
        check_one(program("print(input())\n"), stdin="1\n", stdout=s) for s in ("1\n", "2\n")
    ]
    assert since_words({"one": Outcome.DIFFERS}, [results[0]]) == "+1 settled"
    assert since_words({"one": Outcome.AGREES}, [results[1]]) == "1 broke"
    assert since_words({"one": Outcome.STOPPED}, [results[1]]) == "1 odd in another way"
    assert since_words({"other": Outcome.AGREES}, results) == ""
