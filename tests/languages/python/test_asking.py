"""Questions in the program's own language: what is answered, and what is refused with a reason."""

from __future__ import annotations

import pytest

from oddsum.languages.python.asking import Question, QuestionError, Unanswered

NAMES = {"total": 24, "xs": [3, 4], "name": "Kea", "fares": {"adult": 6}, "none": None}
ANSWERS = [
    ("total == 24", True),
    ("total > 20 and len(xs) == 2", True),
    ("xs[-1] + fares['adult']", 10),
    ("name[0] in 'KLM' or 1 / 0", True),
    ("min(xs) if xs else None", 3),
    ("sorted(xs)[0:1] == [3]", True),
    ("2 ** 3 * 'a' == 'aaaaaaaa'", True),
    ("none is None", True),
]
REFUSED = [
    ("total = 24", "it would change the program", "Two equal signs"),
    ("total ==", "cannot be read as Python", ""),
    ("", "Nothing is asked", ""),
    ("print(total)", "Calling print() could change", "abs"),
    ("xs.append(3)", "Calling xs.append() could change", ""),
    ("(y := 3)", "it would give a name a value", ""),
    ("lambda: 3", "it makes a function", ""),
    ("name.__class__", "part of Python itself", ""),
    ("[x for x in xs]", "only names, numbers", ""),
    ("__import__('os')", "could change", ""),
]
UNANSWERED = [
    ("later > 3", "later has no value here"),
    ("total / 0", "ZeroDivisionError"),
    ("xs[9]", "IndexError"),
    ("9 ** 9 ** 9", "too large"),
    ("'a' * 10 ** 9", "too long"),
    ("total.fare", "AttributeError"),
]


@pytest.mark.parametrize(("text", "answer"), ANSWERS)
def test_a_question_is_answered_as_python_would(text, answer):
    assert Question(text).ask(NAMES) == answer


@pytest.mark.parametrize(("text", "why", "hint"), REFUSED)
def test_what_could_change_the_program_is_refused_with_the_reason(text, why, hint):
    with pytest.raises(QuestionError) as refused:
        Question(text)
    assert why in refused.value.text and hint in str(refused.value)


@pytest.mark.parametrize(("text", "why"), UNANSWERED)
def test_what_has_no_answer_at_a_step_says_why(text, why):
    with pytest.raises(Unanswered, match=why):
        Question(text).ask(NAMES)


def test_a_fault_says_where_in_the_question_it_is():
    with pytest.raises(QuestionError) as refused:
        Question("total > 3 and print(1)")
    assert refused.value.column == 15
