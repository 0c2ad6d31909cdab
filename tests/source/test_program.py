"""Source files: read as the interpreter reads them, and edited to the character."""

from __future__ import annotations

import ast
import codecs
import io
import tokenize

import pytest
from hypothesis import given
from hypothesis import strategies as st

from conftest import FERRY
from oddsum.languages.outline import loop_around
from oddsum.languages.python.loops import loops
from oddsum.languages.python.outline import (
    asks_for_input,
    function_at,
    functions,
    own_files,
    statement_at,
)
from oddsum.languages.python.parsing import tree_of
from oddsum.model.errors import ProgramError
from oddsum.source.program import Source, decode_source, find_program, read_source


@pytest.mark.parametrize(
    ("data", "encoding", "newline"),
    [
        (b"x = 1\n", "utf-8", "\n"),
        (b"\xef\xbb\xbfx = 1\n", "utf-8-sig", "\n"),
        (b"x = 1\r\ny = 2\r\n", "utf-8", "\r\n"),
        (b"# coding: latin-1\nx = '\xe4'\n", "iso-8859-1", "\n"),
        (b"", "utf-8", "\n"),
        (b"x = 1", "utf-8", "\n"),
    ],
)
def test_a_file_is_read_and_written_back_byte_for_byte(data, encoding, newline):
    source = decode_source(data, "x.py")
    assert (source.encoding, source.newline) == (encoding, newline)
    assert source.encoded() == data


def test_a_file_that_is_no_text_is_told_with_its_line():
    with pytest.raises(ProgramError, match="line 2") as caught:
        decode_source(b"x = 1\ny = '\xe4'\n", "x.py")
    assert caught.value.line == 2


def test_what_is_no_program_is_told(tmp_path):
    (tmp_path / "fares.py").touch()
    (tmp_path / "fares.cases.toml").touch()
    for name, words in [
        ("", "is a folder"),
        ("fare.py", "Did you mean"),
        ("nothing.py", "There is no file"),
        ("fares.cases.toml", "is a plan"),
    ]:
        with pytest.raises(ProgramError, match=words):
            find_program(tmp_path / name)


NAMES = st.sampled_from(["ö", "漢", "x", "pier", "é"])


@given(st.lists(NAMES, min_size=1, max_size=6), st.integers(0, 3))
def test_places_of_the_parser_are_turned_into_characters(names, blanks):
    text = "\n" * blanks + "s = '" + "ß" * blanks + "' + " + " + ".join(names) + "\n"
    source = Source("x.py", text)
    for node in ast.walk(tree_of(source)):
        if isinstance(node, ast.Name):
            at = source.offset(node.lineno, node.col_offset)
            assert source.text.startswith(node.id, at)


def test_the_outline_of_a_program():
    source = read_source(FERRY / "fares.py")
    assert [f.name for f in functions(source)] == ["fare"]
    assert (function_at(source, 10), function_at(source, 17)) == ("fare", "")
    assert asks_for_input(source)
    assert loop_around(loops(source), [18, 22]).line == 17
    assert loop_around(loops(source), [15, 18]) is None
    assert statement_at(source, 20) == 20


def test_modules_that_a_program_imports_are_found_through_others(tmp_path):
    (tmp_path / "pack").mkdir()
    for name, text in {
        "main.py": "import tide\nfrom pack import deck",
        "tide.py": "import moon, math",
        "moon.py": "import tide",
        "pack/__init__.py": "",
        "pack/deck.py": "",
        "alone.py": "",
    }.items():
        (tmp_path / name).write_text(text)
    found = {str(p.relative_to(tmp_path)) for p in own_files(tmp_path / "main.py")}
    assert found == {"main.py", "tide.py", "moon.py", "pack/__init__.py", "pack/deck.py"}


HEADS = [
    b"# coding: latin-1\n", b"# -*- coding: utf-8 -*-\n", b"#!/bin/python\n# vim: set fileencoding=cp1252 :\n",
    b"\n# coding=ISO-8859-15\n", b"x = 1\n# coding: latin-1\n", b"\n\n# coding: latin-1\n",
    b"# coding: nobody-knows\n", b"# encoding: UTF_8\n", b"x = 1  # coding: latin-1\n", b"",
    b"# Coding latin-1\n", b"# coding: latin_1\r\nx = 1\r\n",
]  # fmt: skip


@pytest.mark.parametrize("head", HEADS)
@pytest.mark.parametrize("mark", [b"", b"\xef\xbb\xbf"])
def test_the_encoding_is_the_one_that_the_interpreter_would_take(head, mark):
    try:
        wanted, _ = tokenize.detect_encoding(io.BytesIO(mark + head).readline)
    except SyntaxError:  # the program cannot start; it can still be shown
        wanted = "utf-8-sig" if mark else "utf-8"
    found = decode_source(mark + head, "x.py").encoding
    assert codecs.lookup(found).name == codecs.lookup(wanted).name
