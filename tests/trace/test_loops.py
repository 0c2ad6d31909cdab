"""The audit of loops: rounds, endings, and what was never reached, in words."""

from __future__ import annotations

import pytest

from asked import told
from oddsum.languages.python.loops import loops
from oddsum.languages.python.probe.wire import unpack
from oddsum.model.trace import Trace
from oddsum.source.program import Source
from oddsum.trace.ask import Story
from oddsum.trace.breakpoints import breakpoint_from, hits
from oddsum.trace.decode import Decoder
from oddsum.trace.loops import passes, rounds_table
from oddsum.trace.loops import told as words
from woven import FILE, woven

LEVELS = "levels = [3, 4, 2, 6, 7]\nx = 0\n"
AUDITS = [
    ("for i in range(len(levels) - 1):\n    x += levels[i]\n", 4, "ran out",
     "levels has 5 items; levels[4] is never used."),
    ("for i in range(1, 5):\n    x += levels[i] - levels[i - 1]\n", 4, "ran out", ""),
    ("for i in range(0, 5, 2):\n    x += levels[i]\n", 3, "ran out",
     "levels[1], levels[3] are never used."),
    ("for level in levels:\n    if level == 2:\n        break\n", 3, "break",
     "levels[3] to levels[4] are never reached."),
    ("for i in range(len(levels) - 5):\n    x += levels[i]\n", 0, "ran out",
     "levels[0] to levels[4] are never used."),
    ("i = 0\nwhile i < 3:\n    x += levels[i]\n    i += 1\n", 3, "condition",
     "levels[3] to levels[4] are never used."),
    ("try:\n    for i in range(9):\n        x += levels[i]\nexcept IndexError:\n    pass\n", 6,
     "exception", ""),
    ("def find():\n    for n, level in enumerate(levels):\n        if level > 5:\n"
     "            return n\nfind()\n", 4, "return", "levels[4] is never reached."),
    ("for name in 'ab':\n    for level in levels:\n        if level == 4: break\n", 2, "break",
     "levels[2] to levels[4] are never reached."),
    # Headers that call, and ways out that are not plain.
    ("def every():\n    return levels\nfor level in every():\n    x += level\n", 5, "ran out", ""),
    ("for level in sorted(levels, key=lambda v: -v):\n    if level < 4:\n        break\n", 4, "break",
     "levels has 5 items; 1 of them is never reached."),
    ("for level in reversed(levels):\n    if level == 2:\n        break\n", 3, "break",
     "levels[0] to levels[1] are never reached."),
    ("for key in {3: 1, 4: 2}:\n    break\n", 1, "break", ""),
    ("prices = {'a': 1, 'b': 2}\nfor key in prices:\n    break\n", 1, "break",
     "prices has 2 items; 1 of them is never reached."),
    ("def going(n):\n    return n < 3\nwhile going(x):\n    x += 1\n", 3, "condition", ""),
    ("def two():\n    yield 1\n    yield 2\nfor n in two():\n    x += n\n", 2, "ran out", ""),
    ("class Down:\n    def __init__(self):\n        self.n = 3\n    def __iter__(self):\n"
     "        return self\n    def __next__(self):\n        self.n -= 1\n"
     "        if self.n < 0:\n            raise StopIteration\n        return self.n\n"
     "for n in Down():\n    x += n\n", 3, "ran out", ""),
    ("for level in levels:\n    try:\n        break\n    finally:\n        x = 1\n", 1, "break",
     "levels[1] to levels[4] are never reached."),
    ("def find():\n    for level in levels:\n        try:\n            return level\n"
     "        finally:\n            print(level)\nfind()\n", 1, "return",
     "levels[1] to levels[4] are never reached."),
    ("for level in levels:\n    try:\n        if level == 4:\n            raise ValueError\n"
     "    except ValueError:\n        break\n", 2, "break", "levels[2] to levels[4] are never"),
    ("for n in range(3):\n    for level in []:\n        pass\n", 0, "ran out", ""),
    ("def fail(n):\n    raise ValueError\ntry:\n    for n in levels:\n        fail(n)\n"
     "except ValueError:\n    pass\n", 1, "exception", "levels[1] to levels[4] are never reached."),
    ("def numbers():\n    n = 0\n    while True:\n        yield n\n        n += 1\n"
     "for n in numbers():\n    if n == 2: break\n", 3, "break", ""),
    ("import sys\ntry:\n    for level in levels:\n        sys.exit()\nexcept SystemExit:\n    pass\n",
     1, "exception", "ends: the program ends in it."),
    # What is used elsewhere, whole or by a number of its own, is not called unused.
    ("for day in range(1, 5):\n    if levels[day] > levels[0]:\n        x += 1\n", 4, "ran out", ""),
    ("for i in range(2):\n    x += levels[i]\n    if 7 in levels: x += 1\n", 2, "ran out", ""),
    ("def at(i):\n    return levels[i]\nfor i in range(2):\n    x += levels[i] + at(4)\n", 2,
     "ran out", ""),
    ("for i in range(2):\n    levels.append(levels[i])\n", 2, "ran out", ""),
]  # fmt: skip


