"""The pens of a drawing program go and turn as those of the standard module do."""

from __future__ import annotations

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.conftest import OWN, check_one, other_interpreters

from oddsum.check.traced import trace_case
from oddsum.languages.python.interpreter import find_interpreter
from oddsum.languages.python.probe import pens
from oddsum.model.case import Case, Plan
from oddsum.model.outcome import Outcome
from oddsum.trace.ask import Story

steps = st.integers(-50, 50)
commands = st.lists(
    st.one_of(
        st.tuples(st.sampled_from(["forward", "back", "left", "right", "setheading", "setx",
                                   "sety"]), st.tuples(steps)),
        st.tuples(st.sampled_from(["goto", "setpos"]), st.tuples(steps, steps)),
        st.tuples(st.just("circle"), st.tuples(steps.filter(bool), steps)),
        st.tuples(st.just("home"), st.just(())),
    ),
    max_size=12,
)  # fmt: skip


@given(commands, steps, steps)
def test_every_way_ends_where_the_standard_module_s_does(orders, x, y):
    turtle = pytest.importorskip("turtle")  # its navigator needs no display
    theirs, ours = turtle.TNavigator(), pens.Turtle()
    ours.degrees()  # the unit is the module's, and may be another test's
    theirs.speed = lambda *_: 0
    theirs.undobuffer = None
    for name, values in orders:
        getattr(theirs, name)(*values)
        getattr(ours, name)(*values)
    assert ours.position() == pytest.approx(tuple(theirs.position()), abs=1e-6)
    turned = (ours.heading() - theirs.heading()) % 360
    assert min(turned, 360 - turned) < 1e-6
    assert ours.distance(x, y) == pytest.approx(theirs.distance(x, y), abs=1e-6)
    if theirs.distance(x, y) > 1e-3:
        apart = (ours.towards(x, y) - theirs.towards(x, y)) % 360
        assert min(apart, 360 - apart) < 1e-4


def test_the_shown_state_is_rounded_and_the_exact_one_kept():
    pen = pens.Turtle()
    for _ in range(3):
        pen.forward(10)
        pen.left(120)
    assert (pen.at, pen.facing) == ((0.0, 0.0), 0.0)
    assert vars(pen) == {"at": (0.0, 0.0), "facing": 0.0}
    pen.pu()
    pen.color("red", "blue")
    pen.degrees(4)
    pen.left(1)
    assert (pen.pen_is, pen.ink, pen.fillcolor(), pen.heading()) == ("up", "red", "blue", 1.0)
    pen.radians()
    assert pen.heading() == pytest.approx(math.pi / 2)
    twin = pen.clone()
    twin.fd(5)
    assert twin.at == (0.0, 5.0) and pen.at == (0.0, 0.0)


SQUARE = """
from turtle import *
def side(n):
    forward(n)
    right(90)
for _ in range(4):
    side(50)
mainloop()
"""
RIGHT = [[0, 0, 50, 0], [50, 0, 50, -50], [50, -50, 0, -50], [0, -50, 0, 0]]


def plan_of(path, lines) -> Plan:
    from oddsum.plan.pictures import read_draws

    return Plan(program=path, cases=(Case(number=1, name="one",
                                          draws=read_draws(lines, path.parent)),))  # fmt: skip


def test_a_turn_the_wrong_way_is_a_difference_like_any_other(program):
    path = program(SQUARE)
    assert check_one(path, draws=plan_of(path, RIGHT).cases[0].draws).outcome is Outcome.AGREES
    result = check_one(program(SQUARE.replace("right", "left")),
                       draws=plan_of(path, RIGHT).cases[0].draws)  # fmt: skip
    assert result.outcome is Outcome.DIFFERS
    assert result.difference.summary.startswith("line 2 of the drawing goes from 50, 0 to 50, 50")
    assert result.expected.split("\n")[1] == "from 50, 0 to 50, -50"


@pytest.mark.parametrize("python", [None, *other_interpreters()])
def test_the_trace_has_position_and_heading_on_every_version(program, python):
    path = program(SQUARE)
    interpreter = find_interpreter(path, python) if python else OWN
    plan = plan_of(path, RIGHT)
    trace, result = trace_case(plan, plan.cases[0], interpreter)
    story = Story(trace)
    told = [story.step(n).changes for n in story.changes_of("(pen)")]
    texts = [c.after.text for changes in told for c in changes if c.name == "(pen)"]
    assert texts[:3] == ["Turtle(at=(0.0, 0.0), facing=0.0)", "Turtle(at=(50.0, 0.0), facing=0.0)",
                         "Turtle(at=(50.0, 0.0), facing=270.0)"]  # fmt: skip
    assert len(texts) == 9 and len(result.run.drawn.lines) == 4


def test_a_pen_with_a_name_is_a_variable_and_no_other_is_shown(program):
    path = program("import turtle\npen = turtle.Turtle()\npen.forward(9)\nturtle.done()\n")
    plan = plan_of(path, [[0, 0, 9, 0]])
    trace, result = trace_case(plan, plan.cases[0], OWN)
    assert Story(trace).columns == ("pen",) and result.outcome is Outcome.AGREES


def test_a_program_s_own_module_of_that_name_is_its_own(program):
    program("def forward(n):\n    return n * 2\n", name="turtle.py")
    result = check_one(program("import turtle\nprint(turtle.forward(4))\n"), stdout="8\n")
    assert result.outcome is Outcome.AGREES and result.run.drawn is None


def test_what_waits_for_keys_and_what_asks_in_a_window_are_told_and_read(program):
    path = program(
        "import turtle\ns = turtle.Screen()\ns.onkey(print, 'Up')\ns.listen()\n"
        "n = int(s.numinput('Boat', 'How long?'))\nturtle.fd(n)\nprint(turtle.xcor(), s.bgcolor())\n"
    )
    result = check_one(path, stdin="30\n", stdout="30.0 white", prompts="without")
    assert result.outcome is Outcome.AGREES, result.difference
    assert any("keys, clicks" in r for r in result.run.remarks)


def test_what_the_call_draws_is_compared_not_what_was_drawn_before_it(program):
    path = program("import turtle\nturtle.fd(99)\n\ndef bar(p, n):\n    p.fd(n)\n")
    from oddsum.plan.pictures import read_draws

    draws = read_draws([[0, 0, 7, 0]], path.parent)
    before = "import turtle\np = turtle.Turtle()\np.lt(45)\np.rt(45)"
    assert check_one(path, before=before, call="bar(p, 7)", draws=draws).outcome is Outcome.AGREES
