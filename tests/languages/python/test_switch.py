"""A line off and on: every character comes back, and what is off leaves a program."""

from __future__ import annotations

import ast
from pathlib import Path

import pytest

from oddsum.languages.python.switch import SwitchError, off_lines, switched
from oddsum.source.program import Source

ROOT = Path(__file__).parents[2]
PROGRAMS = [*sorted((ROOT / "src/oddsum/demo/ferry").glob("*.py")),
            *sorted((ROOT / "benchmarks/pinpoint/programs").rglob("*.py"))[:12]]  # fmt: skip
AWKWARD = '''\
@print
def f(a,
      b=(1,
         2)):
    """A text
over lines."""
    if a:  # a comment
        x = """two
lines"""
    elif b: y = 1; z = 2
    return a

while True: break
'''


def test_every_statement_goes_off_and_comes_back_whole():
    for text in (AWKWARD, *(p.read_text() for p in PROGRAMS)):
        for line in range(1, text.count("\n") + 2):
            try:
                off, is_off = switched(Source("x.py", text), line)
            except SwitchError:
                continue
            assert is_off and off != text
            ast.parse(off)  # the block it stood in is a block still
            (number,) = off_lines(off)
            assert switched(Source("x.py", off), number) == (text, False)


def test_a_statement_with_a_block_goes_as_a_whole():
    text, _ = switched(Source("x.py", "for i in x:\n    a = 1\n    b = 2\nc = 3\n"), 1)
    assert text.split("\n")[:4] == [
        "pass  # off: for i in x:", "# off:     a = 1", "# off:     b = 2", "c = 3",
    ]  # fmt: skip


@pytest.mark.parametrize(
    ("text", "line", "said"),
    [
        ("a = 1\n\nb = 2\n", 2, "no statement"),
        ("if a:\n    b = 1\nelse:\n    b = 2\n", 3, "begins in line 1"),
        ("if a:\n    # why\n    b = 1\n", 2, "is a comment"),
        ("if a\n", 1, "can be read again"),
        ("a = 1\n", 9, "no statement"),
    ],
)
def test_what_cannot_be_switched_alone_is_told(text, line, said):
    with pytest.raises(SwitchError, match=said):
        switched(Source("x.py", text), line)