@pytest.mark.parametrize(("loop", "rounds", "ending", "sentence"), AUDITS)
def test_a_loop_is_told_with_what_it_missed(tmp_path, loop, rounds, ending, sentence):
    story, source = told(tmp_path, LEVELS + loop)
    last = passes(story, loops(source)[-1])[-1]
    said = words(story, loops(source)[-1], last).sentences
    assert (last.rounds, last.ending) == (rounds, ending)
    assert sentence in " ".join(said)
    if not sentence:
        assert not any("never" in line for line in said)


def test_each_time_a_loop_is_entered_is_told_apart(tmp_path):
    story, source = told(
        tmp_path, "for a in range(3):\n    n = 0\n    while n < a:\n        n += 1\n"
    )
    outer, inner = loops(source)
    assert [p.rounds for p in passes(story, outer)] == [3]
    assert [p.rounds for p in passes(story, inner)] == [0, 1, 2]


def test_recursion_keeps_the_loops_of_its_calls_apart(tmp_path):
    source = "def climb(n):\n    for i in range(n):\n        climb(i)\n    return n\nclimb(3)\n"
    story, source_read = told(tmp_path, source)
    found = passes(story, loops(source_read)[0])
    assert sorted(p.rounds for p in found) == [0, 0, 0, 0, 1, 1, 2, 3]


def test_what_changed_in_each_round_is_a_row(tmp_path):
    story, source = told(tmp_path, "s = 0\nfor i in range(3):\n    s += i\n    if i: t = s\n")
    one = passes(story, loops(source)[0])[0]
    assert rounds_table(story, loops(source)[0], one) == (
        ["i", "s", "t"], [["0", "", ""], ["1", "1", "1"], ["2", "3", "3"]],
    )  # fmt: skip


def test_a_generator_that_is_asked_for_no_more_says_so(tmp_path):
    text = (
        "def numbers():\n    for n in range(9):\n        yield n\nfor n in numbers():\n    break\n"
    )
    story, source = told(tmp_path, text)
    loop = loops(source)[0]
    (one,) = passes(story, loop)
    assert one.ending == "waiting"
    assert (
        words(story, loop, one).sentences[0]
        == "It makes 1 round and ends: it was asked for no more."
    )


def test_what_is_called_in_a_condition_is_not_said_to_stay(tmp_path):
    from oddsum.trace.record import ENDLESS_STEPS

    text = "n = 0\ndef going():\n    return n >= 0\nwhile going():\n    n += 1\n"
    story, source = told(tmp_path, text, most_steps=ENDLESS_STEPS)
    (one,) = passes(story, loops(source)[0])
    assert one.ending == "cut" and len(words(story, loops(source)[0], one).sentences) == 1


