"""How far in the next line stands, and comments made and taken back."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from oddsum.languages.python.indent import commented, next_indent


@pytest.mark.parametrize(
    ("line", "indent"),
    [
        ("total = 0", ""),
        ("    total = 0", "    "),
        ("for i in range(3):", "    "),
        ("    if a:  # why: so", "        "),
        ('    x = "a:"', "    "),
        ('    x = "# no comment:"', "    "),
        ("    return 1", ""),
        ("        break", "    "),
        ("    returned = 1", "    "),
        ("x = [1,", "    "),
        ("    y = f(a)[0]", "    "),
        ("\tif a:", "\t\t"),
        ("\t\tpass", "\t"),
        ("return", ""),
    ],
)
def test_the_next_line_goes_on_where_the_block_does(line, indent):
    assert next_indent(line) == indent


lines = st.lists(st.from_regex(r"( {0,8}[a-z=][a-z= ]{0,6})?", fullmatch=True), min_size=1)


@given(lines)
def test_comments_are_taken_back_to_the_letter(rows):
    made = commented(rows)
    if any(r.strip() for r in rows):
        assert all(not r.strip() or r.lstrip().startswith("# ") for r in made)
        assert commented(made) == rows
