"""Questions about values: each answer narrows, and true answers lead to the fault."""

from __future__ import annotations

import math

import pytest

from asked import told
from conftest import FERRY, OWN
from oddsum.check.traced import trace_case
from oddsum.model.answer import AT_LINE, Said
from oddsum.model.case import Case
from oddsum.pinpoint.asking import inquire
from oddsum.plan.read import read_plan
from oddsum.trace.ask import Story


def demo(name: str, number: int) -> tuple[Story, Case]:
    path = FERRY / f"{name}.py"
    plan = read_plan(path.with_suffix(".cases.toml"), path)
    case = next(c for c in plan.cases if c.number == number)
    return Story(trace_case(plan, case, OWN)[0]), case


def asked_through(story: Story, case: Case, judge, most: int = 40):
    """Answer all questions as ``judge`` says; returns the end, and what was asked in order."""
    answers: dict[str, Said] = {}
    questions = []
    for _ in range(most):
        inquiry = inquire(story, case, answers)
        if inquiry.question is None:
            return inquiry.ends, questions, answers
        questions.append((inquiry.question.text, inquiry.left))
        answers[inquiry.question.text] = judge(inquiry.question.text)
    raise AssertionError(f"no end after {most} questions: {questions}")


def test_true_answers_lead_to_the_function_and_the_line_at_fault():
    story, case = demo("fares", 7)

    def judge(text: str) -> Said:
        if text.startswith("fare(age = 16) gave 3") or "Line 10" in text:
            return "wrong"
        return "right"

    ends, questions, _ = asked_through(story, case, judge)
    assert (ends.line, ends.function) == (10, "fare")
    assert "which you say is wrong" in ends.text
    assert questions[0][0].startswith("fare(")


def test_a_loop_that_ends_too_early_can_be_judged():
    story, case = demo("lanes", 4)
    ends, questions, _ = asked_through(
        story, case, lambda text: "wrong" if "ends its loop" in text else "right"
    )
    assert ends.line == 10
    assert all(text.startswith(AT_LINE) for text, _ in questions)  # its own result is known


MANY = """
def part(n):
    return n * 2 if n != 37 else 1


total = 0
for n in range(64):
    total += part(n)
print(total)
"""


def test_calls_are_halved_and_the_same_sentence_is_asked_once(tmp_path):
    story, _ = told(tmp_path, MANY, "")
    case = Case(number=1, name="one", stdin="", stdout="4032\n")
    ends, questions, _ = asked_through(
        story, case, lambda text: "wrong" if text == "part(n = 37) gave 1" else "right", most=200
    )
    assert (ends.function, ends.line) == ("part", 3)
    assert len(dict(questions)) == len(questions)


def test_not_sure_is_an_answer_and_comes_to_an_end():
    story, case = demo("fares", 7)
    ends, questions, _ = asked_through(story, case, lambda _: "unsure", most=100)
    assert ends is not None
    assert len(dict(questions)) == len(questions)


def test_steps_in_one_call_are_halved(tmp_path):
    lines = "".join(f"x{n} = {n}\n" for n in range(64)) + "print(x0)\n"
    story, _ = told(tmp_path, lines, "")
    case = Case(number=1, name="one", stdin="", stdout="1\n")

    def judge(text: str) -> Said:
        return "wrong" if int(text.split()[1]) >= 40 else "right"

    ends, questions, _ = asked_through(story, case, judge)
    assert ends.line == 40
    assert len(questions) <= math.ceil(math.log2(64)) + 1


@pytest.mark.parametrize("source", ["", "# nothing\n"])
def test_where_nothing_ran_nothing_is_asked(tmp_path, source):
    story, _ = told(tmp_path, source, "")
    inquiry = inquire(story, Case(number=1, name="one", stdin=""), {})
    assert (inquiry.question, inquiry.ends) == (None, None)
