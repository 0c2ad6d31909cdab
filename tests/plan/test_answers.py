"""Answers about values: kept beside the program, read again, told where they cannot be."""

from __future__ import annotations

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from conftest import examples
from oddsum.model.errors import PlanError
from oddsum.plan.answers import answers_file, read_answers, write_answers

TEXTS = st.text(st.characters(blacklist_categories=("Cs", "Cc")), min_size=1, max_size=40)


@settings(max_examples=examples(30))
@given(st.dictionaries(TEXTS, st.sampled_from(["right", "wrong", "unsure"]), max_size=6))
def test_what_was_said_is_read_as_it_was_written(tmp_path_factory, answers):
    program = tmp_path_factory.mktemp("answers") / "ferry.py"
    write_answers(program, answers)
    assert read_answers(program) == answers
    assert answers_file(program).exists() == bool(answers)


@pytest.mark.parametrize("text", ["right = 3", "right = [3]", "= =", b"\xff\xfe"])
def test_a_file_that_cannot_be_meant_is_told(tmp_path, text):
    program = tmp_path / "ferry.py"
    data = text if isinstance(text, bytes) else text.encode()
    answers_file(program).write_bytes(data)
    with pytest.raises(PlanError, match=r"answers|right"):
        read_answers(program)
