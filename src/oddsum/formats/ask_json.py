"""``oddsum ask --format json``."""

from __future__ import annotations

from oddsum.check.asked import Answer, Asked
from oddsum.formats.json_text import dump


def write(question: str, asked: Asked, answer: Answer) -> str:
    """The contract's object for a question."""
    trace = asked.story.trace
    return dump(
        {
            "program": trace.program,
            "case": trace.number if trace.number is not None else trace.case,
            "question": question,
            "answer": answer,
        }
    )