def test_of_an_endless_loop_what_never_changes_is_named(tmp_path):
    path = "tide, rain, hours = 0, 1, 0\nwhile tide < 9 and rain:\n    hours = hours + 1\n"
    from conftest import OWN
    from oddsum.check.traced import trace_case
    from oddsum.model.case import Case, Plan, Settings
    from oddsum.source.program import read_source
    from oddsum.trace.ask import Story

    program = tmp_path / "tide.py"
    program.write_text(path)
    case = Case(number=1, name="one", stdin="", settings=Settings(timeout=0.2))
    trace, _ = trace_case(Plan(program=program, cases=(case,)), case, OWN)
    loop = loops(read_source(program, "tide.py"))[0]
    one = passes(Story(trace), loop)[0]
    assert one.ending == "cut"
    assert (
        "In its condition, tide and rain never change." in words(Story(trace), loop, one).sentences
    )


IN_A_ROUND = [
    ("def names():\n    return ['a', 'b', 'c']\nfor x in names():\n    n = x\n", 3, 4),
    ("def going(k):\n    return k < 3\nk = 0\nwhile going(k):\n    k += 1\n", 4, 5),
    ("def two():\n    yield 1\n    yield 2\nfor v in two():\n    w = v\n", 4, 5),
    ("for v in sorted([3, 1, 2], key=lambda t: -t):\n    w = v\n", 1, 2),
]  # fmt: skip


@pytest.mark.parametrize(("source", "header", "body"), IN_A_ROUND)
def test_a_breakpoint_in_a_round_stops_in_that_round(tmp_path, source, header, body):
    story, read = told(tmp_path, source)
    every = loops(read)
    (one,) = passes(story, every[-1])
    for line, wanted in ((header, 2), (body, 2), (header, 1), (body, 1)):
        stop = breakpoint_from("ferry.py", line, f"round {wanted}")
        (number,) = hits(story, stop, every)
        starts = one.starts[wanted - 1]
        end = one.starts[wanted] if wanted < one.rounds else one.ends
        if line == body:
            assert starts <= number < end and story.step(number).line == body
        else:  # the visit at which that round begins, whatever the header calls on the way
            assert number <= starts and not any(number < s < starts for s in one.starts)
    assert not hits(story, breakpoint_from("ferry.py", body, "round 9"), every)


def test_of_a_run_of_which_steps_were_let_go_no_more_is_said_than_is_known():
    text = (
        "def inner(n):\n    for k in range(n):\n        x = k\n    return n\n"
        "for a in range(60):\n    for b in range(3):\n        c = b\n    inner(2)\n"
    )
    code, recorder, wire = woven(text)
    exec(code, {"__name__": "__main__"})
    recorder.flush()
    decoder = Decoder(most=300, unpack=unpack)
    for message in wire.messages:
        decoder.take(message)
    steps = decoder.finish()
    assert decoder.left_out is not None
    story = Story(Trace(program=FILE, case="one", number=1, steps=steps, outcome="", complete=True))
    for one in story.passes:
        if one.whole:
            true = {2: 2, 5: 60, 6: 3}[one.header.line]
            assert (one.rounds, one.ending) == (true, "ran out")
        else:
            assert one.ending in ("lost", "ran out") and one.rounds < 60
    outer = next(p for p in story.passes if p.header.line == 5)
    said = words(story, loops(Source(FILE, text))[1], outer).sentences[0]
    assert said.startswith("It makes at least") and not outer.whole


def test_an_error_that_was_caught_in_a_loop_does_not_end_it(tmp_path):
    text = (
        "n = 0\nwhile True:\n    n += 1\n    try:\n        n / 0\n"
        "    except ZeroDivisionError:\n        m = n\n"
    )
    story, source = told(tmp_path, text, most_steps=500)
    (one,) = passes(story, loops(source)[0])
    assert one.ending == "cut" and one.rounds > 50


def test_eighty_thousand_rounds_are_counted_by_one_walk(tmp_path):
    text = "t = 0\nfor i in range(80_000):\n    t += i\n"
    story, source = told(tmp_path, text)
    (one,) = passes(story, loops(source)[0])
    assert (one.rounds, one.round_at(one.starts[41_999]), one.whole) == (80_000, 42_000, True)
